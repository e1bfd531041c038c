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

    /** Law: over many noisy sweeps the true curve lies within twice the claimed error of the fitted one, in the middle and on both arms, in about 95 %. */
    @Test
    void theBandHoldsTheTrueCurve() {
        for (double position : new double[] {2300, 2380, 2462, 2500, 2640}) {
            double truth = Math.hypot(1.2, 0.02 * (position - 2462));
            int inside = 0;
            int n = 400;
            for (int seed = 0; seed < n; seed++) {
                List<FocusSample> sweep = sweep(0.03, seed);
                double fitted = FocusCurve.hyperbolaSize(FocusCurve.fitHyperbola(sweep), position);
                double sigma = FocusCurve.sigma(sweep).orElseThrow().applyAsDouble(position);
                inside += Math.abs(fitted - truth) <= 2 * sigma ? 1 : 0;
            }
            assertThat(inside / (double) n).as("at %.0f", position).isBetween(0.85, 0.99);
        }
        assertThat(FocusCurve.sigma(sweep(0.03, 1).subList(0, 3))).isEmpty();
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

    private static List<FocusSample> sweep(Random random, int points, double noise, int... bad) {
        List<FocusSample> samples = new ArrayList<>();
        double best = 2600 + 40 * (random.nextDouble() - 0.5);
        for (int i = 0; i < points; i++) {
            double position = 2400 + 400.0 * i / (points - 1);
            double size = Math.hypot(2.2, 0.045 * (position - best)) * (1 + noise * random.nextGaussian());
            int at = i;
            if (java.util.Arrays.stream(bad).anyMatch(b -> b == at)) {
                size *= random.nextBoolean() ? 1.6 + random.nextDouble() : 0.5;
            }
            samples.add(new FocusSample(position, size, 0.02 * size));
        }
        return samples;
    }

    /** A gust at one point or two costs the run nothing: they are named, and best focus is that of the others. */
    @Test
    void badPointsAreSetAside() {
        Random random = new Random(11);
        int named = 0;
        for (int k = 0; k < 200; k++) {
            int one = random.nextInt(9);
            int two = (one + 1 + random.nextInt(8)) % 9;
            List<FocusSample> samples = k % 2 == 0 ? sweep(random, 9, 0.015, one) : sweep(random, 9, 0.015, one, two);
            FocusCurve.Judged judged = FocusCurve.judged(samples, FocusMethod.HYPERBOLA);
            assertThat(judged.leftOut()).hasSizeLessThanOrEqualTo(2);
            boolean all = judged.leftOut().contains(samples.get(one))
                    && (k % 2 == 0 || judged.leftOut().contains(samples.get(two)));
            named += all ? 1 : 0;
            if (all) {
                assertThat(judged.verdict().accepted()).isTrue();
                assertThat(judged.verdict().bestPosition()).isBetween(2570.0, 2630.0);
                assertThat(judged.verdict().reason()).contains("Set aside: ");
            }
        }
        assertThat(named).isGreaterThan(180);
    }

    /** Nothing is set aside of a good sweep, and a hopeless one is not trimmed until it looks like one. */
    @Test
    void goodSweepsAreWholeAndHopelessOnesRefused() {
        Random random = new Random(12);
        int trimmed = 0;
        for (int k = 0; k < 300; k++) {
            trimmed += FocusCurve.judged(sweep(random, 9, 0.03), FocusMethod.HYPERBOLA)
                            .leftOut()
                            .isEmpty()
                    ? 0
                    : 1;
        }
        assertThat(trimmed).as("of 300 good sweeps").isLessThanOrEqualTo(6);
        int believed = 0;
        for (int k = 0; k < 300; k++) {
            List<FocusSample> chance = new ArrayList<>();
            for (int i = 0; i < 9; i++) {
                double size = 2 + 8 * random.nextDouble();
                chance.add(new FocusSample(2400 + 50 * i, size, 0.02 * size));
            }
            believed += FocusCurve.judge(chance, FocusMethod.HYPERBOLA).accepted() ? 1 : 0;
        }
        assertThat(believed).as("of 300 sweeps by chance").isLessThanOrEqualTo(6);
    }

    /** Rough sweeps of rehearsals that met the focus near their end: without the two sharpest points the others agree better, wrongly. */
    @Test
    void theSharpestPointsAreNeverSetAside() {
        double[] positions = {2792, 2744, 2696, 2648, 2600, 2552, 2504, 2456, 2408};
        double[][] sweeps = {
            {17.159, 14.416, 11.539, 8.981, 6.276, 4.009, 1.939, 1.242, 2.961},
            {18.09, 15.02, 11.74, 9.02, 6.25, 4.03, 1.96, 1.24, 2.94}
        };
        for (double[] sizes : sweeps) {
            List<FocusSample> sweep = new ArrayList<>();
            for (int i = 0; i < sizes.length; i++) {
                sweep.add(new FocusSample(positions[i], sizes[i], 0.02 * sizes[i]));
            }
            FocusCurve.Judged judged = FocusCurve.judged(sweep, FocusMethod.HYPERBOLA);
            assertThat(judged.leftOut()).isEmpty();
            assertThat(judged.verdict().bestPosition()).isCloseTo(2469, within(8.0));
        }
    }
}
