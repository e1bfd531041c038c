package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Laws of the simulated light: nothing is lost, nothing is added, and noise is what it claims to be. */
class LightTest {
    private static final List<StarImage.Stray> STILL = List.of(new StarImage.Stray(0, 0));

    private static double total(StarImage image, double x, double y) {
        double sum = 0;
        for (int row = -image.reachPx() - 1; row <= image.reachPx() + 1; row++) {
            for (int column = -image.reachPx() - 1; column <= image.reachPx() + 1; column++) {
                sum += image.inPixel(column - x, row - y);
            }
        }
        return sum;
    }

    @ParameterizedTest
    @CsvSource({"1.6, 0, 0.0, 0.0", "1.6, 0, 0.5, 0.25", "2.2, 3, 0.1, 0.9", "1.8, 12, 0.3, 0.3"})
    void aStarsLightIsOneWhereverItStands(double fwhm, double defocus, double x, double y) {
        assertThat(total(new StarImage(fwhm, defocus, 0.3, STILL), x, y)).isCloseTo(1, within(0.004));
    }

    /** Law: half of the peak at half the width (pixels widen a star of 6 px by less than 1 %). */
    @Test
    void theProfileHasItsWidth() {
        StarImage image = new StarImage(6, 0, 0, STILL);
        assertThat(image.inPixel(3, 0) / image.inPixel(0, 0)).isCloseTo(0.5f, within(0.02f));
    }

    /** By hand: out of focus by a disc of 10 px without obstruction the middle is as bright as half-way out. */
    @Test
    void defocusIsAnEvenDisc() {
        StarImage disc = new StarImage(1.6, 10, 0, STILL);
        assertThat(disc.inPixel(5, 0)).isCloseTo(disc.inPixel(0, 5), within(0.0012f));
        assertThat(disc.inPixel(14, 0)).isLessThan(0.1f * disc.inPixel(5, 0));
        StarImage ring = new StarImage(1.6, 10, 0.5, STILL);
        assertThat(ring.inPixel(0, 0)).isLessThan(0.4f * ring.inPixel(7, 0));
    }

    @Test
    void aStrayedMountTrailsItsStars() {
        StarImage trail = new StarImage(1.6, 0, 0, List.of(new StarImage.Stray(-2, 0), new StarImage.Stray(2, 0)));
        assertThat(trail.inPixel(2, 0)).isGreaterThan(trail.inPixel(0, 0)).isGreaterThan(5 * trail.inPixel(0, 2));
    }

    /** Law: mean and variance of a Poisson number are its mean; tolerance four standard errors of 100,000 numbers. */
    @ParameterizedTest
    @ValueSource(doubles = {0.3, 4, 19, 21, 900})
    void photonsArePoisson(double mean) {
        Noise noise = Noise.of(5, 1);
        int n = 100_000;
        double sum = 0;
        double squares = 0;
        for (int i = 0; i < n; i++) {
            double v = noise.poisson((float) mean);
            sum += v;
            squares += v * v;
        }
        double found = sum / n;
        double variance = squares / n - found * found;
        assertThat(found).isCloseTo(mean, within(4 * Math.sqrt(mean / n)));
        assertThat(variance / mean).isCloseTo(1, within(4 * Math.sqrt((2 + 1 / mean) / n) + 1 / (12 * mean * 3)));
    }

    /** Law: normal numbers have mean 0, variance 1 and a kurtosis of 3. */
    @Test
    void gaussiansAreGaussian() {
        Noise noise = Noise.of(6, 2);
        int n = 200_000;
        double mean = 0;
        double squares = 0;
        double fourth = 0;
        for (int i = 0; i < n; i++) {
            double v = noise.gaussian();
            mean += v / n;
            squares += v * v / n;
            fourth += v * v * v * v / n;
        }
        assertThat(mean).isCloseTo(0, within(4 / Math.sqrt(n)));
        assertThat(squares).isCloseTo(1, within(4 * Math.sqrt(2.0 / n)));
        assertThat(fourth).isCloseTo(3, within(0.12));
    }

    /** By hand: the counts rise by 10^0.42 a magnitude, later by 10^0.34. */
    @Test
    void starCountsRiseAsTheyShould() {
        assertThat(SkySource.countsPerSquareDegree(11) / SkySource.countsPerSquareDegree(10))
                .isCloseTo(Math.pow(10, 0.42), within(1e-9));
        assertThat(SkySource.countsPerSquareDegree(16) / SkySource.countsPerSquareDegree(15))
                .isCloseTo(Math.pow(10, 0.34), within(1e-9));
    }
}
