package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.hipparchus.distribution.continuous.FDistribution;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

/** Weighted, clipped least-squares fit of a tangent-plane WCS to matched stars, with distortion where the stars prove it. */
final class WcsFit {
    private static final double CLIP_SIGMAS = 3.5;
    private static final int CLIP_ROUNDS = 4;
    private static final int REFERENCE_ROUNDS = 3;

    /** Stars wanted for each coefficient of an axis before distortion is fitted. */
    private static final int STARS_A_COEFFICIENT = 3;

    private static final int HIGHEST_ORDER = 4;

    /** Chance that noise improves the fit as much as the distortion did. */
    private static final double MOST_CHANCE = 1e-4;

    /**
     * A star of the picture, FITS pixels, and its place in the catalogue.
     *
     * @param sigmaPx of the star's place, an axis
     */
    record Match(double x, double y, Equatorial sky, double sigmaPx) {}

    /** A fit with the residual of its stars, both axes together. */
    record Result(Wcs wcs, List<Match> used, double rmsArcsec) {}

    private final int width;
    private final int height;

    private WcsFit(int width, int height) {
        this.width = width;
        this.height = height;
    }

    /** Fits without distortion, drops stars far off the rest, fits again. Empty with fewer than 4 stars or stars in a line. */
    static Optional<Result> fit(List<Match> matches, int width, int height, Equatorial startCentre) {
        return new WcsFit(width, height).clipped(matches, startCentre, 1);
    }

    /** As {@link #fit}, with as much distortion as the stars prove beyond chance (F test of each further order). */
    static Optional<Result> refine(List<Match> matches, int width, int height, Equatorial startCentre) {
        WcsFit fit = new WcsFit(width, height);
        Optional<Result> best = fit.clipped(matches, startCentre, 1);
        for (int order = 2; order <= HIGHEST_ORDER && best.isPresent(); order++) {
            int more = terms(order);
            if (matches.size() < STARS_A_COEFFICIENT * more) {
                break;
            }
            Optional<Result> next = fit.clipped(matches, startCentre, order);
            if (next.isPresent() && fit.better(best.get(), next.get(), order)) {
                best = next;
            }
        }
        return best;
    }

    private static int terms(int order) {
        return (order + 1) * (order + 2) / 2;
    }

    /** Both fits are judged by the stars of the richer one. */
    private boolean better(Result plain, Result rich, int order) {
        int before = plain.wcs().distortion().map(d -> terms(d.order())).orElse(3);
        int after = terms(order);
        double simple = squares(rich.used(), plain.wcs());
        double complex = Math.max(1e-12, squares(rich.used(), rich.wcs()));
        int free = 2 * (rich.used().size() - after);
        if (free < 2) {
            return false;
        }
        double f = (simple - complex) / (2.0 * (after - before)) / (complex / free);
        return f > 0
                && rich.used().size() >= 0.9 * plain.used().size()
                && 1 - new FDistribution(2.0 * (after - before), free).cumulativeProbability(f) < MOST_CHANCE;
    }

    private Optional<Result> clipped(List<Match> matches, Equatorial startCentre, int order) {
        List<Match> used = matches;
        Equatorial centre = startCentre;
        Wcs wcs = null;
        for (int round = 0; round < CLIP_ROUNDS; round++) {
            Optional<Wcs> fitted =
                    used.size() < Math.max(4, terms(order)) ? Optional.empty() : solve(used, centre, order);
            if (fitted.isEmpty()) {
                return Optional.empty();
            }
            wcs = fitted.get();
            centre = wcs.reference();
            List<Match> kept = clip(used, wcs);
            if (kept.size() == used.size() || kept.size() < 4) {
                break;
            }
            used = kept;
        }
        return Optional.of(new Result(wcs, used, rms(used, wcs)));
    }

    /** The reference is brought to the middle of the frame, where the projection is truest. */
    private Optional<Wcs> solve(List<Match> matches, Equatorial start, int order) {
        double x0 = (width + 1) / 2.0;
        double y0 = (height + 1) / 2.0;
        double unit = Math.hypot(width, height) / 2;
        double[][] rows = new double[matches.size()][];
        double[] weight = new double[rows.length];
        for (int i = 0; i < rows.length; i++) {
            Match m = matches.get(i);
            // No star is trusted better than a twentieth of a pixel: the catalogue and the optics are not.
            weight[i] = 1 / Math.hypot(m.sigmaPx(), 0.05);
            rows[i] = powers((m.x() - x0) / unit, (m.y() - y0) / unit, order);
            for (int k = 0; k < rows[i].length; k++) {
                rows[i][k] *= weight[i];
            }
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(rows, false), 1e-10).getSolver();
        if (!solver.isNonSingular()) {
            return Optional.empty();
        }
        Equatorial reference = start;
        double[] a = null;
        double[] b = null;
        for (int round = 0; round < REFERENCE_ROUNDS; round++) {
            TangentPlane plane = new TangentPlane(reference);
            double[] xi = new double[rows.length];
            double[] eta = new double[rows.length];
            double[] place = new double[2];
            for (int i = 0; i < rows.length; i++) {
                Match m = matches.get(i);
                if (!plane.projectInto(m.sky().raDeg(), m.sky().decDeg(), place)) {
                    return Optional.empty();
                }
                xi[i] = place[0] * weight[i];
                eta[i] = place[1] * weight[i];
            }
            a = solver.solve(new ArrayRealVector(xi, false)).toArray();
            b = solver.solve(new ArrayRealVector(eta, false)).toArray();
            if (round < REFERENCE_ROUNDS - 1) {
                reference = plane.unproject(a[0], b[0]);
            }
        }
        return wcs(reference, a, b, order, unit);
    }

    /** Terms u^p v^q in the order 1, v, v², …, u, u v, …. */
    private static double[] powers(double u, double v, int order) {
        double[] row = new double[terms(order)];
        int k = 0;
        double up = 1;
        for (int p = 0; p <= order; p++) {
            double term = up;
            for (int q = 0; p + q <= order; q++) {
                row[k++] = term;
                term *= v;
            }
            up *= u;
        }
        return row;
    }

    private Optional<Wcs> wcs(Equatorial reference, double[] a, double[] b, int order, double unit) {
        double cd11 = a[order + 1] / unit;
        double cd12 = a[1] / unit;
        double cd21 = b[order + 1] / unit;
        double cd22 = b[1] / unit;
        double determinant = cd11 * cd22 - cd12 * cd21;
        if (Math.abs(determinant) < 1e-14) {
            return Optional.empty();
        }
        double x0 = (width + 1) / 2.0;
        double y0 = (height + 1) / 2.0;
        // What is left of the constant after the reference has been moved goes into the reference pixel.
        double crpixX = x0 - (cd22 * a[0] - cd12 * b[0]) / determinant;
        double crpixY = y0 - (cd11 * b[0] - cd21 * a[0]) / determinant;
        if (order == 1) {
            return Optional.of(new Wcs(reference, crpixX, crpixY, cd11, cd12, cd21, cd22));
        }
        double[][] f = new double[order + 1][order + 1];
        double[][] g = new double[order + 1][order + 1];
        int k = 0;
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++, k++) {
                if (p + q >= 2) {
                    double scale = Math.pow(unit, p + q);
                    f[p][q] = (cd22 * a[k] - cd12 * b[k]) / determinant / scale;
                    g[p][q] = (cd11 * b[k] - cd21 * a[k]) / determinant / scale;
                }
            }
        }
        Sip sip = new Sip(order, f, g, width / 2.0, height / 2.0);
        return Optional.of(new Wcs(reference, crpixX, crpixY, cd11, cd12, cd21, cd22, Optional.of(sip)));
    }

    private static List<Match> clip(List<Match> matches, Wcs wcs) {
        double[] residuals = matches.stream().mapToDouble(m -> residual(m, wcs)).toArray();
        // The median of a two-dimensional Gaussian's radius is 1.177 sigma.
        double limit = CLIP_SIGMAS * Math.max(Statistics.median(residuals) / 1.177, 0.02 * wcs.scaleArcsecPerPixel());
        List<Match> kept = new ArrayList<>();
        for (int i = 0; i < residuals.length; i++) {
            if (residuals[i] <= limit) {
                kept.add(matches.get(i));
            }
        }
        return kept;
    }

    private static double squares(List<Match> matches, Wcs wcs) {
        double sum = 0;
        for (Match match : matches) {
            double r = residual(match, wcs) / Math.hypot(match.sigmaPx(), 0.05);
            sum += r * r;
        }
        return sum;
    }

    private static double rms(List<Match> matches, Wcs wcs) {
        double sum = 0;
        for (Match match : matches) {
            double r = residual(match, wcs);
            sum += r * r;
        }
        return Math.sqrt(sum / matches.size());
    }

    private static double residual(Match match, Wcs wcs) {
        return 3600 * wcs.toSky(match.x(), match.y()).separationDeg(match.sky());
    }
}
