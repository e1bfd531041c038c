package app.ironside.kit;

import app.ironside.Check;

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
     * The largest polar error with which neither the drift, left to itself, nor the turn of the field at the sensor's corner
     * exceeds half a pixel in one sub.
     *
     * @param subSeconds length of a sub
     * @param declinationDeg of the target furthest from the equator
     * @return arcminutes
     */
    public static double limitArcmin(Kit kit, double subSeconds, double declinationDeg) {
        Check.positive("subSeconds", subSeconds);
        double byDrift = Sampling.INVISIBLE_PX * kit.arcsecPerPixel() / (driftArcsecPerMinute(1) * subSeconds / 60);
        double cornerPx = Math.hypot(kit.sensor().widthPx(), kit.sensor().heightPx()) / 2;
        double turnPx =
                Math.toRadians(fieldRotationDeg(1, Math.min(80, Math.abs(declinationDeg)), subSeconds)) * cornerPx;
        return Math.min(byDrift, Sampling.INVISIBLE_PX / turnPx);
    }
}
