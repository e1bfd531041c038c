package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The drift that guiding hides comes out of its pulses again. */
class DeclinationDriftTest {
    private static final Instant START = Instant.parse("2026-11-14T22:00:00Z");
    private static final double RATE = 7.5;

    /** A star that drifts, held by a loop that corrects 0.6 of what it sees. */
    private static List<GuideSample> held(Random random, double starNorthArcsecPerMinute, double airArcsec, int n) {
        List<GuideSample> samples = new ArrayList<>();
        double telescope = 0;
        for (int i = 0; i < n; i++) {
            double star = starNorthArcsecPerMinute * i * 2.5 / 60;
            double seen = telescope - star + airArcsec * random.nextGaussian();
            double pulseMs = -0.6 * seen / RATE * 1000;
            samples.add(new GuideSample(START.plusMillis(2500L * i), 0, seen, 0, pulseMs, 40));
            telescope += pulseMs / 1000 * RATE;
        }
        return samples;
    }

    @Test
    void whatWasCorrectedIsAddedAgain() {
        for (double drift : new double[] {-2, 0, 0.3, 3}) {
            DeclinationDrift found =
                    DeclinationDrift.of(held(new Random(1), drift, 0, 80), RATE).orElseThrow();
            assertThat(found.northArcsecPerMinute()).isCloseTo(drift, within(1e-6));
        }
    }

    /** Two hundred subs of three minutes: the error told covers what is wrong in two of three cases, or more, since it is told large. */
    @Test
    void itsErrorIsHonest() {
        Random random = new Random(7);
        int inside = 0;
        for (int k = 0; k < 200; k++) {
            DeclinationDrift found =
                    DeclinationDrift.of(held(random, 0.8, 0.5, 72), RATE).orElseThrow();
            inside += Math.abs(found.northArcsecPerMinute() - 0.8) < found.sigmaArcsecPerMinute() ? 1 : 0;
            assertThat(found.sigmaArcsecPerMinute()).isLessThan(0.4);
        }
        assertThat(inside).isGreaterThan(136);
    }

    @Test
    void aFewExposuresTellNothing() {
        assertThat(DeclinationDrift.of(held(new Random(1), 1, 0.5, 11), RATE)).isEmpty();
    }
}
