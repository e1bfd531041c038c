package app.ironside.night;

import app.ironside.device.Mount;
import app.ironside.device.TryLater;
import app.ironside.image.Frame;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.Stage;
import app.ironside.point.Centering;
import app.ironside.polar.DriftFinder;
import app.ironside.polar.DriftFinder.DriftSight;
import app.ironside.polar.PolarError;
import app.ironside.polar.PolarRefusal;
import app.ironside.polar.PolarResult;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.SolveResult;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Measures the polar axis where the pole is hidden: how the middle of the frame creeps in declination while the mount follows, near the
 * meridian and in the east, nobody guiding.
 */
final class DriftWatch {
    private static final Duration EXPOSURE = Duration.ofSeconds(6);
    private static final Duration WATCHED = Duration.ofMinutes(5);

    /** Near the meridian azimuth shows, far from it altitude; on the side from which nothing touches. */
    private static final double[] HOUR_ANGLES_DEG = {-5, -65};

    /** High enough in the east to be above most roofs. */
    private static final double DECLINATION_DEG = 20;

    /** Of a solved middle. */
    private static final double CENTRE_SIGMA_ARCSEC = 0.5;

    private final NightContext night;
    private final Centering centering;
    private final DriftFinder finder;
    private List<AxisMeasured.Sight> frames = List.of();

    DriftWatch(NightContext night, Centering centering) {
        this.night = night;
        this.centering = centering;
        this.finder = new DriftFinder(night.observer());
    }

    /** The exposures of the last measurement. */
    List<AxisMeasured.Sight> frames() {
        return frames;
    }

    /**
     * Takes some ten minutes.
     *
     * @throws TryLater if a frame is not recognised, or the drifts make no axis
     */
    PolarError measure() throws InterruptedException {
        List<AxisMeasured.Sight> taken = new ArrayList<>();
        List<DriftSight> sights = new ArrayList<>();
        for (double hourAngle : HOUR_ANGLES_DEG) {
            sights.add(watch(hourAngle, taken));
        }
        frames = List.copyOf(taken);
        PolarResult result = finder.find(sights);
        if (result instanceof PolarRefusal refusal) {
            throw new TryLater("polar alignment", "the axis could not be measured by drift", refusal.reason());
        }
        return (PolarError) result;
    }

    private DriftSight watch(double hourAngleDeg, List<AxisMeasured.Sight> taken) throws InterruptedException {
        double ra =
                Angles.wrap360(night.observer().siderealTimeDeg(night.clock().now()) - hourAngleDeg);
        double declination = Math.copySign(DECLINATION_DEG, night.site().latDeg());
        night.devices().mount().slewAndWait(night.clock(), new Equatorial(ra, declination), Mount.PierSide.WEST);
        String where = hourAngleDeg > -45 ? "near the meridian" : "in the east";
        Looked first = look("Drift " + where + ", first exposure", taken);
        night.record().doing(Stage.POLAR, "A star drifts " + where, WATCHED);
        night.clock().await(WATCHED);
        Looked last = look("Drift " + where + ", last exposure", taken);
        Duration watched = Duration.between(first.middle(), last.middle());
        double minutes = watched.toMillis() / 60_000.0;
        // The star goes the other way than the middle of the frame.
        double drift = -3600 * (last.centre().decDeg() - first.centre().decDeg()) / minutes;
        return new DriftSight(
                first.centre(), first.middle(), watched, drift, Math.sqrt(2) * CENTRE_SIGMA_ARCSEC / minutes);
    }

    private record Looked(Instant middle, Equatorial centre) {}

    private Looked look(String caption, List<AxisMeasured.Sight> taken) throws InterruptedException {
        Instant[] middle = {night.clock().now()};
        PlateSolution solution = centering.look(night.devices().mount().pointing(), EXPOSURE, new Centering.Watcher() {
            @Override
            public void solved(Frame frame, StarField stars, SolveResult result, double offsetArcsec) {
                night.record().frame(Stage.POLAR, caption, frame, Optional.of(stars));
                middle[0] = frame.header().middle().orElse(night.clock().now());
            }
        });
        taken.add(new AxisMeasured.Sight(
                caption,
                "",
                Optional.of(new AxisMeasured.Place(
                        solution.centre(), solution.rotationDeg(), solution.matchedStars(), solution.rmsArcsec())),
                ""));
        return new Looked(middle[0], solution.centre());
    }
}
