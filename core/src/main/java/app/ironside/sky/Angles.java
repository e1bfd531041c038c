package app.ironside.sky;

/** Arithmetic on angles in degrees. */
public final class Angles {
    /** Arcseconds in a radian. */
    public static final double ARCSEC_PER_RADIAN = 648_000 / Math.PI;

    private Angles() {}

    /** The same angle in 0 up to (not including) 360. */
    public static double wrap360(double deg) {
        double wrapped = deg % 360;
        return wrapped < 0 ? wrapped + 360 : wrapped + 0.0;
    }

    /** The same angle in −180 (not included) to 180. */
    public static double wrap180(double deg) {
        double wrapped = wrap360(deg);
        return wrapped > 180 ? wrapped - 360 : wrapped;
    }

    /** Sine of an angle in degrees. */
    public static double sinDeg(double deg) {
        return Math.sin(Math.toRadians(deg));
    }

    /** Cosine of an angle in degrees. */
    public static double cosDeg(double deg) {
        return Math.cos(Math.toRadians(deg));
    }
}
