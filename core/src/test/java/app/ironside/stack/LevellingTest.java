package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import app.ironside.solve.PlaneTransform;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Skies that lie aslant and curved are brought to one another, by hand. */
class LevellingTest {
    private static final int WIDTH = 240;
    private static final int HEIGHT = 160;

    private interface Sky {
        double at(double x, double y);
    }

    private static Frame frame(Sky sky) {
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) sky.at(i % WIDTH + 1, i / WIDTH + 1);
        }
        return new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY);
    }

    private static SkyGrid grid(Sky sky) {
        return SkyGrid.of(frame(sky), Optional.empty(), Mosaic.Plane.GREY);
    }

    /** A nebula that both show, half the light, and a sky that rises by 200 across and bends by 30: what is left is the reference. */
    @Test
    void aSlantingSkyBecomesTheReferences() {
        Sky nebula = (x, y) -> 400 * Math.exp(-(Math.pow(x - 120, 2) + Math.pow(y - 80, 2)) / 1800);
        Sky reference = (x, y) -> 500 + nebula.at(x, y);
        Sky sub = (x, y) -> 0.5 * nebula.at(x, y) + 800 + 200 * x / WIDTH + 30 * Math.pow(2 * y / HEIGHT - 1, 2);
        Levelling levelling = Levelling.of(
                grid(reference), PlaneTransform.IDENTITY, grid(sub), PlaneTransform.IDENTITY, 0.5, WIDTH, HEIGHT);
        float[] band = frame(sub).pixels().clone();
        for (int y = 1; y <= HEIGHT; y++) {
            levelling.apply(band, (y - 1) * WIDTH, y);
        }
        for (int at : new int[] {30 * WIDTH + 20, 80 * WIDTH + 120, 150 * WIDTH + 225, 10 * WIDTH + 200}) {
            assertThat((double) band[at])
                    .as("pixel %d", at)
                    .isCloseTo(reference.at(at % WIDTH + 1, at / WIDTH + 1), within(3.0));
        }
    }

    /** A cell that a bright star fills tells nothing of the sky. */
    @Test
    void aBrightStarDoesNotTiltTheSky() {
        Sky star = (x, y) -> Math.hypot(x - 60, y - 60) < 14 ? 20_000 : 0;
        Levelling levelling = Levelling.of(
                grid((x, y) -> 500),
                PlaneTransform.IDENTITY,
                grid((x, y) -> 700 + star.at(x, y)),
                PlaneTransform.IDENTITY,
                1,
                WIDTH,
                HEIGHT);
        assertThat(levelling.levelAdu()).isCloseTo(-200, within(0.5));
        float[] row = new float[WIDTH];
        java.util.Arrays.fill(row, 700);
        levelling.apply(row, 0, 5);
        assertThat(row[3]).isCloseTo(500, within(1f));
        assertThat(row[WIDTH - 3]).isCloseTo(500, within(1f));
    }

    /** A sub that shows a corner only is levelled, and not bent by so few cells. */
    @Test
    void littleInCommonIsOnlyLifted() {
        PlaneTransform away = new PlaneTransform(1, 0, 200, 0, 1, 130);
        Levelling levelling = Levelling.of(
                grid((x, y) -> 500), PlaneTransform.IDENTITY, grid((x, y) -> 300 + x), away, 1, WIDTH, HEIGHT);
        float[] row = new float[WIDTH];
        levelling.apply(row, 0, 5);
        assertThat(row[0]).isEqualTo(row[WIDTH - 1]);
    }

    /** Of a mosaic each colour has a level of its own. */
    @Test
    void coloursAreMeasuredApart() {
        Mosaic mosaic = new Mosaic("RGGB");
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = switch (mosaic.at(i % WIDTH, i / WIDTH)) {
                case RED -> 100;
                case GREEN -> 300;
                default -> 200;
            };
        }
        Frame frame = new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY);
        assertThat(SkyGrid.of(frame, Optional.of(mosaic), Mosaic.Plane.RED).middle())
                .isEqualTo(100);
        assertThat(SkyGrid.of(frame, Optional.of(mosaic), Mosaic.Plane.GREEN).middle())
                .isEqualTo(300);
        assertThat(SkyGrid.of(frame, Optional.of(mosaic), Mosaic.Plane.BLUE).middle())
                .isEqualTo(200);
    }
}
