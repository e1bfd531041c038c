package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Invented rings of light, hardly brighter than the noise in any one pixel. */
class SwollenStarsTest {
    private static final int WIDTH = 900;
    private static final int HEIGHT = 720;
    private static final double NOISE = 8;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL);

    private static float[] sky(long seed) {
        Random random = new Random(seed);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (1000 + NOISE * random.nextGaussian());
        }
        return pixels;
    }

    private static void addRing(float[] pixels, double x, double y, double radius, double inner, double level) {
        for (int row = 0; row < HEIGHT; row++) {
            for (int column = 0; column < WIDTH; column++) {
                double d = Math.hypot(column + 1 - x, row + 1 - y);
                if (d < radius && d > inner) {
                    pixels[row * WIDTH + column] += (float) level;
                }
            }
        }
    }

    /**
     * Geometry: an even ring from radius r to R holds half its light within √((R² + r²) / 2). In each pixel the light is {@code level}
     * against a noise of 8.
     */
    @ParameterizedTest
    @CsvSource({"12, 0, 20", "20, 0, 14", "20, 7, 14", "28, 9, 12"})
    void aFaintRingIsOneStar(double radius, double inner, double level) {
        float[] pixels = sky(3);
        for (int i = 0; i < 12; i++) {
            addRing(pixels, 110.3 + 220 * (i % 4), 130.6 + 225 * (i / 4), radius, inner, level);
        }
        StarField field = finder.find(new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY));
        double truth = Math.sqrt((radius * radius + inner * inner) / 2);
        assertThat(field.good()).hasSize(12);
        assertThat(field.medianHalfFluxRadiusPx().orElseThrow()).isCloseTo(truth, within(0.06 * truth));
        double light = level * Math.PI * (radius * radius - inner * inner);
        for (Star star : field.good()) {
            // The aperture is wide, and the background in it known to a twentieth of the noise.
            double aperture = Math.PI * Math.pow(4.5 * truth, 2);
            assertThat(star.fluxAdu()).isCloseTo(light, within(0.06 * NOISE * aperture));
            assertThat(Math.abs((star.x() - 110.3) / 220 - Math.rint((star.x() - 110.3) / 220)) * 220)
                    .as("centroid")
                    .isLessThan(1.5);
        }
        assertThat(field.noiseAdu()).isCloseTo(NOISE, within(0.8));
    }

    /** Sharp stars stay sharp, however many: a star to 300 pixels, which run together in a smaller picture. */
    @Test
    void aCrowdOfSharpStarsIsNotSwollen() {
        float[] pixels = sky(4);
        Random random = new Random(9);
        for (int i = 0; i < WIDTH * HEIGHT / 300; i++) {
            int x = 4 + random.nextInt(WIDTH - 8);
            int y = 4 + random.nextInt(HEIGHT - 8);
            double flux = 4000 * Math.pow(random.nextDouble(), -0.8);
            for (int dy = -4; dy <= 4; dy++) {
                for (int dx = -4; dx <= 4; dx++) {
                    pixels[(y + dy) * WIDTH + x + dx] +=
                            (float) (flux / (2 * Math.PI * 1.44) * Math.exp(-(dx * dx + dy * dy) / 2.88));
                }
            }
        }
        StarField field = finder.find(new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY));
        // A Gaussian of 1.2 px: half its light within 1.41 px; neighbours in the aperture widen it.
        assertThat(field.medianHalfFluxRadiusPx().orElseThrow()).isBetween(1.3, 1.8);
        assertThat(field.stars()).hasSizeGreaterThan(1200);
    }

    /** What is no number is left out of the smaller picture too. */
    @Test
    void aHoleInTheFrameDoesNoHarm() {
        float[] pixels = sky(5);
        for (int i = 0; i < 12; i++) {
            addRing(pixels, 110.3 + 220 * (i % 4), 130.6 + 225 * (i / 4), 20, 0, 14);
        }
        for (int row = 300; row < 420; row++) {
            java.util.Arrays.fill(pixels, row * WIDTH + 400, row * WIDTH + 500, Float.NaN);
        }
        StarField field = finder.find(new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY));
        assertThat(field.good()).hasSizeBetween(10, 12);
        assertThat(field.medianHalfFluxRadiusPx().orElseThrow()).isCloseTo(14.1, within(1.0));
    }
}
