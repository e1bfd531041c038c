package app.ironside.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Mount;
import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Equatorial;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

/** What faults do to the pixels of one exposure of a minute, against the same exposure without them. */
class DrawnFaultsTest {
    private static final Equatorial M33 = new Equatorial(23.46, 30.66);

    private static Kit kit() throws Exception {
        return KitFile.parse(
                Files.readString(Path.of("..", "examples", "kits", "wren.json"))
                        .replace("\"widthPx\": 2800, \"heightPx\": 2100", "\"widthPx\": 700, \"heightPx\": 520"),
                "wren.json");
    }

    /** A minute's exposure in focus, two minutes after the fault's time; the strength is the kind's own if none is given. */
    private static Frame frame(Optional<FaultKind> kind, Optional<Double> strength) throws Exception {
        SteppedClock clock = new SteppedClock(TestNight.NIGHT);
        LocalTime at = TestNight.NIGHT.atZone(TestNight.SITE.zone()).toLocalTime();
        SimSettings settings =
                SimSettings.DEFAULT.withFaults(kind.map(k -> new RehearsedFault(k, at, Optional.of(600.0), strength))
                        .map(List::of)
                        .orElse(List.of()));
        SimulatedObservatory observatory = new SimulatedObservatory(
                TestNight.SITE, kit(), settings, TestNight.SKY, clock, TestNight.NIGHT, Workers.ALL_CORES);
        Mount mount = observatory.devices().mount();
        mount.unpark();
        mount.slewAndWait(clock, M33, Mount.PierSide.WEST);
        int focus = (int) Math.round(observatory.bestFocusSteps());
        observatory.devices().focuser().moveAndWait(clock, focus + 60);
        observatory.devices().focuser().moveAndWait(clock, focus);
        clock.await(Duration.between(clock.now(), TestNight.NIGHT.plusSeconds(600)));
        return observatory.devices().camera().expose(clock, Camera.Exposure.light(Duration.ofSeconds(60)));
    }

    private static Frame frame(FaultKind kind, double strength) throws Exception {
        return frame(Optional.of(kind), Optional.of(strength));
    }

    private static Frame undisturbed() throws Exception {
        return frame(Optional.empty(), Optional.empty());
    }

    /** Pixels that differ from those of the undisturbed frame, which has the same noise. */
    private static long differing(Frame frame, double byAdu) throws Exception {
        float[] before = undisturbed().pixels();
        long count = 0;
        for (int i = 0; i < before.length; i++) {
            count += Math.abs(frame.pixels()[i] - before[i]) > byAdu ? 1 : 0;
        }
        return count;
    }

    /** Ten are to be expected; a trail is a few pixels wide and as long as the frame is, more or less. */
    @Test
    void trailsCrossTheFrame() throws Exception {
        Frame frame = frame(FaultKind.TRAILS, 600);
        assertThat(differing(frame, 40)).isBetween(3L * 2 * 200, 25L * 8 * 870);
        assertThat(Statistics.robust(frame.pixels()).centre())
                .as("the sky between them is as it was")
                .isCloseTo(Statistics.robust(undisturbed().pixels()).centre(), within(3.0));
    }

    /** Fifty are to be expected, each with one to nine pixels of hundreds of electrons. */
    @Test
    void particlesLeaveShortTracks() throws Exception {
        assertThat(differing(frame(FaultKind.COSMIC_RAYS, 50), 200)).isBetween(90L, 600L);
    }

    @Test
    void aBrokenFrameIsEmptyAtItsTop() throws Exception {
        Frame frame = frame(FaultKind.BROKEN_FRAME, 0.4);
        assertThat(frame.at(350, 520)).isZero();
        assertThat(frame.at(350, 320)).isZero();
        assertThat(frame.at(350, 300)).isPositive();
    }

    private static double radius(StarField field, Predicate<Star> where) {
        double[] radii = field.stars().stream()
                .filter(where)
                .mapToDouble(Star::halfFluxRadiusPx)
                .sorted()
                .toArray();
        return radii[radii.length / 2];
    }

    /** 180 µm at f/4.8 are a disc of 37 µm, six pixels across, at both sides and not in the middle. */
    @Test
    void aTiltedSensorIsSharpInTheMiddleOnly() throws Exception {
        StarField field = new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES).find(frame(FaultKind.TILT, 180));
        double left = radius(field, s -> s.x() < 220);
        double middle = radius(field, s -> s.x() > 260 && s.x() < 440);
        double right = radius(field, s -> s.x() > 480);
        assertThat(left).isGreaterThan(1.2 * middle);
        assertThat(right).isGreaterThan(1.2 * middle);
    }

    @Test
    void lampsMakeOneSideBrighter() throws Exception {
        Frame frame = frame(FaultKind.LIGHT_DOME, 60);
        double brighter = Statistics.robust(frame.pixels()).centre()
                - Statistics.robust(undisturbed().pixels()).centre();
        assertThat(brighter).isPositive();
        assertThat(side(frame, 600) - side(frame, 0)).isGreaterThan(0.1 * brighter);
    }

    private static double side(Frame frame, int left) {
        float[] part = new float[100 * frame.height()];
        for (int row = 0; row < frame.height(); row++) {
            System.arraycopy(frame.pixels(), row * frame.width() + left, part, row * 100, 100);
        }
        return Statistics.robust(part).centre();
    }

    /** The same stars stand further from the middle by as much as the focal length is longer. */
    @Test
    void aLongerFocalLengthSpreadsTheStars() throws Exception {
        StarFinder finder = new StarFinder(DetectSettings.BRIGHTEST, Workers.ALL_CORES);
        double before = brightestPair(finder.find(undisturbed()));
        double after = brightestPair(finder.find(frame(FaultKind.WRONG_FOCAL_LENGTH, 6)));
        assertThat(after / before).isCloseTo(1.06, within(0.005));
    }

    private static double brightestPair(StarField field) {
        Star a = field.stars().get(0);
        Star b = field.stars().get(1);
        return Math.hypot(a.x() - b.x(), a.y() - b.y());
    }
}
