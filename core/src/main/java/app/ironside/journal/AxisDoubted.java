package app.ironside.journal;

import java.time.Instant;

/**
 * Stars drift as they would not if the polar axis still stood where it was measured.
 *
 * @param since from when
 * @param leastArcmin by which it is off that place at least
 * @param driftArcsecPerMinute in declination, north positive
 * @param expectedArcsecPerMinute by the axis as it was measured
 */
public record AxisDoubted(
        Instant time,
        String text,
        Instant since,
        double leastArcmin,
        double driftArcsecPerMinute,
        double expectedArcsecPerMinute)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.POLAR;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
