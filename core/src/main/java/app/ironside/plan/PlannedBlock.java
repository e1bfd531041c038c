package app.ironside.plan;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Optional;

/**
 * One target's part of the night.
 *
 * @param flip when the telescope changes sides, if that falls inside
 * @param subs that fit, overheads counted
 * @param done subs of it that were taken before a stop
 */
public record PlannedBlock(
        TargetPlan target, TargetWindow window, Interval span, Optional<Instant> flip, int subs, int done) {}
