package app.ironside.desk.night;

import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetWindow;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
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
 * @param ghost a target that is looked at while planning
 * @param troubles what is set to go wrong when the plan is rehearsed
 */
public record RibbonState(
        Interval shown,
        ZoneId zone,
        List<Double> darkness,
        List<Double> moon,
        List<Curve> curves,
        Optional<Curve> ghost,
        List<Trouble> troubles) {
    private static final Duration AROUND = Duration.ofMinutes(45);
    private static final int POINTS = 240;

    /** A target's altitude through the night, the skyline under it, and its block. */
    public record Curve(
            String name,
            List<Point> points,
            Interval block,
            Optional<Instant> flip,
            double transitAltitudeDeg,
            int subs) {}

    /** Something that is set to go wrong; it may last no time and stay. */
    public record Trouble(Interval span, String words) {}

    /** Altitude of a target and of the skyline at its azimuth. */
    record Point(Instant time, double altitudeDeg, double skylineDeg) {}

    /** The light of a night at a place: what does not depend on the program. */
    public record Sky(Interval shown, List<Double> darkness, List<Double> moon) {
        public static Sky of(Site site, NightTimes times) {
            Instant from = times.sunset().orElse(times.night().from()).minus(AROUND);
            Instant until = times.sunrise().orElse(times.night().until()).plus(AROUND);
            Interval shown = new Interval(from, until.isAfter(from) ? until : from.plus(Duration.ofHours(12)));
            SunAndMoon bodies = new SunAndMoon(Observer.at(site));
            List<Double> darkness = new ArrayList<>();
            List<Double> moon = new ArrayList<>();
            for (int i = 0; i <= POINTS; i++) {
                Instant t = shown.from().plus(shown.duration().multipliedBy(i).dividedBy(POINTS));
                darkness.add(Math.max(0, Math.min(1, -bodies.sun(t).altitudeDeg() / 18)));
                moon.add(bodies.moon(t).altitudeDeg());
            }
            return new Sky(shown, darkness, moon);
        }
    }

    public static RibbonState of(Site site, NightPlan plan) {
        return of(site, plan, Sky.of(site, plan.times()));
    }

    /** As above, for a plan that changes under the same sky. */
    public static RibbonState of(Site site, NightPlan plan, Sky sky) {
        List<Curve> curves = plan.blocks().stream()
                .map(b -> curve(b, site.horizon(), sky.shown()))
                .toList();
        return new RibbonState(
                sky.shown(), site.zone(), sky.darkness(), sky.moon(), curves, Optional.empty(), List.of());
    }

    /** With what is set to go wrong. */
    public RibbonState withTroubles(List<Trouble> set) {
        return new RibbonState(shown, zone, darkness, moon, curves, ghost, List.copyOf(set));
    }

    /** With the curve of a target that is looked at and not in the program. */
    public RibbonState withGhost(String name, TargetWindow window, Horizon horizon) {
        Curve ghost = new Curve(
                name,
                points(window, horizon, shown),
                new Interval(shown.from(), shown.from()),
                Optional.empty(),
                window.transitAltitudeDeg(),
                0);
        return new RibbonState(shown, zone, darkness, moon, curves, Optional.of(ghost), troubles);
    }

    private static Curve curve(PlannedBlock block, Horizon horizon, Interval shown) {
        return new Curve(
                block.target().name(),
                points(block.window(), horizon, shown),
                block.span(),
                block.flip(),
                block.window().transitAltitudeDeg(),
                block.subs());
    }

    private static List<Point> points(TargetWindow window, Horizon horizon, Interval shown) {
        List<Point> points = new ArrayList<>();
        for (TargetWindow.Sample s : window.samples()) {
            if (shown.contains(s.time())) {
                double altitude = s.altitudeDeg();
                double skyline = horizon.altitudeDeg(new Horizontal(s.azimuthDeg(), 0).azimuthDeg());
                points.add(new Point(s.time(), altitude, skyline));
            }
        }
        return points;
    }

    /** Place of a time along the axis, 0 to 1. */
    public double along(Instant time) {
        return (double) Duration.between(shown.from(), time).toMillis()
                / shown.duration().toMillis();
    }

    /** The time at a place along the axis. */
    public Instant at(double along) {
        double held = Math.max(0, Math.min(1, along));
        return shown.from().plusMillis(Math.round(held * shown.duration().toMillis()));
    }
}
