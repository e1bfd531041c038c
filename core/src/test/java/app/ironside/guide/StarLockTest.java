package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.when;

import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.GuiderSpec;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Guide frames of a handful of stars, drawn here: what is held on to when they move, dim, jump and go. */
class StarLockTest {
    private static final int WIDTH = 400;
    private static final int HEIGHT = 300;

    /** x, y and peak of each star where the frame is not shifted. */
    private final List<double[]> stars = new ArrayList<>(List.of(
            new double[] {200, 150, 6000},
            new double[] {120, 90, 2500},
            new double[] {300, 210, 2200},
            new double[] {260, 80, 1800},
            new double[] {90, 220, 1600}));

    private final Random random = new Random(7);
    private double shiftX;
    private double shiftY;
    private double light = 1;
    private final Camera camera = Mocks.device(Camera.class);
    private StarLock lock;

    @BeforeEach
    void aCameraThatSees() throws Exception {
        when(camera.expose(any(), any())).thenAnswer(call -> seen(call.getArgument(1)));
        lock = new StarLock(
                camera,
                new JumpingClock("2026-11-14T20:00:00Z"),
                new StarFinder(DetectSettings.DEFAULT.withKernelSigmaPx(0.9), Workers.SERIAL),
                new GuiderSpec(40, 160, WIDTH, HEIGHT, 3.75),
                () -> Duration.ofSeconds(2));
    }

    private Frame seen(Camera.Exposure exposure) {
        Camera.Region part = exposure.region().orElse(new Camera.Region(0, 0, WIDTH, HEIGHT));
        float[] pixels = new float[part.width() * part.height()];
        for (int i = 0; i < pixels.length; i++) {
            double x = i % part.width() + 1 + part.left();
            double y = i / part.width() + 1 + part.bottom();
            double sum = 500 + 8 * random.nextGaussian();
            for (double[] s : stars) {
                double d = Math.pow(x - s[0] - shiftX, 2) + Math.pow(y - s[1] - shiftY, 2);
                sum += d > 200 ? 0 : light * s[2] * Math.exp(-d / 2.4);
            }
            pixels[i] = (float) sum;
        }
        return new Frame(part.width(), part.height(), pixels, Header.EMPTY);
    }

    private void shift(double x, double y) {
        shiftX = x;
        shiftY = y;
    }

    @Test
    void manyStarsAreFollowedTogether() throws Exception {
        lock.many(true);
        lock.acquire(Optional.empty());
        shift(1.3, -0.7);
        assertThat(lock.locate()).isTrue();
        assertThat(lock.seen()).isEqualTo(5);
        assertThat(lock.x()).isCloseTo(201.3, within(0.05));
        assertThat(lock.y()).isCloseTo(149.3, within(0.05));
    }

    /** One that strays from the others is left out; four hold on when the brightest goes behind a wire. */
    @Test
    void oneThatStraysPullsNothing() throws Exception {
        lock.many(true);
        lock.acquire(Optional.empty());
        stars.set(0, new double[] {203, 152, 6000});
        assertThat(lock.locate()).isTrue();
        assertThat(lock.seen()).isEqualTo(4);
        assertThat(lock.x()).isCloseTo(200, within(0.06));
        stars.remove(0);
        shift(0.5, 0.5);
        assertThat(lock.locate()).isTrue();
        assertThat(lock.x()).isCloseTo(200.5, within(0.08));
    }

    /** A brighter neighbour in the window is another star; the one that is guided on is lost, not exchanged. */
    @Test
    void anotherBrightnessIsAnotherStar() throws Exception {
        lock.acquire(Optional.empty());
        stars.set(0, new double[] {214, 150, 22_000});
        assertThat(lock.locate()).isFalse();
        assertThat(lock.lostInARow()).isEqualTo(1);
        stars.set(0, new double[] {200, 150, 6000});
        assertThat(lock.locate()).isTrue();
        assertThat(lock.x()).isCloseTo(200, within(0.05));
    }

    /** A cloud takes nine tenths of the light: it is the same star where it was. */
    @Test
    void aCloudIsNoOtherStar() throws Exception {
        lock.acquire(Optional.empty());
        light = 0.1;
        assertThat(lock.locate()).isTrue();
        assertThat(lock.x()).isCloseTo(200, within(0.3));
    }

    /** After a knock of sixty pixels the pattern is found again, also without the star itself being in the window. */
    @Test
    void aKnockIsFoundAgainByThePattern() throws Exception {
        lock.acquire(Optional.empty());
        shift(44, -38);
        int tries = 0;
        while (!lock.locate() && tries < 6) {
            tries++;
        }
        assertThat(tries).isEqualTo(3);
        assertThat(lock.x()).isCloseTo(244, within(0.1));
        assertThat(lock.y()).isCloseTo(112, within(0.1));
    }

    /** A person chooses another; a place that was shunned is not taken. */
    @Test
    void aStarIsChosenOrShunned() throws Exception {
        assertThat(lock.acquire(Optional.of(new double[] {125, 95})).x()).isCloseTo(120, within(0.1));
        lock.shun(200, 150);
        assertThat(lock.acquire(Optional.empty()).x()).isNotCloseTo(200, within(5.0));
    }
}
