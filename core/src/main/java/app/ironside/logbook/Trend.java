package app.ironside.logbook;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.hipparchus.distribution.continuous.TDistribution;

/**
 * A straight line through subs of many nights. Subs of one night are alike in much that is not asked about, so that each night counts as one
 * witness: the error of the slope is by leaving out a night at a time, which any likeness within nights does not mislead.
 *
 * @param subs how many
 * @param nights how many
 * @param from least x
 * @param until largest x
 * @param slopeError standard error; NaN with fewer than three nights
 * @param slopeWithin half of the interval that holds the slope with 95 %; NaN as the error
 * @see "Cameron and Miller 2015, J. Human Resources 50, 317, section VI: the jackknife by clusters, CV3, and Student's t with G − 1 degrees of
 *     freedom for G of them"
 */
public record Trend(
        int subs,
        int nights,
        double from,
        double until,
        double intercept,
        double slope,
        double slopeError,
        double slopeWithin) {
    private static final int FEWEST_SUBS = 5;
    private static final int FEWEST_NIGHTS = 3;

    /** With fewer the interval itself is a guess. */
    private static final int ENOUGH_NIGHTS = 8;

    private static final double SURE = 0.975;

    /** Fits it; empty with fewer than five subs, or if x does not differ. */
    public static Optional<Trend> of(List<SubSearch.Point> points) {
        int n = points.size();
        if (n < FEWEST_SUBS) {
            return Optional.empty();
        }
        double meanX = points.stream().mapToDouble(SubSearch.Point::x).average().orElseThrow();
        double meanY = points.stream().mapToDouble(SubSearch.Point::y).average().orElseThrow();
        double xx = 0;
        double xy = 0;
        double from = Double.POSITIVE_INFINITY;
        double until = Double.NEGATIVE_INFINITY;
        for (SubSearch.Point p : points) {
            xx += (p.x() - meanX) * (p.x() - meanX);
            xy += (p.x() - meanX) * (p.y() - meanY);
            from = Math.min(from, p.x());
            until = Math.max(until, p.x());
        }
        if (!(xx > 1e-12 * (1 + meanX * meanX))) {
            return Optional.empty();
        }
        double slope = xy / xx;
        Map<Long, Sums> byNight = new HashMap<>();
        Sums all = new Sums();
        for (SubSearch.Point p : points) {
            all.add(p.x() - meanX, p.y() - meanY);
            byNight.computeIfAbsent(p.night(), k -> new Sums()).add(p.x() - meanX, p.y() - meanY);
        }
        int nights = byNight.size();
        double error = Double.NaN;
        double within = Double.NaN;
        if (nights >= FEWEST_NIGHTS) {
            double squares = byNight.values().stream()
                    .mapToDouble(night -> all.slopeWithout(night) - slope)
                    .map(d -> d * d)
                    .sum();
            error = Math.sqrt((nights - 1.0) / nights * squares);
            error = Double.isFinite(error) ? error : Double.NaN; // only one night tells of x
            within = error * new TDistribution(nights - 1.0).inverseCumulativeProbability(SURE);
        }
        return Optional.of(new Trend(n, nights, from, until, meanY - slope * meanX, slope, error, within));
    }

    /** Sums over some subs, from the middle of all. */
    private static final class Sums {
        private double n;
        private double x;
        private double y;
        private double xx;
        private double xy;

        void add(double dx, double dy) {
            n++;
            x += dx;
            y += dy;
            xx += dx * dx;
            xy += dx * dy;
        }

        /** What the slope would be without a night; NaN if only that night tells any. */
        double slopeWithout(Sums night) {
            double m = n - night.n;
            double sx = x - night.x;
            return (xy - night.xy - sx * (y - night.y) / m) / (xx - night.xx - sx * sx / m);
        }
    }

    /** Whether the slope stands out of its error. */
    public boolean isSure() {
        return slopeWithin < Math.abs(slope);
    }

    public double at(double x) {
        return intercept + slope * x;
    }

    /** The slope with its error, and what can be said of it. */
    public String sentence(SubFact x, SubFact y) {
        String per = (y.unit().isEmpty() ? y.words() : y.unit()) + " per "
                + (x.unit().isEmpty() ? x.words() : x.unit());
        String of = String.format(Locale.ROOT, "%d subs of %d night%s", subs, nights, nights == 1 ? "" : "s");
        if (Double.isNaN(slopeError)) {
            return String.format(
                    Locale.ROOT, "%s %s over %s: too few nights to tell how sure that is.", number(slope), per, of);
        }
        String what =
                String.format(Locale.ROOT, "%s ± %s %s (95 %%), over %s", number(slope), number(slopeWithin), per, of);
        String few = nights < ENOUGH_NIGHTS ? " With so few nights the error is rough." : "";
        return what + (isSure() ? "." : ": it does not stand out of its error, which leaves it open.") + few;
    }

    private static String number(double value) {
        double size = Math.abs(value);
        return String.format(
                Locale.ROOT, size >= 100 ? "%.0f" : size >= 1 ? "%.2f" : size >= 0.01 ? "%.3f" : "%.2g", value);
    }
}
