package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class FocusCurveTest {
    private static List<FocusSample> sweep(double noise, long seed) {
        Random random = new Random(seed);
        List<FocusSample> samples = new ArrayList<>();
        for (int k = -4; k <= 4; k++) {
            double position = 2460 + 43 * k + 11;
            double size = Math.hypot(1.2, 0.02 * (position - 2462)) * (1 + noise * random.nextGaussian());
            samples.add(new FocusSample(position, size, 0.03 * size));
        }
        return samples;
    }

    /** Law: an exact hyperbola gives back its own three numbers. */
    @Test
    void exactHyperbola() {
        FocusVerdict verdict = FocusCurve.judge(sweep(0, 1), FocusMethod.HYPERBOLA);
        assertThat(verdict.bestPosition()).isCloseTo(2462, within(1e-4));
        assertThat(verdict.bestSize()).isCloseTo(1.2, within(1e-5));
        assertThat(verdict.rSquared()).isCloseTo(1, within(1e-9));
        assertThat(verdict.accepted()).isTrue();
    }

    /** Law: over many noisy sweeps the error of the position has the standard deviation that each sweep claims, within a third. */
    @Test
    void claimedErrorIsTheRealOne() {
        double squares = 0;
        double claimed = 0;
        int n = 200;
        for (int seed = 0; seed < n; seed++) {
            FocusVerdict verdict = FocusCurve.judge(sweep(0.03, seed), FocusMethod.HYPERBOLA);
            squares += Math.pow(verdict.bestPosition() - 2462, 2);
            claimed += verdict.positionSigma() / n;
        }
        double real = Math.sqrt(squares / n);
        assertThat(claimed / real).isBetween(0.67, 1.5);
    }

    /** The schools agree on a good curve to within half a step of the sweep. */
    @ParameterizedTest
    @EnumSource(FocusMethod.class)
    void allSchoolsFindAGoodCurve(FocusMethod method) {
        assertThat(FocusCurve.judge(sweep(0.01, 3), method).bestPosition()).isCloseTo(2462, within(21.5));
    }

    @Test
    void noCurveIsBelieved() {
        List<FocusSample> flat = new ArrayList<>();
        List<FocusSample> falling = new ArrayList<>();
        for (int k = 0; k < 9; k++) {
            flat.add(new FocusSample(k * 40, 2.0 + 0.001 * k, 0.1));
            falling.add(new FocusSample(k * 40, 9 - 0.8 * k, 0.1));
        }
        assertThat(FocusCurve.judge(flat, FocusMethod.PARABOLA).accepted()).isFalse();
        assertThat(FocusCurve.judge(flat, FocusMethod.HYPERBOLA).accepted()).isFalse();
        assertThat(FocusCurve.judge(falling, FocusMethod.HYPERBOLA).accepted()).isFalse();
        FocusVerdict outside = FocusCurve.judge(falling, FocusMethod.TREND_LINES);
        assertThat(outside.accepted()).isFalse();
        assertThat(outside.reason()).contains("sweep further");
    }

    @Test
    void scatterIsNotAccepted() {
        Random random = new Random(4);
        List<FocusSample> samples = new ArrayList<>();
        for (int k = 0; k < 9; k++) {
            samples.add(new FocusSample(k * 40, 2 + 2 * random.nextDouble(), 0.1));
        }
        FocusVerdict verdict = FocusCurve.judge(samples, FocusMethod.PARABOLA);
        assertThat(verdict.accepted()).isFalse();
        assertThat(verdict.rSquared()).isLessThan(FocusCurve.LEAST_R_SQUARED);
    }
}
