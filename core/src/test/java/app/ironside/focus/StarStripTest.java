package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Laws of a sweep's star beside itself. Frames of Gaussian stars that drift, with noise of seed 4. */
class StarStripTest {
    private static final int WIDTH = 240;
    private static final int HEIGHT = 200;

    /** The star in the middle, three brighter ones about it, one at the edge. */
    private static final double[][] STARS = {
        {121, 99, 40_000},
        {60, 60, 90_000},
        {180, 60, 80_000},
        {60, 150, 70_000},
        {10, 100, 60_000},
        {170, 150, 30_000},
        {100, 170, 25_000}
    };

    private static FocusRun.Shot shot(int position, double driftX, double driftY) {
        double sigma = Math.hypot(1.3, 0.012 * (position - 2462));
        Random random = new Random(4L + position);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (500 + 3 * random.nextGaussian());
        }
        for (double[] star : STARS) {
            for (int y = 1; y <= HEIGHT; y++) {
                for (int x = 1; x <= WIDTH; x++) {
                    double dx = x - star[0] - driftX;
                    double dy = y - star[1] - driftY;
                    pixels[(y - 1) * WIDTH + x - 1] += (float) (star[2]
                            / (2 * Math.PI * sigma * sigma)
                            * Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma)));
                }
            }
        }
        Frame frame = new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY);
        return new FocusRun.Shot(position, frame, new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL).find(frame));
    }

    private static StarStrip strip() {
        StarStrip.Gathering gathering = new StarStrip.Gathering();
        for (int k = 4; k >= -4; k--) {
            // Four pixels a frame: at the end it is 32 from where it was chosen.
            gathering.add(shot(2462 + 60 * k, 4.0 * (4 - k) - 10, -2.0 * (4 - k) + 5));
        }
        return gathering.strip().orElseThrow();
    }

    /** Taken from far out to far in, shown from in to out, each with the star in its middle though it drifts. */
    @Test
    void theStarStandsInTheMiddleOfEachSquare() {
        StarStrip strip = strip();
        assertThat(strip.positions())
                .isEqualTo(java.util.stream.IntStream.rangeClosed(-4, 4)
                        .mapToObj(k -> 2462 + 60 * k)
                        .toList());
        assertThat(strip.frame().width()).isEqualTo(9 * StarStrip.SIDE);
        for (int square = 0; square < 9; square++) {
            double[] moment = new double[3];
            for (int y = 0; y < StarStrip.SIDE; y++) {
                for (int x = 0; x < StarStrip.SIDE; x++) {
                    double light = Math.max(0, strip.frame().at(square * StarStrip.SIDE + x + 1, y + 1) - 515);
                    moment[0] += light;
                    moment[1] += light * x;
                    moment[2] += light * y;
                }
            }
            assertThat(moment[1] / moment[0]).as("square %d", square).isCloseTo(StarStrip.SIDE / 2.0, within(1.5));
            assertThat(moment[2] / moment[0]).as("square %d", square).isCloseTo(StarStrip.SIDE / 2.0, within(1.5));
        }
    }

    /** One stretch for all: the sharp one is white where the swollen ones are grey, and the sky is black. */
    @Test
    void oneStretchForAll() {
        StarStrip strip = strip();
        int middle = StarStrip.SIDE / 2 + 1;
        double sharp = strip.stretch().apply(strip.frame().at(4 * StarStrip.SIDE + middle, middle));
        double swollen = strip.stretch().apply(strip.frame().at(middle, middle));
        assertThat(sharp).isGreaterThan(0.9);
        assertThat(swollen).isBetween(0.2, 0.85);
        assertThat(strip.stretch().apply(500)).isLessThan(0.02);
    }

    @Test
    void withoutStarsThereIsNone() {
        StarStrip.Gathering gathering = new StarStrip.Gathering();
        Frame empty = new Frame(WIDTH, HEIGHT, new float[WIDTH * HEIGHT], Header.EMPTY);
        for (int k = 0; k < 5; k++) {
            gathering.add(new FocusRun.Shot(
                    2400 + k, empty, new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL).find(empty)));
        }
        assertThat(gathering.strip()).isEmpty();
    }
}
