package app.ironside.polar;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * Tells from the drift in declination, sub after sub, that the axis is no longer where it was measured: somebody touched the mount, or
 * the ground gives. One drift tells one part of the error only, so that what it gives is the least it can be.
 */
public final class AxisWatch {
    /** So many drifts in a row must agree: a cable that pulls passes, an axis stays where it is. */
    private static final int IN_A_ROW = 3;

    /** And as long as this: short subs agree by chance. */
    private static final Duration LONG_ENOUGH = Duration.ofMinutes(8);

    private static final double SIGMAS = 3;

    /** Flexure and a refracted sky make a guide star drift by as much as an axis off by less than this. */
    private static final double LEAST_ARCMIN = 3;

    private final DriftFinder drifts;
    private final List<Excess> row = new ArrayList<>();
    private boolean told;

    private record Excess(Instant since, double seen, double expected, double least) {}

    /**
     * The axis has moved.
     *
     * @param since from when the drift did not fit
     * @param leastArcmin from where it was measured
     * @param seenArcsecPerMinute drift, north positive
     * @param expectedArcsecPerMinute drift by the axis as measured
     */
    public record Moved(
            Instant since, double leastArcmin, double seenArcsecPerMinute, double expectedArcsecPerMinute) {}

    public AxisWatch(DriftFinder drifts) {
        this.drifts = drifts;
    }

    /** The axis was measured anew. */
    public void begin() {
        row.clear();
        told = false;
    }

    /** What was watched before belongs to another star, or to a mount that was moved by hand. */
    public void breakOff() {
        row.clear();
    }

    /**
     * Takes a drift.
     *
     * @param upArcmin how much too high the axis was measured to be
     * @param eastArcmin how much too far east
     * @param uncertaintyArcmin of that
     * @return once, when it is sure
     */
    public Optional<Moved> add(
            DriftFinder.DriftSight sight, double upArcmin, double eastArcmin, double uncertaintyArcmin) {
        double expected = drifts.expectedArcsecPerMinute(sight, upArcmin, eastArcmin);
        double excess = sight.driftArcsecPerMinute() - expected;
        double perArcmin = DriftFinder.WORST_ARCSEC_PER_MINUTE_AN_ARCMIN;
        double noise = Math.hypot(sight.sigmaArcsecPerMinute(), perArcmin * uncertaintyArcmin);
        double least = excess / perArcmin;
        if (Math.abs(excess) < SIGMAS * noise || Math.abs(least) < LEAST_ARCMIN) {
            row.clear();
            return Optional.empty();
        }
        if (!row.isEmpty() && Math.signum(row.get(0).least()) != Math.signum(least)) {
            row.clear();
        }
        row.add(new Excess(sight.start(), sight.driftArcsecPerMinute(), expected, least));
        Duration watched = Duration.between(row.get(0).since(), sight.start().plus(sight.watched()));
        if (told || row.size() < IN_A_ROW || watched.compareTo(LONG_ENOUGH) < 0) {
            return Optional.empty();
        }
        told = true;
        List<Excess> byLeast = new ArrayList<>(row);
        byLeast.sort(Comparator.comparingDouble(Excess::least));
        Excess middle = byLeast.get(byLeast.size() / 2);
        return Optional.of(new Moved(row.get(0).since(), Math.abs(middle.least()), middle.seen(), middle.expected()));
    }
}
