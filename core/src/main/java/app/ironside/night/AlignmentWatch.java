package app.ironside.night;

import app.ironside.guide.DeclinationDrift;
import app.ironside.guide.GuideCalibration;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.AxisMeasured;
import app.ironside.polar.AxisWatch;
import app.ironside.polar.DriftFinder;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Watches after the alignment whether the axis stays: by the guide star's drift, or by how the field creeps where nothing guides. */
final class AlignmentWatch {
    /** Of a centre that was solved. */
    private static final double CENTRE_SIGMA_ARCSEC = 1;

    /** Over less, the centres' own errors hide the creep. */
    private static final Duration CREEP_SEEN_AFTER = Duration.ofMinutes(5);

    private final NightContext night;
    private final AxisWatch watch;
    private Optional<AxisMeasured> axis = Optional.empty();
    private Optional<Place> first = Optional.empty();

    private record Place(Instant time, Equatorial centre) {}

    AlignmentWatch(NightContext night) {
        this.night = night;
        this.watch = new AxisWatch(new DriftFinder(night.observer()));
    }

    /** The telescope is sent elsewhere, or set down anew: creep begins again. */
    void moved() {
        first = Optional.empty();
        watch.breakOff();
    }

    /** A sub during which a star was held. */
    void guided(Equatorial star, List<GuideSample> samples, GuideCalibration calibration) {
        DeclinationDrift.of(samples, calibration.northArcsecPerSecond())
                .ifPresent(drift -> add(new DriftFinder.DriftSight(
                        star,
                        drift.start(),
                        drift.watched(),
                        drift.northArcsecPerMinute(),
                        drift.sigmaArcsecPerMinute())));
    }

    /**
     * A frame that was recognised, of a mount that only follows.
     *
     * @param middle of the exposure
     */
    void followed(Instant middle, Equatorial centre) {
        Place start = first.orElse(new Place(middle, centre));
        first = Optional.of(start);
        Duration watched = Duration.between(start.time(), middle);
        if (watched.compareTo(CREEP_SEEN_AFTER) < 0) {
            return;
        }
        double minutes = watched.toMillis() / 60_000.0;
        // The star goes the other way than the middle of the frame.
        double drift = -(centre.decDeg() - start.centre().decDeg()) * 3600 / minutes;
        first = Optional.of(new Place(middle, centre));
        add(new DriftFinder.DriftSight(
                start.centre(), start.time(), watched, drift, Math.sqrt(2) * CENTRE_SIGMA_ARCSEC / minutes));
    }

    private void add(DriftFinder.DriftSight sight) {
        Optional<AxisMeasured> now = night.record().state().last(AxisMeasured.class);
        if (!now.equals(axis)) {
            axis = now;
            watch.begin();
        }
        double up = now.map(AxisMeasured::altitudeErrorArcmin).orElse(0.0);
        double east = now.map(AxisMeasured::azimuthErrorArcmin).orElse(0.0);
        double uncertainty = now.map(AxisMeasured::uncertaintyArcmin)
                .orElseGet(() -> night.program().polarLimit(night.kit()).arcmin() / 3);
        watch.add(sight, up, east, uncertainty).ifPresent(moved -> tell(moved, now.isPresent()));
    }

    private void tell(AxisWatch.Moved moved, boolean measured) {
        String since = night.site().clock(moved.since());
        String text = measured
                ? String.format(
                        Locale.ROOT,
                        "Since %s stars drift %s by %.1f″ a minute, where the axis as measured lets them by %.1f″ %s: it is at least %.0f′"
                                + " from there. Somebody touched the mount, or the ground gives: measure the axis again.",
                        since,
                        toward(moved.seenArcsecPerMinute()),
                        Math.abs(moved.seenArcsecPerMinute()),
                        Math.abs(moved.expectedArcsecPerMinute()),
                        toward(moved.expectedArcsecPerMinute()),
                        moved.leastArcmin())
                : String.format(
                        Locale.ROOT,
                        "Since %s stars drift %s by %.1f″ a minute%s: the polar axis is at least %.0f′ off. Set it again by the reticle, or"
                                + " measure it.",
                        since,
                        toward(moved.seenArcsecPerMinute()),
                        Math.abs(moved.seenArcsecPerMinute()),
                        night.kit().guideOptics().isPresent()
                                ? ", which guiding takes out"
                                : String.format(Locale.ROOT, ", %.0f′ an hour", Math.abs(moved.seenArcsecPerMinute())),
                        moved.leastArcmin());
        night.record()
                .tell(new AxisDoubted(
                        night.record().now(),
                        text,
                        moved.since(),
                        moved.leastArcmin(),
                        moved.seenArcsecPerMinute(),
                        moved.expectedArcsecPerMinute()));
    }

    private static String toward(double north) {
        return north >= 0 ? "north" : "south";
    }
}
