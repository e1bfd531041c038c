package app.ironside.solve;

/**
 * What a map between two frames has beyond an affine one: lenses draw the corner of a field otherwise than its middle, and a star that has
 * moved from one to the other is not where shift, turn and scale say. A polynomial of second and third degree in the reference's pixels.
 *
 * @param cx middle of the reference, FITS pixels
 * @param cy as cx
 * @param half pixels that count as 1, so that all terms are of one size
 * @param xs factors of {@link #terms}, pixels of the other frame along x
 * @param ys along y
 */
public record Bend(double cx, double cy, double half, double[] xs, double[] ys) {
    /** Products of the second and third degree. */
    static final int TERMS = 7;

    /** u², uv, v², u³, u²v, uv², v³. */
    static double[] terms(double u, double v) {
        return new double[] {u * u, u * v, v * v, u * u * u, u * u * v, u * v * v, v * v * v};
    }

    double dx(double x, double y) {
        return along(xs, (x - cx) / half, (y - cy) / half);
    }

    double dy(double x, double y) {
        return along(ys, (x - cx) / half, (y - cy) / half);
    }

    /** Written out: it is asked for every pixel. */
    private static double along(double[] f, double u, double v) {
        return u * (u * (f[0] + f[3] * u + f[4] * v) + v * (f[1] + f[5] * v)) + v * v * (f[2] + f[6] * v);
    }

    /** The same from a grid whose pixels are finer; see {@link PlaneTransform#finer}. */
    Bend finer(double scale, double shift) {
        return new Bend((cx - shift) * scale, (cy - shift) * scale, half * scale, xs, ys);
    }
}
