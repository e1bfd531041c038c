package app.ironside.focus;

import java.util.ArrayList;
import java.util.List;

/**
 * Points of a sweep that stand far off the curve of all the others. Each pair, then each point, is left out in turn: where it is a gust or a
 * cloud, the others agree among themselves and it stands many of their deviations away. A sweep that scatters everywhere has none.
 */
final class FocusOutliers {
    /** So many must be left to agree with one another: three make a curve, and chance makes four agree. */
    private static final int FEWEST_LEFT = 6;

    private static final int MOST = 2;

    /** Of the others' own scatter. */
    private static final double SIGMAS = 6;

    /** Less than this share of the size due does no harm. */
    private static final double LEAST_SHARE = 0.15;

    /** A curve through all points that misses none of them by more than this needs no point left out. */
    private static final double AGREED_SHARE = 0.1;

    /** No sizes agree better than to this share, whatever few points seem to say. */
    private static final double LEAST_SCATTER = 0.01;

    private static final int CURVE = 3;

    private FocusOutliers() {}

    /** The points to set aside, in the order of the sweep; empty if there are none, or too many. */
    static List<FocusSample> of(List<FocusSample> sorted) {
        double[] whole = FocusCurve.fitHyperbola(sorted);
        if (sorted.stream().allMatch(s -> Math.abs(off(s, whole)) < AGREED_SHARE)) {
            return List.of(); // a sweep with its focus at one end can do without its sharpest points, and be wrong
        }
        for (int count = Math.min(MOST, sorted.size() - FEWEST_LEFT); count >= 1; count--) {
            List<FocusSample> found = best(sorted, count);
            if (!found.isEmpty()) {
                return found;
            }
        }
        return List.of();
    }

    /** Of all choices of so many points the one whose others agree best, if each of its points stands far off them. */
    private static List<FocusSample> best(List<FocusSample> sorted, int count) {
        List<FocusSample> best = List.of();
        double least = Double.POSITIVE_INFINITY;
        for (int i = 0; i < sorted.size(); i++) {
            for (int j = count == 1 ? i : i + 1; j < (count == 1 ? i + 1 : sorted.size()); j++) {
                List<FocusSample> out = count == 1 ? List.of(sorted.get(i)) : List.of(sorted.get(i), sorted.get(j));
                List<FocusSample> rest = new ArrayList<>(sorted);
                rest.removeIf(s -> out.stream().anyMatch(o -> o == s));
                double[] abc = FocusCurve.fitHyperbola(rest);
                double scatter = scatter(rest, abc);
                if (scatter < least) {
                    least = scatter;
                    best = out.stream().allMatch(o -> isFarOff(o, abc, scatter)) && isBetween(rest, abc[2])
                            ? out
                            : List.of();
                }
            }
        }
        return best;
    }

    /** A sweep that loses its focus with the points that are left out has lost the sharpest of them, and not a gust. */
    private static boolean isBetween(List<FocusSample> rest, double focus) {
        return rest.get(0).position() < focus
                && focus < rest.get(rest.size() - 1).position();
    }

    /** Deviation from the curve as a share of the size due there, with what the curve took of it given back. */
    private static double scatter(List<FocusSample> rest, double[] abc) {
        double sum = 0;
        for (FocusSample s : rest) {
            double off = off(s, abc);
            sum += off * off;
        }
        return Math.max(LEAST_SCATTER, Math.sqrt(sum / (rest.size() - CURVE)));
    }

    private static double off(FocusSample s, double[] abc) {
        double due = FocusCurve.hyperbolaSize(abc, s.position());
        return (s.size() - due) / Math.max(1e-6, due);
    }

    private static boolean isFarOff(FocusSample s, double[] abc, double scatter) {
        return Math.abs(off(s, abc)) > Math.max(LEAST_SHARE, SIGMAS * scatter);
    }
}
