package app.ironside.journal;

import java.time.Instant;
import java.util.OptionalDouble;

/**
 * Step and slack of a focuser whose gearing nobody knows were measured by the stars.
 *
 * @param outSteps by which stars grow to a few times their size in focus
 * @param grown so many times
 * @param points of a sweep
 * @param stepSteps from point to point that follows
 * @param backlashSteps by which a sweep inward and one outward disagree; empty if it could not be measured
 * @param backlashSigma its standard error
 */
public record FocuserMeasured(
        Instant time,
        String text,
        int outSteps,
        double grown,
        int points,
        int stepSteps,
        OptionalDouble backlashSteps,
        OptionalDouble backlashSigma)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.FOCUS;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
