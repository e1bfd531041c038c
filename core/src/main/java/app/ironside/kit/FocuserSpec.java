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
    /** A ring turned by hand can be set to about half the critical zone, and has no ends that matter. */
    private static final int HAND_STEPS = 2000;

    /** A lens or draw tube without a motor: a step is the least that a hand turns, half of the zone that is in focus. */
    public static FocuserSpec byHand(Optics optics) {
        return new FocuserSpec(Sampling.criticalFocusUm(optics.focalRatio()) / 2, HAND_STEPS, HAND_STEPS / 2, 0);
    }

    public FocuserSpec {
        Check.positive("stepUm", stepUm);
        Check.atLeast("maxSteps", maxSteps, 1);
        Check.inRange("startSteps", startSteps, 0, maxSteps);
        Check.inRange("backlashSteps", backlashSteps, 0, maxSteps);
    }
}
