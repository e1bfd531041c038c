package app.ironside.solve;

import app.ironside.sky.Equatorial;

/**
 * Shift, turn and scale from pixels to a tangent plane: ξ + iη = (p + iq)(u + i · parity · v) + (ξ₀ + iη₀), with u and v measured from
 * a pixel.
 *
 * @param p degrees a pixel, as q
 * @param parity −1 where the frame shows the sky mirrored
 * @param x0 FITS pixel from which u is measured, as y0 for v
 * @param xi0 degrees, as eta0
 * @param misfitDeg root mean square distance of the points from which it was fitted
 */
record Similarity(double p, double q, int parity, double x0, double y0, double xi0, double eta0, double misfitDeg) {
    /** Least squares over two points or more. */
    static Similarity fit(double[] x, double[] y, double[] xi, double[] eta, int parity) {
        int n = x.length;
        double meanX = mean(x);
        double meanY = mean(y);
        double meanXi = mean(xi);
        double meanEta = mean(eta);
        double p = 0;
        double q = 0;
        double norm = 0;
        for (int i = 0; i < n; i++) {
            double u = x[i] - meanX;
            double v = parity * (y[i] - meanY);
            p += u * (xi[i] - meanXi) + v * (eta[i] - meanEta);
            q += u * (eta[i] - meanEta) - v * (xi[i] - meanXi);
            norm += u * u + v * v;
        }
        p /= norm;
        q /= norm;
        double misfit = 0;
        for (int i = 0; i < n; i++) {
            double u = x[i] - meanX;
            double v = parity * (y[i] - meanY);
            double a = p * u - q * v - (xi[i] - meanXi);
            double b = q * u + p * v - (eta[i] - meanEta);
            misfit += a * a + b * b;
        }
        return new Similarity(p, q, parity, meanX, meanY, meanXi, meanEta, Math.sqrt(misfit / n));
    }

    private static double mean(double[] values) {
        double sum = 0;
        for (double value : values) {
            sum += value;
        }
        return sum / values.length;
    }

    double degPerPixel() {
        return Math.hypot(p, q);
    }

    double toX(double xi, double eta) {
        return x0 + (p * (xi - xi0) + q * (eta - eta0)) / (p * p + q * q);
    }

    double toY(double xi, double eta) {
        return y0 + parity * (p * (eta - eta0) - q * (xi - xi0)) / (p * p + q * q);
    }

    /**
     * As a WCS.
     *
     * @param touching where the plane touches the sky
     */
    Wcs wcs(Equatorial touching) {
        double cd11 = p;
        double cd12 = -q * parity;
        double cd21 = q;
        double cd22 = p * parity;
        double determinant = cd11 * cd22 - cd12 * cd21;
        double crpixX = x0 - (cd22 * xi0 - cd12 * eta0) / determinant;
        double crpixY = y0 - (cd11 * eta0 - cd21 * xi0) / determinant;
        return new Wcs(touching, crpixX, crpixY, cd11, cd12, cd21, cd22);
    }
}
