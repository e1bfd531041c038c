package app.ironside.journal;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Optional;

/**
 * What a night was to do with one target.
 *
 * @param seconds of one sub, in the mean where filters differ
 * @param flip when the mount changes sides, if it does within the block
 * @param transit when the target stands highest
 * @param effectiveHours worth of the target's whole window, in hours at the zenith without Moon
 */
public record BlockPlanned(
        Instant time,
        String text,
        String target,
        int subs,
        double seconds,
        Interval span,
        Optional<Instant> flip,
        Instant transit,
        double transitAltitudeDeg,
        double usableHours,
        double effectiveHours,
        double moonSeparationDeg)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.PLAN;
    }
}
