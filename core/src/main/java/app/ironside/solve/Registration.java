package app.ironside.solve;

import app.ironside.image.Statistics;
import app.ironside.solve.FieldMatcher.Pair;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
 * @param fluxRatio how bright the stars are in the frame, over the reference; the mean over the field
 */
public record Registration(PlaneTransform transform, int pairs, double rmsPx, double fluxRatio) {
    /** Fluxes of fainter stars are too uncertain to tell a ratio by. */
    private static final double SURE_SNR = 20;

    /** Stars that no thin cloud hides. */
    private static final double BRIGHT_SNR = 50;

    private static final int ZONES = 3;
    private static final int ENOUGH_IN_ZONE = 2;

    /** Less of the light than this, and such a star is not found. */
    private static final double DARK_ZONE = 0.1;

    private static final double EDGE_PX = 12;
    private static final double NEAR_PX = 6;
    private static final int ROUNDS = 5;
    private static final double CLIP_SIGMAS = 3;
    private static final int FEWEST_PAIRS = 5;

    /** Registers a frame by its stars; empty if they do not match the reference's. */
    public static Optional<Registration> of(StarField reference, StarField other) {
        return FieldMatcher.match(reference, other).flatMap(pairs -> fit(pairs, reference, other));
    }

    /**
     * As {@link #of}, and by more than shift, turn, scale and shear where the frames show that the optics bend the field: of wide fields that
     * were pointed anew, and of frames of several cameras.
     */
    public static Optional<Registration> ofBentFields(StarField reference, StarField other) {
        return FieldMatcher.match(reference, other).flatMap(matched -> {
            Optional<Registration> flat = fit(matched, reference, other);
            return flat.flatMap(f -> new BentFit(reference, other, new StarPlaces(other))
                            .from(f.transform(), matched)
                            .map(bent -> new Registration(
                                    bent.transform(),
                                    bent.pairs().size(),
                                    bent.rmsPx(),
                                    fluxRatio(bent.pairs(), bent.transform(), reference, other))))
                    .or(() -> flat);
        });
    }

    private static Optional<Registration> fit(List<Pair> matched, StarField reference, StarField other) {
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
        return Optional.of(new Registration(
                last, used.size(), Math.sqrt(squares / used.size()), fluxRatio(used, last, reference, other)));
    }

    /**
     * The mean over the zones of the field: cloud may cover half of it. A zone of which bright stars should be there and none is found is
     * dark.
     */
    private static double fluxRatio(List<Pair> pairs, PlaneTransform t, StarField reference, StarField other) {
        Map<Integer, List<Double>> ratios = new HashMap<>();
        Map<Integer, Integer> missing = new HashMap<>();
        // The very stars: what they are like is not asked.
        Set<Star> paired = Collections.newSetFromMap(new IdentityHashMap<>());
        StarPlaces places = new StarPlaces(other);
        for (Pair p : pairs) {
            paired.add(p.a());
            if (p.a().snr() >= BRIGHT_SNR || p.a().snr() >= SURE_SNR && p.b().snr() >= SURE_SNR) {
                ratios.computeIfAbsent(zone(p.a(), reference), z -> new ArrayList<>())
                        .add(p.b().fluxAdu() / p.a().fluxAdu());
            }
        }
        for (Star star : reference.stars()) {
            if (star.snr() < BRIGHT_SNR || paired.contains(star)) {
                continue;
            }
            double x = t.x(star.x(), star.y());
            double y = t.y(star.x(), star.y());
            boolean within = x > EDGE_PX && y > EDGE_PX && x < other.width() - EDGE_PX && y < other.height() - EDGE_PX;
            if (within && !places.anyWithin(x, y, NEAR_PX)) {
                missing.merge(zone(star, reference), 1, Integer::sum);
            }
        }
        double[] zones = java.util.stream.IntStream.range(0, ZONES * ZONES)
                .filter(z -> ratios.getOrDefault(z, List.of()).size() >= ENOUGH_IN_ZONE
                        || missing.getOrDefault(z, 0) >= ENOUGH_IN_ZONE
                                && missing.get(z)
                                        > 2 * ratios.getOrDefault(z, List.of()).size())
                .mapToDouble(z -> missing.getOrDefault(z, 0)
                                > 2 * ratios.getOrDefault(z, List.of()).size()
                        ? DARK_ZONE
                        : Statistics.median(ratios.get(z).stream()
                                .mapToDouble(Double::doubleValue)
                                .toArray()))
                .toArray();
        if (zones.length >= ZONES) {
            return java.util.Arrays.stream(zones).average().orElseThrow();
        }
        double[] sure = ratios.values().stream()
                .flatMap(List::stream)
                .mapToDouble(Double::doubleValue)
                .toArray();
        return sure.length > 0
                ? Statistics.median(sure)
                : Statistics.median(pairs.stream()
                        .mapToDouble(p -> p.b().fluxAdu() / p.a().fluxAdu())
                        .toArray());
    }

    private static int zone(Star star, StarField field) {
        int column = (int) Math.min(ZONES - 1, Math.max(0, star.x() * ZONES / field.width()));
        int row = (int) Math.min(ZONES - 1, Math.max(0, star.y() * ZONES / field.height()));
        return row * ZONES + column;
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
