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

    /** The way back. */
    public PlaneTransform inverse() {
        double determinant = xx * yy - xy * yx;
        double a = yy / determinant;
        double b = -xy / determinant;
        double c = -yx / determinant;
        double d = xx / determinant;
        return new PlaneTransform(a, b, -(a * x0 + b * y0), c, d, -(c * x0 + d * y0));
    }

    /**
     * The same from a grid over the same field whose pixels are finer.
     *
     * @param scale of its pixels along one of this grid's
     */
    public PlaneTransform finer(double scale) {
        double shift = 0.5 - 0.5 / scale;
        return new PlaneTransform(
                xx / scale, xy / scale, x0 + (xx + xy) * shift, yx / scale, yy / scale, y0 + (yx + yy) * shift);
    }

    /** How far it turns, −180 to 180°: half a turn after a meridian flip. */
    public double turnDeg() {
        return Math.toDegrees(Math.atan2(yx - xy, xx + yy));
    }
}
