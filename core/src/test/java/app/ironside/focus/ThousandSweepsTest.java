package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** A thousand invented sweeps such as nights give: outliers, few stars, focus that drifts while it is swept, and hopeless ones. */
class ThousandSweepsTest {
    private static final double ZONE = 6.4;
    private static final double STEP = 43;

    private static List<FocusSample> sweep(Random random, double truth, double noise, int outliers, double drift) {
        List<FocusSample> samples = new ArrayList<>();
        int middle = (int) Math.round(truth + 60 * random.nextGaussian());
        for (int k = 4; k >= -4; k--) {
            double position = middle + STEP * k;
            // It drifts by so much from the first point to the last; the middle of the sweep counts.
            double best = truth + drift * k / 8;
            double size = Math.hypot(1.1, 0.02 * (position - best)) * (1 + noise * random.nextGaussian());
            samples.add(new FocusSample(position, size, noise * size));
        }
        for (int i = 0; i < outliers; i++) {
            int at = random.nextInt(samples.size());
            FocusSample s = samples.get(at);
            samples.set(at, new FocusSample(s.position(), s.size() * (1.5 + random.nextDouble()), s.sigma()));
        }
        return samples;
    }

    /** Of those called good, 99 of 100 lie within the critical zone of the truth, and two thirds within the error that they claim. */
    @Test
    void whatIsCalledGoodIsInFocus() {
        Random random = new Random(11);
        int good = 0;
        int inZone = 0;
        int within = 0;
        for (int i = 0; i < 1000; i++) {
            double truth = 2462 + 30 * random.nextGaussian();
            double noise = 0.01 + 0.03 * random.nextDouble();
            int outliers = random.nextDouble() < 0.2 ? 1 : 0;
            FocusVerdict verdict = FocusCurve.judge(
                    sweep(random, truth, noise, outliers, 2 * random.nextGaussian()), FocusMethod.HYPERBOLA);
            if (verdict.accepted() && verdict.positionSigma() <= ZONE) {
                good++;
                double off = Math.abs(verdict.bestPosition() - truth);
                inZone += off <= ZONE ? 1 : 0;
                within += off <= verdict.positionSigma() ? 1 : 0;
            }
        }
        assertThat(good).as("called good").isGreaterThan(900);
        assertThat(inZone).as("within the critical zone").isGreaterThanOrEqualTo((int) (0.99 * good));
        assertThat((double) within / good).as("within what they claim").isBetween(0.5, 0.9);
    }

    /** Flat, falling, and noise alone: none is called good. */
    @Test
    void hopelessOnesAreRefused() {
        Random random = new Random(12);
        int accepted = 0;
        for (int i = 0; i < 300; i++) {
            List<FocusSample> samples = new ArrayList<>();
            for (int k = 4; k >= -4; k--) {
                double size =
                        switch (i % 3) {
                            case 0 -> 2.0;
                            case 1 -> 4.0 + 0.4 * k;
                            default -> 2.0 + 1.5 * random.nextDouble();
                        };
                samples.add(new FocusSample(2460 + STEP * k, size * (1 + 0.03 * random.nextGaussian()), 0.03 * size));
            }
            FocusVerdict verdict = FocusCurve.judge(samples, FocusMethod.HYPERBOLA);
            accepted += verdict.accepted() && verdict.positionSigma() <= ZONE ? 1 : 0;
        }
        assertThat(accepted).isLessThanOrEqualTo(3);
    }
}
