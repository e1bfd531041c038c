package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Hot and dead pixels, by hand on a made-up sensor. */
class BadPixelsTest {
    private static final int WIDTH = 160;
    private static final int HEIGHT = 100;
    private static final int HOT = 40 * WIDTH + 50;
    private static final int DEAD = 60 * WIDTH + 80;

    private static Frame frame(double level, double noise, int at, double value) {
        Random random = new Random(3);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level + noise * random.nextGaussian());
        }
        pixels[at] = (float) value;
        return new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY);
    }

    private static Masters masters() {
        return Masters.of(
                Optional.empty(), Optional.of(frame(500, 5, HOT, 3000)), Optional.of(frame(1, 0.002, DEAD, 0.02)));
    }

    /** The hot one, and the dead one, and no other of 16,000 with noise of their own. */
    @Test
    void hotAndDeadPixelsAreFound() {
        BadPixels bad = BadPixels.of(masters());
        assertThat(bad.count()).isEqualTo(2);
        assertThat(BadPixels.of(Masters.NONE).count()).isZero();
    }

    /** The middle value of the eight around; on a mosaic of the eight next but one, which have the same colour. */
    @Test
    void theirNeighboursStandInForThem() {
        BadPixels bad = BadPixels.of(masters());
        float[] values = new float[WIDTH * HEIGHT];
        for (int i = 0; i < values.length; i++) {
            values[i] = i % WIDTH % 2 == 0 && i / WIDTH % 2 == 0 ? 1000 : 200;
        }
        values[HOT] = 60_000;
        float[] grey = values.clone();
        bad.repair(grey, 0, false);
        assertThat(grey[HOT]).isEqualTo(200);
        bad.repair(values, 0, true);
        assertThat(values[HOT]).isEqualTo(1000);
        assertThat(values[HOT + 1]).as("others stay").isEqualTo(200);
    }

    /** A band that begins at any row is repaired at the same places; with no sound neighbour there is no value. */
    @Test
    void bandsAreRepairedWhereTheyLie() {
        BadPixels bad = BadPixels.of(masters());
        float[] band = new float[4 * WIDTH];
        java.util.Arrays.fill(band, 7);
        band[2 * WIDTH + 50] = 9999;
        bad.repair(band, 38, false);
        assertThat(band[2 * WIDTH + 50]).isEqualTo(7);
        float[] blind = new float[WIDTH];
        java.util.Arrays.fill(blind, Float.NaN);
        bad.repair(blind, 40, false);
        assertThat(blind[50]).isNaN();
    }

    /** What glows over a whole corner is no crowd of hot pixels: two in a hundred is the most, the brightest. */
    @Test
    void glowIsNotAllHot() {
        Frame dark = frame(500, 5, HOT, 3000);
        float[] glowing = dark.pixels().clone();
        for (int y = 0; y < 40; y++) {
            for (int x = 0; x < 60; x++) {
                glowing[y * WIDTH + x] += 2000 + x;
            }
        }
        BadPixels bad = BadPixels.of(Masters.of(
                Optional.empty(), Optional.of(new Frame(WIDTH, HEIGHT, glowing, Header.EMPTY)), Optional.empty()));
        assertThat(bad.count()).isLessThanOrEqualTo(WIDTH * HEIGHT / 50);
    }
}
