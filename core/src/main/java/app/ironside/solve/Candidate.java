package app.ironside.solve;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Vectors;
import java.util.Optional;

/** A first guess at a frame's WCS, from four stars that may be the four of a pattern. */
final class Candidate {
    /** Largest misfit of the four stars, as a share of the pattern's size. */
    private static final double MISFIT = 0.01;

    private static final double DEGREES_PER_RADIAN = 180 / Math.PI;

    private Candidate() {}

    /**
     * Fits shift, turn and scale, for both parities, and keeps the better.
     *
     * @param x pixel columns of the four stars, FITS
     * @param sky unit vectors of the four catalogue stars in the same order
     */
    static Optional<Wcs> fit(double[] x, double[] y, double[][] sky) {
        double[] sum = new double[3];
        for (double[] v : sky) {
            for (int k = 0; k < 3; k++) {
                sum[k] += v[k];
            }
        }
        double[] middle = Vectors.unit(sum);
        // East and north at the middle; very many candidates are weighed, so that no angle is computed before one is
        // worth it.
        double[] east = {-middle[1], middle[0], 0};
        double flat = Math.hypot(east[0], east[1]);
        if (flat < 1e-9) {
            return Optional.empty();
        }
        east[0] /= flat;
        east[1] /= flat;
        double[] north = Vectors.cross(middle, east);
        double[] xi = new double[4];
        double[] eta = new double[4];
        for (int i = 0; i < 4; i++) {
            double along = Vectors.dot(sky[i], middle);
            if (along <= 0) {
                return Optional.empty();
            }
            xi[i] = DEGREES_PER_RADIAN * Vectors.dot(sky[i], east) / along;
            eta[i] = DEGREES_PER_RADIAN * Vectors.dot(sky[i], north) / along;
        }
        Similarity plain = Similarity.fit(x, y, xi, eta, 1);
        Similarity mirrored = Similarity.fit(x, y, xi, eta, -1);
        Similarity best = plain.misfitDeg() <= mirrored.misfitDeg() ? plain : mirrored;
        if (best.degPerPixel() < 1e-9 || best.misfitDeg() > MISFIT * best.degPerPixel() * extent(x, y)) {
            return Optional.empty();
        }
        Equatorial centre = new Equatorial(
                Angles.wrap360(Math.toDegrees(Math.atan2(middle[1], middle[0]))),
                Math.toDegrees(Math.asin(Math.max(-1, Math.min(1, middle[2])))));
        return Optional.of(best.wcs(centre));
    }

    private static double extent(double[] x, double[] y) {
        double extent = 0;
        for (int i = 0; i < 4; i++) {
            for (int j = 0; j < i; j++) {
                extent = Math.max(extent, Math.hypot(x[i] - x[j], y[i] - y[j]));
            }
        }
        return extent;
    }
}
