package app.ironside.kit;

import app.ironside.Check;
import java.util.Comparator;
import java.util.Locale;
import java.util.stream.Stream;

/**
 * How far a polar axis may be off, and what it costs.
 *
 * <p>With the axis an angle e from the pole, a star drifts in declination at most at ω e, ω being the Earth's rotation, and the
 * field turns about the guide star at most at ω e / cos δ.
 *
 * @see "Hook 1989, J. Br. Astron. Assoc. 99, 19 (polar axis alignment requirements; from memory)"
 */
public final class PolarTolerance {
    /** Sidereal rotation of the Earth, radians per second of mean time (IERS Conventions 2010, table 1.1). */
    private static final double EARTH_RATE_RAD_PER_S = 7.292_115e-5;

    /** Further toward the pole targets are not followed for a night. */
    private static final double HIGHEST_DEC = 80;

    /** Of the frame's long side: what registration crops and nobody misses (common practice). */
    private static final double CROPPED_UNSEEN = 0.005;

    /** The drift asks for this share of the guide rate at most, so that wind and gears have the rest. */
    private static final double SHARE_OF_GUIDE_RATE = 0.02;

    private static final double SIDEREAL_ARCSEC_PER_S = 15.041;

    private PolarTolerance() {}

    /** Worst drift in declination, arcseconds in a minute of time for an error in arcminutes: 0.26 each. */
    public static double driftArcsecPerMinute(double errorArcmin) {
        return errorArcmin * 60 * EARTH_RATE_RAD_PER_S * 60;
    }

    /** Worst turn of the field about the guide star in a time, degrees. */
    public static double fieldRotationDeg(double errorArcmin, double declinationDeg, double seconds) {
        double error = Math.toRadians(errorArcmin / 60);
        return Math.toDegrees(error * EARTH_RATE_RAD_PER_S * seconds / Math.cos(Math.toRadians(declinationDeg)));
    }

    /**
     * How far the axis may be off, by what would show first.
     *
     * @param arcmin the largest error
     * @param because what it would spoil, in a clause
     */
    public record Limit(double arcmin, String because) {}

    /**
     * What a night asks of the axis.
     *
     * @param subSeconds the longest sub
     * @param declinationDeg of the target furthest from the equator
     * @param hours from the first sub to the last
     */
    public record Night(double subSeconds, double declinationDeg, double hours) {
        public Night {
            Check.positive("subSeconds", subSeconds);
            Check.positive("hours", hours);
        }
    }

    /** The limit of a kit that guides, or of one that does not. */
    public static Limit limit(Kit kit, Night night) {
        return kit.guideOptics().isPresent() ? guided(kit, night) : unguided(kit, night);
    }

    /** Left to itself, the drift may blur a sub by half a pixel, and the field turn by as much at the sensor's corner. */
    public static Limit unguided(Kit kit, Night night) {
        double byDrift =
                Sampling.INVISIBLE_PX * kit.arcsecPerPixel() / (driftArcsecPerMinute(1) * night.subSeconds() / 60);
        Limit turn = turnInSub(kit, night);
        return byDrift < turn.arcmin() ? new Limit(byDrift, "the drift in a sub, half a pixel") : turn;
    }

    /**
     * Guiding takes the drift out, not the turn about the guide star: half a pixel at the corner in a sub, and over the night no more than
     * registration crops unseen. The drift must stay small against the guide rate.
     */
    public static Limit guided(Kit kit, Night night) {
        double cropPx =
                CROPPED_UNSEEN * Math.max(kit.sensor().widthPx(), kit.sensor().heightPx());
        Limit turn = turnInSub(kit, night);
        Limit overNight = new Limit(
                cropPx / turnPx(kit, night, night.hours() * 3600),
                String.format(Locale.ROOT, "the turn over %.0f h, %.0f px at the corner", night.hours(), cropPx));
        Limit rate = new Limit(
                SHARE_OF_GUIDE_RATE
                        * kit.mount().guideRateSidereal()
                        * SIDEREAL_ARCSEC_PER_S
                        * 60
                        / driftArcsecPerMinute(1),
                "the drift against the guide rate");
        return Stream.of(turn, overNight, rate)
                .min(Comparator.comparingDouble(Limit::arcmin))
                .orElseThrow();
    }

    private static Limit turnInSub(Kit kit, Night night) {
        return new Limit(
                Sampling.INVISIBLE_PX / turnPx(kit, night, night.subSeconds()),
                "the turn in a sub, half a pixel at the corner");
    }

    /** Turn of the field at the sensor's corner in a time, pixels for an error of an arcminute. */
    public static double turnPx(Kit kit, Night night, double seconds) {
        double cornerPx = Math.hypot(kit.sensor().widthPx(), kit.sensor().heightPx()) / 2;
        double declination = Math.min(HIGHEST_DEC, Math.abs(night.declinationDeg()));
        return Math.toRadians(fieldRotationDeg(1, declination, seconds)) * cornerPx;
    }
}
