package app.ironside.stack;

import app.ironside.image.Statistics;
import app.ironside.solve.FieldMatcher;
import app.ironside.solve.FieldMatcher.Pair;
import app.ironside.star.StarField;
import java.util.List;
import java.util.Optional;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;
import org.hipparchus.linear.RealVector;

/**
 * Where a frame lies on the reference.
 *
 * @param pairs stars in the fit
 * @param rmsPx their residual, both axes together
 * @param fluxRatio how bright the stars are in the frame, over the reference
 */
public record Registration(PlaneTransform transform, int pairs, double rmsPx, double fluxRatio) {
    /** Fluxes of fainter stars are too uncertain to tell a ratio by. */
    private static final double SURE_SNR = 20;

    private static final int ROUNDS = 5;
    private static final double CLIP_SIGMAS = 3;
    private static final int FEWEST_PAIRS = 5;

    /** Registers a frame by its stars; empty if they do not match the reference's. */
    public static Optional<Registration> of(StarField reference, StarField other) {
        return FieldMatcher.match(reference, other).flatMap(Registration::fit);
    }

    private static Optional<Registration> fit(List<Pair> matched) {
        List<Pair> used = matched.stream()
                .filter(p -> !p.a().saturated() && !p.b().saturated())
                .toList();
        used = used.size() >= 3 * FEWEST_PAIRS ? used : matched;
        PlaneTransform transform = null;
        for (int round = 0; round < ROUNDS; round++) {
            Optional<PlaneTransform> next = used.size() < FEWEST_PAIRS ? Optional.empty() : solve(used);
            if (next.isEmpty()) {
                return Optional.empty();
            }
            transform = next.get();
            PlaneTransform now = transform;
            double[] residuals =
                    used.stream().mapToDouble(p -> residual(p, now)).toArray();
            double limit = CLIP_SIGMAS * Math.max(0.02, Statistics.median(residuals) / 1.177);
            List<Pair> kept =
                    used.stream().filter(p -> residual(p, now) <= limit).toList();
            if (kept.size() == used.size() || kept.size() < FEWEST_PAIRS) {
                break;
            }
            used = kept;
        }
        PlaneTransform last = transform;
        double squares = used.stream()
                .mapToDouble(p -> residual(p, last))
                .map(r -> r * r)
                .sum();
        return Optional.of(new Registration(last, used.size(), Math.sqrt(squares / used.size()), fluxRatio(used)));
    }

    private static double fluxRatio(List<Pair> pairs) {
        double[] sure = pairs.stream()
                .filter(p -> p.a().snr() >= SURE_SNR && p.b().snr() >= SURE_SNR)
                .mapToDouble(p -> p.b().fluxAdu() / p.a().fluxAdu())
                .toArray();
        return sure.length > 0
                ? Statistics.median(sure)
                : Statistics.median(pairs.stream()
                        .mapToDouble(p -> p.b().fluxAdu() / p.a().fluxAdu())
                        .toArray());
    }

    private static double residual(Pair pair, PlaneTransform t) {
        double x = t.x(pair.a().x(), pair.a().y());
        double y = t.y(pair.a().x(), pair.a().y());
        return Math.hypot(x - pair.b().x(), y - pair.b().y());
    }

    /** Weighted least squares: a centroid is as good as its star's signal-to-noise, down to a floor set by the optics. */
    private static Optional<PlaneTransform> solve(List<Pair> pairs) {
        double[][] rows = new double[pairs.size()][];
        double[] xs = new double[pairs.size()];
        double[] ys = new double[pairs.size()];
        for (int i = 0; i < rows.length; i++) {
            Pair pair = pairs.get(i);
            double w = Math.min(100, Math.min(pair.a().snr(), pair.b().snr()));
            rows[i] = new double[] {w, w * pair.a().x() / 1000, w * pair.a().y() / 1000};
            xs[i] = w * pair.b().x();
            ys[i] = w * pair.b().y();
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(rows, false), 1e-9).getSolver();
        if (!solver.isNonSingular()) {
            return Optional.empty();
        }
        RealVector x = solver.solve(new ArrayRealVector(xs, false));
        RealVector y = solver.solve(new ArrayRealVector(ys, false));
        return Optional.of(new PlaneTransform(
                x.getEntry(1) / 1000,
                x.getEntry(2) / 1000,
                x.getEntry(0),
                y.getEntry(1) / 1000,
                y.getEntry(2) / 1000,
                y.getEntry(0)));
    }
}
