package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MoffatTest {
    /** By hand: α = 2, β = 2.5: 4 √(2^0.4 − 1) = 4 √0.31951 = 2.2610. */
    @Test
    void widthAtHalfHeight() {
        Moffat m = new Moffat(1000, 2, 2.5);
        assertThat(m.fwhmPx()).isCloseTo(2.2610, within(5e-5));
        // By definition.
        assertThat(m.at(m.fwhmPx() / 2)).isCloseTo(500, within(1e-9));
    }

    /** Law: points of a profile give that profile; with noise of a hundredth of the peak within a few per cent (seed 3). */
    @ParameterizedTest
    @CsvSource({"1.2, 2.5, 0", "2, 3, 0", "3.5, 4.7, 0", "2, 3, 10", "4, 2.2, 10"})
    void theFitFindsTheProfile(double alpha, double beta, double noise) {
        Random random = new Random(3);
        Moffat truth = new Moffat(1000, alpha, beta);
        float[] squared = new float[900];
        float[] values = new float[900];
        int n = 0;
        for (int r = -14; r <= 14; r++) {
            for (int c = -14; c <= 14; c++) {
                double d = Math.hypot(r - 0.3, c + 0.2);
                squared[n] = (float) (d * d);
                values[n++] = (float) (truth.at(d) + noise * random.nextGaussian());
            }
        }
        double hfr = alpha * Math.sqrt(Math.pow(2, 1 / (beta - 1)) - 1);
        Moffat found = Moffat.fit(squared, values, n, hfr).orElseThrow();
        assertThat(found.fwhmPx()).isCloseTo(truth.fwhmPx(), within(noise == 0 ? 1e-3 : 0.05 * truth.fwhmPx()));
        assertThat(found.beta()).isCloseTo(beta, within(noise == 0 ? 0.01 : 0.4));
        assertThat(found.peakAdu()).isCloseTo(1000, within(noise == 0 ? 1.0 : 40.0));
    }

    @Test
    void fewPixelsGiveNone() {
        assertThat(Moffat.fit(new float[8], new float[8], 8, 1)).isEmpty();
    }
}
