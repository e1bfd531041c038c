package app.ironside.sky;

import app.ironside.sky.Crossings.Crossing;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * When a night is dark: the twilights and the Moon, noon to noon of the site's civil time.
 *
 * <p>Sunset and sunrise: the Sun's centre at −0.833° (refraction 34′, radius 16′). Civil, nautical, astronomical twilight:
 * −6°, −12°, −18°. Moonrise and moonset: the upper limb at −34′. All at sea level, without dip of the horizon.
 *
 * @param night noon to noon
 * @param dark Sun below −18°, in stretches
 * @param moonlessDark the part of {@code dark} with the Moon down
 * @param moonIlluminatedFraction at local midnight, 0 to 1
 * @see "Explanatory Supplement to the Astronomical Almanac 2013, section 12.4"
 */
public record NightTimes(
        Interval night,
        Optional<Instant> sunset,
        Optional<Instant> civilDusk,
        Optional<Instant> nauticalDusk,
        Optional<Instant> astronomicalDusk,
        Optional<Instant> astronomicalDawn,
        Optional<Instant> nauticalDawn,
        Optional<Instant> civilDawn,
        Optional<Instant> sunrise,
        List<Interval> dark,
        List<Instant> moonrise,
        List<Instant> moonset,
        double moonIlluminatedFraction,
        List<Interval> moonlessDark) {
    private static final double SUNSET_ALTITUDE_DEG = -0.8333;
    private static final double HORIZON_REFRACTION_DEG = 34.0 / 60;
    private static final Duration STEP = Duration.ofMinutes(6);

    /**
     * The night that begins on the evening of a date.
     *
     * @param evening local calendar date of the evening
     */
    public static NightTimes of(Site site, LocalDate evening) {
        Interval night = new Interval(
                evening.atTime(LocalTime.NOON).atZone(site.zone()).toInstant(),
                evening.plusDays(1).atTime(LocalTime.NOON).atZone(site.zone()).toInstant());
        SunAndMoon bodies = new SunAndMoon(new Observer(site, Atmosphere.NONE));
        // Each search walks the same steps: what was computed for one serves the others.
        Map<Instant, Double> sunAltitudes = new HashMap<>();
        ToDoubleFunction<Instant> sunDeg =
                t -> sunAltitudes.computeIfAbsent(t, u -> bodies.sun(u).altitudeDeg());
        Map<Instant, Double> moonLimbs = new HashMap<>();
        ToDoubleFunction<Instant> moonDeg = t -> moonLimbs.computeIfAbsent(t, u -> moonLimbDeg(bodies, u));
        List<Crossing> moon = Crossings.find(night, STEP, moonDeg);
        List<Interval> dark = Crossings.above(night, STEP, t -> -18 - sunDeg.applyAsDouble(t));
        List<Interval> moonDown = Crossings.above(night, STEP, t -> -moonDeg.applyAsDouble(t));
        Instant midnight = evening.plusDays(1).atStartOfDay(site.zone()).toInstant();
        List<Crossing> sun = Crossings.find(night, STEP, t -> sunDeg.applyAsDouble(t) - SUNSET_ALTITUDE_DEG);
        List<Crossing> civil = Crossings.find(night, STEP, t -> sunDeg.applyAsDouble(t) + 6);
        List<Crossing> nautical = Crossings.find(night, STEP, t -> sunDeg.applyAsDouble(t) + 12);
        List<Crossing> astronomical = Crossings.find(night, STEP, t -> sunDeg.applyAsDouble(t) + 18);
        return new NightTimes(
                night,
                first(sun, false),
                first(civil, false),
                first(nautical, false),
                first(astronomical, false),
                first(astronomical, true),
                first(nautical, true),
                first(civil, true),
                first(sun, true),
                dark,
                times(moon, true),
                times(moon, false),
                bodies.moonIlluminatedFraction(midnight),
                Interval.intersections(dark, moonDown));
    }

    /** Hours with the Sun below −18°. */
    public double darkHours() {
        return Interval.hours(dark);
    }

    /** Hours with the Sun below −18° and the Moon down. */
    public double moonlessDarkHours() {
        return Interval.hours(moonlessDark);
    }

    private static double moonLimbDeg(SunAndMoon bodies, Instant time) {
        return bodies.moon(time).altitudeDeg() + bodies.moonRadiusDeg(time) + HORIZON_REFRACTION_DEG;
    }

    private static Optional<Instant> first(List<Crossing> crossings, boolean upward) {
        return times(crossings, upward).stream().findFirst();
    }

    private static List<Instant> times(List<Crossing> crossings, boolean upward) {
        return crossings.stream()
                .filter(c -> c.upward() == upward)
                .map(Crossing::time)
                .toList();
    }
}
