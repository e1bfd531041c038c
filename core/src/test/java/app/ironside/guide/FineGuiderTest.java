package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.Kit;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.time.Duration;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.mockito.Mockito;

/** Calibration on kits of any scale, with slack in declination, against a mount that is nothing but arithmetic. */
class FineGuiderTest {
    private final Random random = new Random(4);
    private double westArcsec;
    private double northArcsec;
    private double slackArcsec;
    private double slackHeld;
    private double declinationDeg;
    private double rateFactor = 1;
    private double cloudAfterArcsec = Double.POSITIVE_INFINITY;

    private Guider guider(Kit kit) throws InterruptedException {
        JumpingClock clock = new JumpingClock("2026-11-14T20:00:00Z");
        Mount mount = Mocks.device(Mount.class);
        Mockito.doAnswer(call -> {
                    Mount.Direction direction = call.getArgument(0);
                    Duration length = call.getArgument(1);
                    move(direction, rateFactor * kit.mount().guideArcsecPerSecond() * length.toMillis() / 1000.0);
                    return null;
                })
                .when(mount)
                .pulse(Mockito.any(), Mockito.any());
        Camera camera = Mocks.device(Camera.class);
        Mockito.when(camera.expose(Mockito.any(), Mockito.any())).thenAnswer(call -> frame(kit, call.getArgument(1)));
        StarFinder finder = new StarFinder(DetectSettings.DEFAULT.withKernelSigmaPx(0.9), Workers.SERIAL);
        return new Guider(mount, camera, clock, finder, kit, GuideRules.USUAL);
    }

    private void move(Mount.Direction direction, double arcsec) {
        switch (direction) {
            case WEST -> westArcsec += arcsec * Math.cos(Math.toRadians(declinationDeg));
            case EAST -> westArcsec -= arcsec * Math.cos(Math.toRadians(declinationDeg));
            case NORTH -> north(arcsec);
            case SOUTH -> north(-arcsec);
        }
    }

    private void north(double arcsec) {
        double wanted = slackHeld + arcsec;
        slackHeld = Math.max(0, Math.min(slackArcsec, wanted));
        northArcsec += wanted - slackHeld;
    }

    /** A star that is 3″ wide, turned by 30° from the axes; behind cloud it is gone. */
    private Frame frame(Kit kit, Camera.Exposure exposure) {
        double scale = kit.guider().arcsecPerPixel();
        Camera.Region region = exposure.region()
                .orElse(new Camera.Region(
                        0, 0, kit.guider().widthPx(), kit.guider().heightPx()));
        double c = Math.cos(Math.toRadians(30));
        double s = Math.sin(Math.toRadians(30));
        double x = kit.guider().widthPx() / 2.0 + (c * westArcsec - s * northArcsec) / scale - region.left();
        double y = kit.guider().heightPx() / 2.0 + (s * westArcsec + c * northArcsec) / scale - region.bottom();
        double sigma = Math.max(1, 3 / scale / 2.355);
        boolean cloud = Math.hypot(westArcsec, northArcsec) > cloudAfterArcsec;
        float[] pixels = new float[region.width() * region.height()];
        for (int i = 0; i < pixels.length; i++) {
            double dx = i % region.width() + 1 - x;
            double dy = i / region.width() + 1 - y;
            double light = cloud ? 0 : 4000 * Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
            pixels[i] = (float) (500 + light + 8 * random.nextGaussian());
        }
        return new Frame(region.width(), region.height(), pixels, Header.EMPTY);
    }

    /** Truth: the kit's own guide rate, times the cosine of the declination in right ascension. The shipped kits are 4.8 and 0.42″ a pixel. */
    @ParameterizedTest
    @CsvSource({"wren, 30, 0", "wren, 30, 8", "heron, 0, 0", "heron, 65, 0", "heron, 30, 5", "heron, -10, 12"})
    void everyShippedKitCalibratesToItsOwnRate(String name, double declination, double slack)
            throws InterruptedException {
        Kit kit = Examples.kit(name);
        declinationDeg = declination;
        slackArcsec = slack;
        GuideCalibration found = guider(kit).calibrate(declination).calibration();
        double rate = kit.mount().guideArcsecPerSecond();
        assertThat(found.northArcsecPerSecond()).isCloseTo(rate, within(0.05 * rate));
        assertThat(found.westArcsecPerSecond())
                .isCloseTo(rate * Math.cos(Math.toRadians(declination)), within(0.05 * rate));
        assertThat(found.axesAngleDeg()).isCloseTo(90, within(3.0));
    }

    /** Truth: the slack that the arithmetic mount has. */
    @ParameterizedTest
    @CsvSource({"0", "4", "10"})
    void slackIsMeasured(double slack) throws InterruptedException {
        slackArcsec = slack;
        declinationDeg = 20;
        CalibrationReport report = guider(Examples.kit("wren")).calibrate(20);
        assertThat(report.slackArcsec()).isCloseTo(slack, within(1.0));
        assertThat(report.residualPx()).isLessThan(0.2);
        assertThat(report.west()).hasSizeGreaterThan(10);
        assertThat(report.expectedWest() / report.expectedNorth()).isCloseTo(0.9397, within(1e-3));
    }

    /** Last night's calibration is taken when pulses move the star as it says, and is void when the camera was turned. */
    @Test
    void anEarlierCalibrationIsTriedBeforeItIsTaken() throws InterruptedException {
        Guider guider = guider(Examples.kit("wren"));
        GuideCalibration found = guider.calibrate(0).calibration();
        assertThat(guider.tryCalibration(found, 0)).isEmpty();
        GuideCalibration turned = new GuideCalibration(
                -found.westY(), found.westX(), -found.northY(), found.northX(), found.arcsecPerPixel(), 0);
        assertThat(guider.tryCalibration(turned, 0)).contains("turned by").contains("90°");
        assertThat(guider.calibration()).contains(found);
    }

    /** A hot pixel does not come back when it is pulsed after a dither: it is no star, or the calibration is void. */
    @Test
    void whatDoesNotFollowItsPulsesIsFoundOut() throws InterruptedException {
        Guider guider = guider(Examples.kit("wren"));
        guider.calibrate(0);
        guider.acquire();
        rateFactor = 0;
        guider.dither(12, 5);
        for (int i = 0; i < 20; i++) {
            guider.cycle();
        }
        assertThat(guider.runsAway().orElseThrow().words())
                .contains("though pulses of")
                .contains("were sent");
        rateFactor = 1;
        for (int i = 0; i < 30; i++) {
            guider.cycle();
        }
        assertThat(guider.runsAway()).isEmpty();
    }

    @Test
    void aRateThatIsNotTheKitsIsNotBelieved() throws InterruptedException {
        rateFactor = 0.5;
        Guider guider = guider(Examples.kit("heron"));
        assertThatThrownBy(() -> guider.calibrate(20))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("and should move it 7.5″/s")
                .hasMessageContaining("guide rate");
        assertThat(guider.calibration()).isEmpty();
    }

    @Test
    void aStarLostOnTheWayIsNamedAndNotTheMount() throws InterruptedException {
        cloudAfterArcsec = 12;
        Guider guider = guider(Examples.kit("heron"));
        assertThatThrownBy(() -> guider.calibrate(20))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("the guide star was lost while calibrating");
    }
}
