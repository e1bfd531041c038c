package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.when;

import app.ironside.Mocks;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.FocuserSpec;
import app.ironside.kit.GuiderSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MountSpec;
import app.ironside.kit.Optics;
import app.ironside.kit.Sensor;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The closed loop against a mount that is nothing but arithmetic: one star, known axes, a steady drift. */
class GuiderLoopTest {
    private static final Kit KIT = new Kit(
            "test",
            new Optics(90, 432, 0, 0.9, 3.6),
            new Sensor(100, 100, 6.3, 0.9, 500, 16, 4.5, 55_000, 0.75, 0.08, 0, 6, true, 1.5),
            List.of(new FilterSpec("L", 270, 550, 0)),
            new FocuserSpec(4, 5000, 2600, 16),
            new MountSpec(3, 3, 0.5, 4),
            new GuiderSpec(40, 160, 400, 300, 3.75));
    private static final double SCALE = 4.8344; // by hand: 206264.8 × 3.75e-3 / 160

    private Instant now = Instant.parse("2026-11-14T20:00:00Z");
    private double westArcsec;
    private double northArcsec;
    private double driftNorthArcsecPerS;
    private boolean cloud;
    private boolean stuck;

    private final NightClock clock = new NightClock() {
        @Override
        public Instant now() {
            return now;
        }

        @Override
        public void await(Duration time) {
            now = now.plus(time);
            northArcsec += driftNorthArcsecPerS * time.toMillis() / 1000.0;
        }
    };

    /** Guides at half the sidereal rate, at the equator, with no slack. */
    private final Mount mount = Mocks.device(Mount.class);

    private Operation pulse(Mount.Direction direction, Duration length) {
        double arcsec = stuck ? 0 : KIT.mount().guideArcsecPerSecond() * length.toMillis() / 1000.0;
        switch (direction) {
            case WEST -> westArcsec += arcsec;
            case EAST -> westArcsec -= arcsec;
            case NORTH -> northArcsec += arcsec;
            case SOUTH -> northArcsec -= arcsec;
        }
        return new Timed("mount", "the guide pulse", clock, length, () -> {});
    }

    /** A star of 2 px that stands 30° turned from the axes. */
    private final Camera camera = Mocks.device(Camera.class);

    private final Random random = new Random(1);

    private Frame seen(Camera.Exposure exposure) {
        Camera.Region region = exposure.region().orElse(new Camera.Region(0, 0, 400, 300));
        double c = Math.cos(Math.toRadians(30));
        double s = Math.sin(Math.toRadians(30));
        double x = 200 + (c * westArcsec - s * northArcsec) / SCALE - region.left();
        double y = 150 + (s * westArcsec + c * northArcsec) / SCALE - region.bottom();
        float[] pixels = new float[region.width() * region.height()];
        for (int i = 0; i < pixels.length; i++) {
            double d = Math.pow(i % region.width() + 1 - x, 2) + Math.pow(i / region.width() + 1 - y, 2);
            double light = cloud ? 0 : 3000 * Math.exp(-d / 2);
            pixels[i] = (float) (500 + light + 8 * random.nextGaussian());
        }
        return new Frame(region.width(), region.height(), pixels, Header.EMPTY);
    }

    @BeforeEach
    void aMountThatObeysAndACameraThatSees() throws Exception {
        when(mount.pulse(any(), any())).thenAnswer(call -> pulse(call.getArgument(0), call.getArgument(1)));
        when(camera.expose(any(), any())).thenAnswer(call -> {
            Camera.Exposure exposure = call.getArgument(1);
            clock.await(exposure.length());
            return seen(exposure);
        });
    }

    private final Guider guider = new Guider(
            mount,
            camera,
            clock,
            new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL),
            KIT,
            GuideRules.USUAL.withTunes(false));

    /** By hand: half the sidereal rate is 7.52″ a second on either axis, 90° apart, the first 30° from +x. */
    @Test
    void calibrationFindsRatesAndAngle() throws InterruptedException {
        GuideCalibration found = guider.calibrate(0).calibration();
        assertThat(found.westArcsecPerSecond()).isCloseTo(7.52, within(0.15));
        assertThat(found.northArcsecPerSecond()).isCloseTo(7.52, within(0.15));
        assertThat(found.axesAngleDeg()).isCloseTo(90, within(2.0));
        assertThat(Math.toDegrees(Math.atan2(found.westY(), found.westX()))).isCloseTo(30, within(2.0));
    }

    /** Law: a proportional loop of gain g holds a steady drift d a cycle at an offset d / g; here 0.2″ / 0.45 and the least move. */
    @Test
    void aSteadyDriftIsHeld() throws InterruptedException {
        guider.calibrate(0);
        guider.acquire();
        guider.takeSamples();
        driftNorthArcsecPerS = 0.1;
        for (int i = 0; i < 120; i++) {
            guider.cycle();
        }
        List<GuideSample> samples = guider.takeSamples();
        GuideStatistics late = GuideStatistics.of(samples.subList(40, samples.size()));
        assertThat(late.peakArcsec()).isLessThan(0.1 * 2.5 / 0.45 + 0.25 + 0.3);
        assertThat(Math.abs(late.decDriftArcsecPerMin())).isLessThan(0.1);
    }

    @Test
    void aDitherMovesTheLockAndSettles() throws InterruptedException {
        guider.calibrate(0);
        guider.acquire();
        double before = westArcsec;
        guider.dither(15, 0);
        assertThat(guider.settle()).isTrue();
        assertThat(westArcsec - before).isCloseTo(15, within(1.0));
    }

    @Test
    void aCloudIsCountedAndNothingIsChased() throws InterruptedException {
        guider.calibrate(0);
        guider.acquire();
        cloud = true;
        double west = westArcsec;
        double north = northArcsec;
        for (int i = 0; i < 5; i++) {
            guider.cycle();
        }
        assertThat(guider.lostInARow()).isEqualTo(5);
        assertThat(westArcsec).isEqualTo(west);
        assertThat(northArcsec).isEqualTo(north);
        cloud = false;
        guider.cycle();
        assertThat(guider.lostInARow()).isZero();
        cloud = true;
        assertThatThrownBy(guider::acquire)
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("none fit to guide on");
    }

    @Test
    void aMountThatIgnoresPulsesIsNamed() {
        stuck = true;
        assertThatThrownBy(() -> guider.calibrate(0))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("mount: the star moved only")
                .hasMessageContaining("Check the guide cable and that the mount is not parked.");
    }
}
