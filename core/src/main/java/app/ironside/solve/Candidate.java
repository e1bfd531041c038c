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
        double[] plain = similarity(x, y, xi, eta, 1);
        double[] mirrored = similarity(x, y, xi, eta, -1);
        double[] best = plain[4] <= mirrored[4] ? plain : mirrored;
        int parity = plain[4] <= mirrored[4] ? 1 : -1;
        double size = Math.hypot(best[0], best[1]) * extent(x, y);
        if (Math.hypot(best[0], best[1]) < 1e-9 || best[4] > MISFIT * size) {
            return Optional.empty();
        }
        Equatorial centre = new Equatorial(
                Angles.wrap360(Math.toDegrees(Math.atan2(middle[1], middle[0]))),
                Math.toDegrees(Math.asin(Math.max(-1, Math.min(1, middle[2])))));
        double p = best[0];
        double q = best[1];
        double meanX = mean(x);
        double meanY = mean(y);
        // ξ = p u − q (parity v), η = q u + p (parity v), with u and v measured from the mean; the means of ξ and η are
        // near 0.
        double cd11 = p;
        double cd12 = -q * parity;
        double cd21 = q;
        double cd22 = p * parity;
        double determinant = cd11 * cd22 - cd12 * cd21;
        double crpixX = meanX - (cd22 * best[2] - cd12 * best[3]) / determinant;
        double crpixY = meanY - (cd11 * best[3] - cd21 * best[2]) / determinant;
        return Optional.of(new Wcs(centre, crpixX, crpixY, cd11, cd12, cd21, cd22));
    }

    /** p, q, mean ξ, mean η and the rms misfit of the least-squares similarity (ξ + iη) = (p + iq)(u + i·parity·v). */
    private static double[] similarity(double[] x, double[] y, double[] xi, double[] eta, int parity) {
        double meanX = mean(x);
        double meanY = mean(y);
        double meanXi = mean(xi);
        double meanEta = mean(eta);
        double p = 0;
        double q = 0;
        double norm = 0;
        for (int i = 0; i < 4; i++) {
            double u = x[i] - meanX;
            double v = parity * (y[i] - meanY);
            p += u * (xi[i] - meanXi) + v * (eta[i] - meanEta);
            q += u * (eta[i] - meanEta) - v * (xi[i] - meanXi);
            norm += u * u + v * v;
        }
        p /= norm;
        q /= norm;
        double misfit = 0;
        for (int i = 0; i < 4; i++) {
            double u = x[i] - meanX;
            double v = parity * (y[i] - meanY);
            double a = p * u - q * v - (xi[i] - meanXi);
            double b = q * u + p * v - (eta[i] - meanEta);
            misfit += a * a + b * b;
        }
        return new double[] {p, q, meanXi, meanEta, Math.sqrt(misfit / 4)};
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

    private static double mean(double[] values) {
        return (values[0] + values[1] + values[2] + values[3]) / 4;
    }
}
