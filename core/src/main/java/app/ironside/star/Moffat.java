package app.ironside.star;

import java.util.Optional;

/**
 * A star's profile I(r) = A (1 + (r/α)²)^−β, which has the wings that seeing gives and a Gaussian lacks.
 *
 * @param peakAdu A
 * @param alphaPx α
 * @param beta β; about 2.5 to 4.8 under the sky, beyond 10 it is a Gaussian
 * @see "Moffat 1969, A&A 3, 455"
 */
public record Moffat(double peakAdu, double alphaPx, double beta) {
    private static final int ROUNDS = 14;
    private static final double LEAST_BETA = 1.2;
    private static final double MOST_BETA = 15;
    private static final double DONE = 1e-4;
    private static final int FEWEST_PIXELS = 9;

    /** Width of a ring, as a share of the half-flux radius: the profile is straight across it to a few parts in ten thousand. */
    private static final double RING_SHARE = 0.05;

    /** Full width at half maximum, pixels: 2 α √(2^(1/β) − 1). */
    public double fwhmPx() {
        return 2 * alphaPx * Math.sqrt(Math.pow(2, 1 / beta) - 1);
    }

    /** Value at a distance from the middle, ADU. */
    public double at(double radiusPx) {
        return peakAdu * Math.pow(1 + radiusPx * radiusPx / (alphaPx * alphaPx), -beta);
    }

    /**
     * Least-squares fit (Levenberg and Marquardt) to pixels about a known middle.
     *
     * @param radiusSquared of each pixel from the middle, px²
     * @param values above the background, ADU
     * @param count how many of both are filled
     * @param halfFluxRadiusPx to start from
     */
    public static Optional<Moffat> fit(float[] radiusSquared, float[] values, int count, double halfFluxRadiusPx) {
        if (count < FEWEST_PIXELS) {
            return Optional.empty();
        }
        Rings rings = Rings.of(radiusSquared, values, count, RING_SHARE * halfFluxRadiusPx);
        double beta = 3;
        double alpha = halfFluxRadiusPx / Math.sqrt(Math.pow(2, 1 / (beta - 1)) - 1);
        double[] p = {bestPeak(rings, alpha, beta), Math.log(alpha), Math.log(beta)};
        double[][] normal = new double[3][3];
        double[] gradient = new double[3];
        double cost = equations(rings, p, normal, gradient);
        double damping = 1e-3;
        for (int round = 0; round < ROUNDS; round++) {
            double[] step = solve(normal, gradient, damping);
            double[] next = {
                p[0] + step[0],
                p[1] + step[1],
                Math.max(Math.log(LEAST_BETA), Math.min(Math.log(MOST_BETA), p[2] + step[2]))
            };
            double[][] nextNormal = new double[3][3];
            double[] nextGradient = new double[3];
            double nextCost = equations(rings, next, nextNormal, nextGradient);
            if (nextCost <= cost) {
                boolean done = cost - nextCost < DONE * cost && Math.abs(next[1] - p[1]) < DONE;
                p = next;
                cost = nextCost;
                normal = nextNormal;
                gradient = nextGradient;
                damping = Math.max(1e-7, damping / 6);
                if (done) {
                    break;
                }
            } else {
                damping *= 10;
            }
        }
        boolean sane = p[0] > 0 && Double.isFinite(p[1]) && p[1] > -3 && p[1] < 5;
        return sane ? Optional.of(new Moffat(p[0], Math.exp(p[1]), Math.exp(p[2]))) : Optional.empty();
    }

    /**
     * Pixels as far out as one another, taken together: the profile knows only the distance, so that a wide star's hundreds of pixels
     * are fitted as a few dozen means.
     *
     * @param pixels how many are in each ring
     */
    private record Rings(double[] radiusSquared, double[] values, double[] pixels, int count) {
        static Rings of(float[] radiusSquared, float[] values, int count, double widthPx) {
            float farthest = 0;
            for (int i = 0; i < count; i++) {
                farthest = Math.max(farthest, radiusSquared[i]);
            }
            int most = (int) (Math.sqrt(farthest) / widthPx) + 1;
            double[] squares = new double[most];
            double[] sums = new double[most];
            double[] pixels = new double[most];
            for (int i = 0; i < count; i++) {
                int ring = (int) (Math.sqrt(radiusSquared[i]) / widthPx);
                squares[ring] += radiusSquared[i];
                sums[ring] += values[i];
                pixels[ring]++;
            }
            int filled = 0;
            for (int ring = 0; ring < most; ring++) {
                if (pixels[ring] > 0) {
                    squares[filled] = squares[ring] / pixels[ring];
                    sums[filled] = sums[ring] / pixels[ring];
                    pixels[filled++] = pixels[ring];
                }
            }
            return new Rings(squares, sums, pixels, filled);
        }
    }

    /** The peak that fits best with given α and β: the model is linear in it. */
    private static double bestPeak(Rings rings, double alpha, double beta) {
        double up = 0;
        double down = 1e-12;
        for (int i = 0; i < rings.count; i++) {
            double m = Math.pow(1 + rings.radiusSquared[i] / (alpha * alpha), -beta);
            up += rings.pixels[i] * m * rings.values[i];
            down += rings.pixels[i] * m * m;
        }
        return up / down;
    }

    /** Fills the normal equations in (A, ln α, ln β); returns the sum of squared residuals. */
    private static double equations(Rings rings, double[] p, double[][] normal, double[] gradient) {
        double alphaSquared = Math.exp(2 * p[1]);
        double beta = Math.exp(p[2]);
        double cost = 0;
        for (int i = 0; i < rings.count; i++) {
            double w = rings.pixels[i];
            double u = 1 + rings.radiusSquared[i] / alphaSquared;
            double logU = Math.log(u);
            double shape = Math.exp(-beta * logU);
            double model = p[0] * shape;
            double a = shape;
            double b = model * 2 * beta * (u - 1) / u;
            double c = -model * beta * logU;
            double r = rings.values[i] - model;
            cost += w * r * r;
            gradient[0] += w * a * r;
            gradient[1] += w * b * r;
            gradient[2] += w * c * r;
            normal[0][0] += w * a * a;
            normal[0][1] += w * a * b;
            normal[0][2] += w * a * c;
            normal[1][1] += w * b * b;
            normal[1][2] += w * b * c;
            normal[2][2] += w * c * c;
        }
        normal[1][0] = normal[0][1];
        normal[2][0] = normal[0][2];
        normal[2][1] = normal[1][2];
        return cost;
    }

    /** Cramer's rule with the diagonal raised. */
    private static double[] solve(double[][] n, double[] g, double damping) {
        double d = 1 + damping;
        double a = n[0][0] * d;
        double e = n[1][1] * d;
        double i = n[2][2] * d;
        double det = a * (e * i - n[1][2] * n[1][2])
                - n[0][1] * (n[0][1] * i - n[1][2] * n[0][2])
                + n[0][2] * (n[0][1] * n[1][2] - e * n[0][2]);
        if (Math.abs(det) < 1e-300) {
            return new double[3];
        }
        double x = g[0] * (e * i - n[1][2] * n[1][2])
                - n[0][1] * (g[1] * i - n[1][2] * g[2])
                + n[0][2] * (g[1] * n[1][2] - e * g[2]);
        double y = a * (g[1] * i - n[1][2] * g[2])
                - g[0] * (n[0][1] * i - n[1][2] * n[0][2])
                + n[0][2] * (n[0][1] * g[2] - g[1] * n[0][2]);
        double z = a * (e * g[2] - g[1] * n[1][2])
                - n[0][1] * (n[0][1] * g[2] - g[1] * n[0][2])
                + g[0] * (n[0][1] * n[1][2] - e * n[0][2]);
        return new double[] {x / det, y / det, z / det};
    }
}
