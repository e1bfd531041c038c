package app.ironside.desk;

import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetWindow;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SunAndMoon;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What the ribbon shows that does not change while the night runs: the axis of time, the light of the sky, the curves, the blocks.
 *
 * @param shown the span of time, from before sunset to after sunrise
 * @param darkness how dark the sky is along it, 0 day to 1 night, evenly spaced
 * @param moon altitudes of the Moon, evenly spaced, degrees
 */
record RibbonState(Interval shown, ZoneId zone, List<Double> darkness, List<Double> moon, List<Curve> curves) {
    private static final Duration AROUND = Duration.ofMinutes(45);
    private static final int POINTS = 240;

    /** A target's altitude through the night, the skyline under it, and its block. */
    record Curve(String name, List<Point> points, Interval block, Optional<Instant> flip, double transitAltitudeDeg) {}

    /** Altitude of a target and of the skyline at its azimuth. */
    record Point(Instant time, double altitudeDeg, double skylineDeg) {}

    static RibbonState of(Site site, NightPlan plan) {
        Instant from = plan.times().sunset().orElse(plan.times().night().from()).minus(AROUND);
        Instant until =
                plan.times().sunrise().orElse(plan.times().night().until()).plus(AROUND);
        Interval shown = new Interval(from, until);
        SunAndMoon bodies = new SunAndMoon(Observer.at(site));
        List<Double> darkness = new ArrayList<>();
        List<Double> moon = new ArrayList<>();
        for (int i = 0; i <= POINTS; i++) {
            Instant t = from.plus(shown.duration().multipliedBy(i).dividedBy(POINTS));
            darkness.add(Math.max(0, Math.min(1, -bodies.sun(t).altitudeDeg() / 18)));
            moon.add(bodies.moon(t).altitudeDeg());
        }
        List<Curve> curves =
                plan.blocks().stream().map(b -> curve(b, site.horizon(), shown)).toList();
        return new RibbonState(shown, site.zone(), darkness, moon, curves);
    }

    private static Curve curve(PlannedBlock block, Horizon horizon, Interval shown) {
        List<Point> points = new ArrayList<>();
        for (TargetWindow.Sample s : block.window().samples()) {
            if (shown.contains(s.time())) {
                double altitude = s.altitudeDeg();
                double skyline = horizon.altitudeDeg(new Horizontal(s.azimuthDeg(), 0).azimuthDeg());
                points.add(new Point(s.time(), altitude, skyline));
            }
        }
        return new Curve(
                block.target().name(),
                points,
                block.span(),
                block.flip(),
                block.window().transitAltitudeDeg());
    }

    /** Place of a time along the axis, 0 to 1. */
    double along(Instant time) {
        return (double) Duration.between(shown.from(), time).toMillis()
                / shown.duration().toMillis();
    }

    /** The time at a place along the axis. */
    Instant at(double along) {
        double held = Math.max(0, Math.min(1, along));
        return shown.from().plusMillis(Math.round(held * shown.duration().toMillis()));
    }

    /** Events that the ribbon marks with a sign of their own, above the ticks of the subs. */
    static boolean isMarked(NightEvent event) {
        return switch (event.kind()) {
            case POLAR, FOCUS, FLIP, FAULT, CENTRED, STACK, NIGHT_RESUMED, PARKED -> true;
            default -> event.kind() == EventKind.SUB && !event.isTrue("keep");
        };
    }
}
