package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Arrays;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import org.junit.jupiter.api.Test;

/** Skies of known brightness with noise, stars and holes. */
class BackgroundMapTest {
    private static final int WIDTH = 640;
    private static final int HEIGHT = 512;
    private static final double NOISE = 12;

    private static float[] sky(IntToDoubleFunction level) {
        Random random = new Random(2);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level.applyAsDouble(i) + NOISE * random.nextGaussian());
        }
        return pixels;
    }

    private static BackgroundMap of(float[] pixels) {
        return BackgroundMap.of(new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY), Workers.SERIAL);
    }

    private static double worstError(BackgroundMap map, IntToDoubleFunction level, int margin) {
        float[] row = new float[WIDTH];
        double worst = 0;
        for (int y = margin; y < HEIGHT - margin; y++) {
            map.levelOfRow(y, WIDTH, HEIGHT, row);
            for (int x = margin; x < WIDTH - margin; x++) {
                worst = Math.max(worst, Math.abs(row[x] - level.applyAsDouble(y * WIDTH + x)));
            }
        }
        return worst;
    }

    /** Law: the median of n values errs by 1.25 σ / √n; the mesh has 80 cells of some thousand. */
    @Test
    void anEvenSky() {
        BackgroundMap map = of(sky(i -> 900));
        assertThat(map.level()).isCloseTo(900, within(0.3));
        assertThat(map.noise()).isCloseTo(NOISE, within(0.3));
        assertThat(worstError(map, i -> 900, 0)).isLessThan(5 * 1.25 * NOISE / Math.sqrt(1000) * 2);
    }

    /** A slope is followed to the edges. */
    @Test
    void aSlope() {
        IntToDoubleFunction slope = i -> 900 + 0.4 * (i % WIDTH) - 0.2 * (i / WIDTH);
        assertThat(worstError(of(sky(slope)), slope, 0)).isLessThan(0.7 * NOISE);
    }

    /** Vignetting: the corners get 70 % of the middle's light. */
    @Test
    void aDarkenedCorner() {
        double corner = Math.hypot(WIDTH, HEIGHT) / 2;
        IntToDoubleFunction dish = i -> {
            double r = Math.hypot(i % WIDTH - WIDTH / 2.0, i / WIDTH - HEIGHT / 2.0) / corner;
            return 1000 * (1 - 0.3 * r * r);
        };
        BackgroundMap map = of(sky(dish));
        assertThat(worstError(map, dish, 32)).isLessThan(0.6 * NOISE);
        // The trend of a smaller picture is this dish, which is a quadratic surface.
        float[] trend = map.trend(WIDTH / 4, HEIGHT / 4);
        double middle = trend[HEIGHT / 8 * (WIDTH / 4) + WIDTH / 8];
        assertThat(middle - trend[0]).isCloseTo(300, within(8.0));
    }

    /** A star to every 800 pixels lifts the level by less than a tenth of the noise. */
    @Test
    void starsAreNotSky() {
        float[] pixels = sky(i -> 900);
        Random random = new Random(5);
        for (int k = 0; k < WIDTH * HEIGHT / 800; k++) {
            int x = 6 + random.nextInt(WIDTH - 12);
            int y = 6 + random.nextInt(HEIGHT - 12);
            double peak = 100 * Math.pow(random.nextDouble(), -0.7);
            for (int dy = -6; dy <= 6; dy++) {
                for (int dx = -6; dx <= 6; dx++) {
                    pixels[(y + dy) * WIDTH + x + dx] += (float) (peak * Math.exp(-(dx * dx + dy * dy) / 4.5));
                }
            }
        }
        BackgroundMap map = of(pixels);
        assertThat(map.level()).isCloseTo(900, within(0.1 * NOISE));
        assertThat(map.noise()).isCloseTo(NOISE, within(0.1 * NOISE));
    }

    /** A galaxy larger than a cell does not become sky. */
    @Test
    void aLargeBrightThingIsNotSky() {
        float[] pixels = sky(i -> 900);
        for (int i = 0; i < pixels.length; i++) {
            double r = Math.hypot(i % WIDTH - 320, i / WIDTH - 256);
            pixels[i] += r < 45 ? 700f : 0f;
        }
        float[] row = new float[WIDTH];
        of(pixels).levelOfRow(256, WIDTH, HEIGHT, row);
        assertThat(row[320]).isLessThan(900 + 3 * (float) NOISE);
    }

    @Test
    void whereNothingWasMeasuredTheRestStandsIn() {
        float[] pixels = sky(i -> 900);
        for (int y = 0; y < 200; y++) {
            Arrays.fill(pixels, y * WIDTH, y * WIDTH + 200, Float.NaN);
        }
        BackgroundMap map = of(pixels);
        assertThat(worstError(map, i -> 900, 0)).isLessThan(0.5 * NOISE);
        Arrays.fill(pixels, Float.NaN);
        assertThat(of(pixels).level()).as("a frame of nothing").isZero();
    }
}
