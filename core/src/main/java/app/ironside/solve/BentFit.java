package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

/**
 * Looks whether two frames differ by more than an affine map, and by what. It begins with the stars that such a map fits and goes outward
 * from them, since a corner may lie further off than stars lie apart.
 */
final class BentFit {
    /** Twenty numbers are fitted, two for each star. */
    private static final int FEWEST_PAIRS = 40;

    private static final int MOST_STARS = 600;

    /** How far from where the fit so far expects it a star may be. */
    private static final double NEAR_PX = 3;

    private static final int ROUNDS = 9;

    /** Each round reaches so much further from the middle of what was fitted. */
    private static final double OUTWARD = 1.25;

    private static final double CLIP_SIGMAS = 3.5;

    /** A centroid of a well sampled star is no better than this, whatever its light. */
    private static final double LEAST_ERROR_PX = 0.02;

    /** Within so much of an affine map everywhere, interpolation does more to a star than the bend. */
    private static final double WORTH_PX = 0.1;

    /** The variance that the bend takes away, over what it leaves: by chance once in a million sets of a hundred stars. */
    private static final double SURE_F = 4.5;

    private final StarField reference;
    private final StarField other;
    private final StarPlaces places;
    private final double cx;
    private final double cy;
    private final double half;

    /** @param places of the other frame's stars */
    BentFit(StarField reference, StarField other, StarPlaces places) {
        this.reference = reference;
        this.other = other;
        this.places = places;
        this.cx = (reference.width() + 1) / 2.0;
        this.cy = (reference.height() + 1) / 2.0;
        this.half = Math.max(reference.width(), reference.height()) / 2.0;
    }

    /**
     * A bent map with the stars that it pairs.
     *
     * @param rmsPx residual, both axes together
     */
    record Found(PlaneTransform transform, List<FieldMatcher.Pair> pairs, double rmsPx) {}

    /**
     * The bent map, if it fits clearly better than an affine one and differs from it enough to matter.
     *
     * @param affine that fits the frames' middle
     * @param fitted pairs of that fit
     */
    Optional<Found> from(PlaneTransform affine, List<FieldMatcher.Pair> fitted) {
        if (Math.min(reference.stars().size(), other.stars().size()) < FEWEST_PAIRS) {
            return Optional.empty();
        }
        PlaneTransform now = affine;
        double reach = reachOf(fitted);
        List<FieldMatcher.Pair> pairs = fitted;
        for (int round = 0; round < ROUNDS; round++) {
            pairs = clipped(paired(now, reach), now);
            if (pairs.size() < FEWEST_PAIRS) {
                return Optional.empty();
            }
            Optional<PlaneTransform> next = solved(pairs, true);
            if (next.isEmpty()) {
                return Optional.empty();
            }
            now = next.get();
            reach *= OUTWARD;
        }
        PlaneTransform bent = now;
        Optional<PlaneTransform> flat = solved(pairs, false);
        return flat.isEmpty() || !isWorth(bent, flat.get(), pairs)
                ? Optional.empty()
                : Optional.of(new Found(bent, pairs, Math.sqrt(squares(pairs, bent, p -> 1) / pairs.size())));
    }

    /** Whether chance would hardly make the bend (F test of nested models), and whether it moves anything. */
    private boolean isWorth(PlaneTransform bent, PlaneTransform flat, List<FieldMatcher.Pair> pairs) {
        if (bent.farthestFrom(flat, reference.width(), reference.height()) < WORTH_PX) {
            return false;
        }
        double with = squares(pairs, bent, BentFit::weight);
        double without = squares(pairs, flat, BentFit::weight);
        int more = 2 * Bend.TERMS;
        int free = 2 * pairs.size() - 6 - more;
        return (without - with) / more > SURE_F * with / free;
    }

    private double reachOf(List<FieldMatcher.Pair> fitted) {
        double[] away = fitted.stream().mapToDouble(p -> away(p.a())).sorted().toArray();
        return away[(int) (0.9 * (away.length - 1))];
    }

    private double away(Star star) {
        return Math.hypot(star.x() - cx, star.y() - cy);
    }

    private List<FieldMatcher.Pair> paired(PlaneTransform t, double reach) {
        List<FieldMatcher.Pair> pairs = new ArrayList<>();
        for (Star star : reference
                .stars()
                .subList(0, Math.min(MOST_STARS, reference.stars().size()))) {
            if (star.saturated() || away(star) > reach) {
                continue;
            }
            places.nearest(t.x(star.x(), star.y()), t.y(star.x(), star.y()), NEAR_PX)
                    .filter(s -> !s.saturated())
                    .ifPresent(s -> pairs.add(new FieldMatcher.Pair(star, s)));
        }
        return pairs;
    }

    /** Without those that lie far off; the newest ring lies off by what the fit does not know yet, so that much is allowed for. */
    private static List<FieldMatcher.Pair> clipped(List<FieldMatcher.Pair> pairs, PlaneTransform t) {
        if (pairs.isEmpty()) {
            return pairs;
        }
        double[] off = pairs.stream().mapToDouble(p -> residual(p, t)).toArray();
        double limit = CLIP_SIGMAS * Math.max(LEAST_ERROR_PX, Statistics.median(off) / 1.177) + 0.25;
        return pairs.stream().filter(p -> residual(p, t) <= limit).toList();
    }

    private static double residual(FieldMatcher.Pair pair, PlaneTransform t) {
        return Math.hypot(
                t.x(pair.a().x(), pair.a().y()) - pair.b().x(),
                t.y(pair.a().x(), pair.a().y()) - pair.b().y());
    }

    private static double squares(
            List<FieldMatcher.Pair> pairs, PlaneTransform t, ToDoubleFunction<FieldMatcher.Pair> weight) {
        return pairs.stream()
                .mapToDouble(p -> residual(p, t) * weight.applyAsDouble(p))
                .map(r -> r * r)
                .sum();
    }

    private static double weight(FieldMatcher.Pair pair) {
        return Math.min(100, Math.min(pair.a().snr(), pair.b().snr()));
    }

    private Optional<PlaneTransform> solved(List<FieldMatcher.Pair> pairs, boolean bend) {
        double[][] rows = new double[pairs.size()][];
        double[] xs = new double[pairs.size()];
        double[] ys = new double[pairs.size()];
        for (int i = 0; i < rows.length; i++) {
            FieldMatcher.Pair pair = pairs.get(i);
            double u = (pair.a().x() - cx) / half;
            double v = (pair.a().y() - cy) / half;
            double w = weight(pair);
            double[] terms = bend ? Bend.terms(u, v) : new double[0];
            rows[i] = new double[3 + terms.length];
            rows[i][0] = w;
            rows[i][1] = w * u;
            rows[i][2] = w * v;
            for (int k = 0; k < terms.length; k++) {
                rows[i][3 + k] = w * terms[k];
            }
            xs[i] = w * pair.b().x();
            ys[i] = w * pair.b().y();
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(rows, false), 1e-9).getSolver();
        if (!solver.isNonSingular()) {
            return Optional.empty();
        }
        double[] x = solver.solve(new ArrayRealVector(xs, false)).toArray();
        double[] y = solver.solve(new ArrayRealVector(ys, false)).toArray();
        PlaneTransform plane = new PlaneTransform(
                x[1] / half,
                x[2] / half,
                x[0] - (x[1] * cx + x[2] * cy) / half,
                y[1] / half,
                y[2] / half,
                y[0] - (y[1] * cx + y[2] * cy) / half);
        return Optional.of(
                bend
                        ? plane.bent(new Bend(
                                cx,
                                cy,
                                half,
                                java.util.Arrays.copyOfRange(x, 3, 3 + Bend.TERMS),
                                java.util.Arrays.copyOfRange(y, 3, 3 + Bend.TERMS)))
                        : plane);
    }
}
