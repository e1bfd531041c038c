package app.ironside.plan;

import app.ironside.sky.Crossings;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.SkyBrightness;
import app.ironside.sky.SunAndMoon;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * How a target stands to a night at a site.
 *
 * @param transit upper culmination nearest the middle of the night
 * @param transitAltitudeDeg apparent
 * @param usable stretches in astronomical darkness above skyline and minimum altitude
 * @param effectiveHours usable time weighted by {@link EffectiveTime}
 * @param moonSeparationDeg at local midnight
 * @param samples every ten minutes, noon to noon
 */
public record TargetWindow(
        Equatorial position,
        Instant transit,
        double transitAltitudeDeg,
        List<Interval> usable,
        double effectiveHours,
        double moonSeparationDeg,
        List<Sample> samples) {
    private static final Duration SAMPLE_STEP = Duration.ofMinutes(10);
    private static final Duration SEARCH_STEP = Duration.ofMinutes(2);

    /** Sidereal hours run this much faster than mean solar ones. */
    private static final double SIDEREAL_RATE = 1.002_737_909;

    /** Where the target is at a moment; airmass 0 below the horizon. */
    public record Sample(Instant time, double altitudeDeg, double azimuthDeg, double airmass) {}

    /**
     * Computes the window.
     *
     * @param minimumAltitudeDeg on top of the skyline, whichever is higher counts
     */
    public static TargetWindow of(Equatorial target, Observer observer, NightTimes night, double minimumAltitudeDeg) {
        Instant middle = night.night().from().plus(night.night().duration().dividedBy(2));
        Instant transit = transit(target, observer, middle);
        List<Interval> usable = new ArrayList<>();
        for (Interval dark : night.dark()) {
            usable.addAll(above(target, observer, dark, minimumAltitudeDeg));
        }
        SunAndMoon bodies = new SunAndMoon(observer);
        Instant midnight = night.night()
                .from()
                .atZone(observer.site().zone())
                .toLocalDate()
                .plusDays(1)
                .atStartOfDay(observer.site().zone())
                .toInstant();
        return new TargetWindow(
                target,
                transit,
                observer.observed(target, transit).altitudeDeg(),
                usable,
                effectiveHours(target, observer, usable),
                bodies.moonAmongStars(midnight).separationDeg(target),
                samples(target, observer, night.night()));
    }

    /** The upper culmination nearest to a time, to 0.1 s. */
    public static Instant transit(Equatorial target, Observer observer, Instant near) {
        Instant guess = near;
        for (int i = 0; i < 4; i++) {
            double hours = observer.hourAngleDeg(target, guess) / 15 / SIDEREAL_RATE;
            guess = guess.minusMillis(Math.round(hours * 3_600_000));
        }
        return guess;
    }

    /** The longest usable stretch. */
    public Optional<Interval> longest() {
        return usable.stream().max(Comparator.comparing(Interval::duration));
    }

    public double usableHours() {
        return Interval.hours(usable);
    }

    private static List<Interval> above(Equatorial target, Observer observer, Interval dark, double minimum) {
        return Crossings.above(dark, SEARCH_STEP, t -> clearanceDeg(target, observer, t, minimum));
    }

    /** How far it stands above skyline, margin and minimum altitude, whichever is highest; negative below. */
    private static double clearanceDeg(Equatorial target, Observer observer, Instant time, double minimum) {
        Horizontal seen = observer.observed(target, time);
        return Math.min(
                seen.altitudeDeg() - minimum,
                observer.site().horizon().clearanceDeg(seen, observer.site().marginDeg()));
    }

    private static double effectiveHours(Equatorial target, Observer observer, List<Interval> usable) {
        EffectiveTime worth = new EffectiveTime(observer);
        double hours = 0;
        for (Interval stretch : usable) {
            int pieces = (int) Math.max(1, Math.ceil(stretch.hours() * 12));
            Duration piece = stretch.duration().dividedBy(pieces);
            for (int i = 0; i < pieces; i++) {
                Instant middle = stretch.from().plus(piece.multipliedBy(i)).plus(piece.dividedBy(2));
                hours += worth.weight(target, middle) * stretch.hours() / pieces;
            }
        }
        return hours;
    }

    private static List<Sample> samples(Equatorial target, Observer observer, Interval night) {
        List<Sample> samples = new ArrayList<>();
        for (Instant t = night.from(); !t.isAfter(night.until()); t = t.plus(SAMPLE_STEP)) {
            Horizontal seen = observer.observed(target, t);
            double airmass = seen.altitudeDeg() > 0 ? SkyBrightness.airmass(seen.altitudeDeg()) : 0;
            samples.add(new Sample(t, seen.altitudeDeg(), seen.azimuthDeg(), airmass));
        }
        return samples;
    }
}
