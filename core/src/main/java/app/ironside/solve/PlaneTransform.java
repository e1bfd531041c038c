package app.ironside.solve;

/**
 * An affine map from the pixels of the reference frame to those of another: x' = xx x + xy y + x0, in FITS pixels.
 */
public record PlaneTransform(double xx, double xy, double x0, double yx, double yy, double y0) {
    public static final PlaneTransform IDENTITY = new PlaneTransform(1, 0, 0, 0, 1, 0);

    public double x(double x, double y) {
        return xx * x + xy * y + x0;
    }

    public double y(double x, double y) {
        return yx * x + yy * y + y0;
    }

    /** How far it turns, −180 to 180°: half a turn after a meridian flip. */
    public double turnDeg() {
        return Math.toDegrees(Math.atan2(yx - xy, xx + yy));
    }
}
