package app.ironside.kit;

import app.ironside.Check;

/**
 * A motor focuser.
 *
 * @param stepUm travel of the focal plane for one step, micrometres
 * @param maxSteps the outer end; the inner end is 0
 * @param startSteps where it stands after power-up
 * @param backlashSteps steps lost when the direction turns; an upper limit is enough
 */
public record FocuserSpec(double stepUm, int maxSteps, int startSteps, int backlashSteps) {
    public FocuserSpec {
        Check.positive("stepUm", stepUm);
        Check.atLeast("maxSteps", maxSteps, 1);
        Check.inRange("startSteps", startSteps, 0, maxSteps);
        Check.inRange("backlashSteps", backlashSteps, 0, maxSteps);
    }
}
