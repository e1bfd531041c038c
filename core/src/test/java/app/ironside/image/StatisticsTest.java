package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;

class StatisticsTest {
    private static float[] gaussian(int n, double mean, double sigma, long seed) {
        Random random = new Random(seed);
        float[] values = new float[n];
        for (int i = 0; i < n; i++) {
            values[i] = (float) (mean + sigma * random.nextGaussian());
        }
        return values;
    }

    @Test
    void mediansByHand() {
        assertThat(Statistics.median(new float[] {3, 1, 2})).isEqualTo(2);
        assertThat(Statistics.median(new float[] {4, 1, Float.NaN, 2, 3})).isEqualTo(2.5);
        assertThat(Statistics.median(new double[] {5})).isEqualTo(5);
    }

    /** Truth: 12 ADU put in, seed 1. Three standard errors: 3 × 1.17 σ / √n, the efficiency of the paper at robust(). */
    @Test
    void robustNoiseOfAGaussianIsItsSigma() {
        Statistics.Spread spread = Statistics.robust(gaussian(40_000, 1000, 12, 1));
        assertThat(spread.sigma()).isCloseTo(12, within(0.21));
        assertThat(spread.centre()).isCloseTo(1000, within(3 * 1.2533 * 12 / 200));
    }

    /** Truth: a hundredth of the samples are stars 5000 high; the clipped mean must not rise by more than its own error. */
    @Test
    void clippedMeanIgnoresOutliers() {
        float[] values = gaussian(10_000, 1000, 12, 2);
        for (int i = 0; i < 100; i++) {
            values[i * 100] += 5000;
        }
        assertThat(Statistics.clipped(values, 3, 0).centre()).isCloseTo(1000, within(0.5));
    }

    /** Law: the stretch never falls, goes from 0 to 1, and puts the sky where it promises. */
    @Test
    void stretchIsMonotonic() {
        Frame frame = new Frame(200, 200, gaussian(40_000, 1000, 12, 4), Header.EMPTY);
        Stretch stretch = Stretch.automatic(frame);
        double before = -1;
        for (double v = 900; v < 12_000; v += 10) {
            double now = stretch.apply(v);
            assertThat(now).isBetween(Math.max(0, before), 1.0);
            before = now;
        }
        assertThat(stretch.apply(1000)).isCloseTo(0.13, within(0.02));
        assertThat(stretch.apply(Double.NaN)).isZero();
    }

    @Test
    void anEvenFrameDoesNotBreakTheStretch() {
        Frame flat = new Frame(20, 20, new float[400], Header.EMPTY);
        assertThat(Stretch.automatic(flat).toBytes(flat)).hasSize(400);
    }
}
