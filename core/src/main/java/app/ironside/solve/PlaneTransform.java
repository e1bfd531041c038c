package app.ironside.solve;

import java.util.Optional;

/**
 * A map from the pixels of the reference frame to those of another: x' = xx x + xy y + x0, in FITS pixels, and where the optics call for it
 * a small bend beside.
 *
 * @param bend what it has beyond shift, turn, scale and shear
 */
public record PlaneTransform(double xx, double xy, double x0, double yx, double yy, double y0, Optional<Bend> bend) {
    public static final PlaneTransform IDENTITY = new PlaneTransform(1, 0, 0, 0, 1, 0);

    /** The bend is small, so that each step leaves a hundredth of what the one before left. */
    private static final int STEPS_BACK = 3;

    private static final int SAMPLES = 16;

    /** An affine map. */
    public PlaneTransform(double xx, double xy, double x0, double yx, double yy, double y0) {
        this(xx, xy, x0, yx, yy, y0, Optional.empty());
    }

    /** The same with a bend beside it. */
    PlaneTransform bent(Bend beside) {
        return new PlaneTransform(xx, xy, x0, yx, yy, y0, Optional.of(beside));
    }

    public double x(double x, double y) {
        double plane = xx * x + xy * y + x0;
        return bend.isEmpty() ? plane : plane + bend.get().dx(x, y);
    }

    public double y(double x, double y) {
        double plane = yx * x + yy * y + y0;
        return bend.isEmpty() ? plane : plane + bend.get().dy(x, y);
    }

    /** The part without the bend. */
    public PlaneTransform plane() {
        return bend.isEmpty() ? this : new PlaneTransform(xx, xy, x0, yx, yy, y0);
    }

    /** The way back of a map without a bend, and of the plane part of one with it. */
    public PlaneTransform inverse() {
        double determinant = xx * yy - xy * yx;
        double a = yy / determinant;
        double b = -xy / determinant;
        double c = -yx / determinant;
        double d = xx / determinant;
        return new PlaneTransform(a, b, -(a * x0 + b * y0), c, d, -(c * x0 + d * y0));
    }

    /**
     * The way back of one place.
     *
     * @param inverse {@link #inverse()}, which the caller keeps
     * @param out is given x and y of the reference
     */
    public void back(PlaneTransform inverse, double ofX, double ofY, double[] out) {
        double x = inverse.x(ofX, ofY);
        double y = inverse.y(ofX, ofY);
        for (int step = 0; bend.isPresent() && step < STEPS_BACK; step++) {
            double px = ofX - bend.get().dx(x, y);
            double py = ofY - bend.get().dy(x, y);
            x = inverse.x(px, py);
            y = inverse.y(px, py);
        }
        out[0] = x;
        out[1] = y;
    }

    /**
     * The same from a grid over the same field whose pixels are finer.
     *
     * @param scale of its pixels along one of this grid's
     */
    public PlaneTransform finer(double scale) {
        double shift = 0.5 - 0.5 / scale;
        return new PlaneTransform(
                xx / scale,
                xy / scale,
                x0 + (xx + xy) * shift,
                yx / scale,
                yy / scale,
                y0 + (yx + yy) * shift,
                bend.map(b -> b.finer(scale, shift)));
    }

    /**
     * The lowest and the highest row of the other frame on which a rectangle of the reference lies.
     *
     * @return two FITS coordinates, of which the first is the lower
     */
    public double[] rows(double left, double right, double low, double high) {
        double least = Double.POSITIVE_INFINITY;
        double most = Double.NEGATIVE_INFINITY;
        int samples = bend.isEmpty() ? 1 : SAMPLES;
        for (int i = 0; i <= samples; i++) {
            double x = left + (right - left) * i / samples;
            for (double y : new double[] {low, high}) {
                least = Math.min(least, y(x, y));
                most = Math.max(most, y(x, y));
            }
        }
        // Between the samples the edge of a bent one may reach a little further.
        double beside = bend.isEmpty() ? 0 : 1;
        return new double[] {least - beside, most + beside};
    }

    /** How far two maps lie apart at most, at the corners and the middles of the edges of a frame. */
    public double farthestFrom(PlaneTransform other, int width, int height) {
        double worst = 0;
        for (int i = 0; i < 9; i++) {
            double x = 1 + i % 3 * (width - 1) / 2.0;
            double y = 1 + Math.floorDiv(i, 3) * (height - 1) / 2.0;
            worst = Math.max(worst, Math.hypot(x(x, y) - other.x(x, y), y(x, y) - other.y(x, y)));
        }
        return worst;
    }

    /** How far it turns, −180 to 180°: half a turn after a meridian flip. */
    public double turnDeg() {
        return Math.toDegrees(Math.atan2(yx - xy, xx + yy));
    }
}
