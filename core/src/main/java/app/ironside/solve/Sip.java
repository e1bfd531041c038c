package app.ironside.solve;

import app.ironside.image.Header;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

/**
 * Distortion of the picture as polynomials of the pixel: (u, v) from the reference pixel become (u + f(u, v), v + g(u, v)) before the CD
 * matrix, f = Σ A_pq u^p v^q with p + q from 2 to the order.
 *
 * @param order 2 to 9
 * @param a coefficients A_pq at {@code [p][q]}; not copied, never modified
 * @param b coefficients B_pq
 * @param reachX half of the frame's width, inside which it was fitted
 * @param reachY half of its height
 * @see "Shupe et al. 2005, ASP Conf. Ser. 347, 491 (SIP convention)"
 */
record Sip(int order, double[][] a, double[][] b, double reachX, double reachY) {
    private static final int ROUNDS = 20;
    private static final double CLOSE_PX = 1e-9;
    private static final int GRID = 15;

    /** By what it does to a pixel; where it was fitted is no part of that, and is not kept in headers. */
    @Override
    public boolean equals(Object other) {
        return other instanceof Sip s && order == s.order && Arrays.deepEquals(a, s.a) && Arrays.deepEquals(b, s.b);
    }

    @Override
    public int hashCode() {
        return 31 * Arrays.deepHashCode(a) + Arrays.deepHashCode(b);
    }

    /** f and g at a place. */
    double[] shift(double u, double v) {
        return new double[] {polynomial(a, u, v), polynomial(b, u, v)};
    }

    private double polynomial(double[][] c, double u, double v) {
        double sum = 0;
        double up = 1;
        for (int p = 0; p <= order; p++) {
            double power = up;
            for (int q = 0; q + p <= order; q++) {
                sum += c[p][q] * power;
                power *= v;
            }
            up *= u;
        }
        return sum;
    }

    /** The (u, v) that become these; by iteration, exact to rounding, which the convention's inverse polynomials are not. */
    double[] undo(double mu, double nu) {
        double u = mu;
        double v = nu;
        for (int i = 0; i < ROUNDS; i++) {
            double[] s = shift(u, v);
            double nextU = mu - s[0];
            double nextV = nu - s[1];
            boolean close = Math.abs(nextU - u) + Math.abs(nextV - v) < CLOSE_PX;
            u = nextU;
            v = nextV;
            if (close) {
                break;
            }
        }
        return new double[] {u, v};
    }

    /** The keywords, with inverse polynomials for readers that want them. */
    Header toHeader() {
        double[][][] inverse = inverse();
        Header cards = with(with(Header.EMPTY, "A", a, 2), "B", b, 2);
        return with(with(cards, "AP", inverse[0], 0), "BP", inverse[1], 0);
    }

    private Header with(Header before, String name, double[][] c, int from) {
        Header cards = before.with(name + "_ORDER", (long) order);
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++) {
                if (p + q >= from) {
                    cards = cards.with(String.format(Locale.ROOT, "%s_%d_%d", name, p, q), c[p][q]);
                }
            }
        }
        return cards;
    }

    /** Polynomials that go back, fitted over the frame. */
    private double[][][] inverse() {
        int terms = (order + 1) * (order + 2) / 2;
        double[][] rows = new double[GRID * GRID][];
        double[] du = new double[rows.length];
        double[] dv = new double[rows.length];
        for (int i = 0; i < rows.length; i++) {
            double u = reachX * (2.0 * (i % GRID) / (GRID - 1) - 1);
            double v = reachY * (2.0 * (i / GRID) / (GRID - 1) - 1);
            double[] s = shift(u, v);
            rows[i] = powers((u + s[0]) / reachX, (v + s[1]) / reachX, terms);
            du[i] = -s[0];
            dv[i] = -s[1];
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(rows, false)).getSolver();
        return new double[][][] {
            square(solver.solve(new ArrayRealVector(du, false)).toArray()),
            square(solver.solve(new ArrayRealVector(dv, false)).toArray())
        };
    }

    private double[] powers(double u, double v, int terms) {
        double[] row = new double[terms];
        int k = 0;
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++) {
                row[k++] = Math.pow(u, p) * Math.pow(v, q);
            }
        }
        return row;
    }

    private double[][] square(double[] fitted) {
        double[][] c = new double[order + 1][order + 1];
        int k = 0;
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++) {
                c[p][q] = fitted[k++] / Math.pow(reachX, p + q);
            }
        }
        return c;
    }

    /** Reads the keywords; empty if the header has none. */
    static Optional<Sip> from(Header header) {
        int order = (int) Math.max(
                header.number("A_ORDER").orElse(0), header.number("B_ORDER").orElse(0));
        if (order < 2 || order > 9) {
            return Optional.empty();
        }
        double[][] a = new double[order + 1][order + 1];
        double[][] b = new double[order + 1][order + 1];
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++) {
                a[p][q] = header.number(String.format(Locale.ROOT, "A_%d_%d", p, q))
                        .orElse(0);
                b[p][q] = header.number(String.format(Locale.ROOT, "B_%d_%d", p, q))
                        .orElse(0);
            }
        }
        return Optional.of(new Sip(
                order,
                a,
                b,
                header.number("NAXIS1").orElse(2000) / 2,
                header.number("NAXIS2").orElse(2000) / 2));
    }
}
