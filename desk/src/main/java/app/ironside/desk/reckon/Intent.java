package app.ironside.desk.reckon;

import app.ironside.focus.FilterOffsets;
import app.ironside.guide.GuideRules;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Equipment;
import app.ironside.plan.CalibrationPlan;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.GuideOptics;
import app.ironside.plan.SetUp;
import java.util.List;

/** What a button or a card of the right column is for. States name it; who shows them carries it out. */
public sealed interface Intent {
    /** Add the target that is looked at to the night. */
    record AddLookedAt() implements Intent {}

    /** Arrange the night's targets. */
    record Arrange() implements Intent {}

    /** Take the arranged plan that is shown. */
    record TakeArranged() implements Intent {}

    /** Leave the plan as it was before it was arranged. */
    record LeaveArranged() implements Intent {}

    /** Take the targets that have no time out of the plan. */
    record DropUnplaced() implements Intent {}

    /** Show the ways in which the plan can be rehearsed. */
    record ShowRehearsals() implements Intent {}

    /** Rehearse the plan without pixels, once. */
    record RehearseInSeconds() implements Intent {}

    /** Rehearse the plan without pixels, under a hundred nights of a year. */
    record RehearseManyTimes() implements Intent {}

    /** Run the plan against the simulated observatory, with pixels. */
    record Rehearse() implements Intent {}

    /** Run the plan with the real devices of the kit. */
    record BeginNight() implements Intent {}

    /** Take the filters in turns, or each in a block. */
    record FiltersInTurns(boolean inTurns) implements Intent {}

    /** Take broad light under the Moon as well. */
    record BroadUnderMoon(boolean allowed) implements Intent {}

    /** Set the main camera to a point of its gain curve. */
    record Gain(Equipment.GainPoint point) implements Intent {}

    /** Guide by a prism or by a telescope of its own. */
    record GuideBy(GuideOptics optics) implements Intent {}

    /** Take what is chosen in natural colour, or in the light of its lines. */
    record Light(boolean narrow) implements Intent {}

    /** Keep a sub, or leave it out, over the rule book. */
    record MarkSub(SubTaken sub, boolean keep) implements Intent {}

    /** Leave out a sub and all that follow it on its target. */
    record CutFrom(SubTaken sub) implements Intent {}

    /** Take back the last verdicts given by hand. */
    record TakeBackMarks() implements Intent {}

    /** Put the focal length that the stars showed into the kit of that name, mm. */
    record FocalLength(String kit, double mm) implements Intent {}

    /** Plan subs of another length for a target, whichever is looked at. */
    record SubLengthOf(String target, double seconds) implements Intent {}

    /** Plan subs of another length. */
    record SubLength(double seconds) implements Intent {}

    /** Guide by other rules: in the plan, and in the night that runs. */
    record GuideByRules(GuideRules rules) implements Intent {}

    /** Take so many darks of each length. */
    record Frames(CalibrationPlan.Kind kind, int count) implements Intent {}

    /** Bring the kit up another way. */
    record SetUpBy(SetUp setUp) implements Intent {}

    /** Look for focus at other occasions. */
    record FocusBy(FocusTriggers triggers) implements Intent {}

    /**
     * Put filters' offsets that were measured into the kit of that name.
     *
     * @param reference the filter that they are counted from
     */
    record FilterSteps(String kit, String reference, List<FilterOffsets.Offset> offsets) implements Intent {}

    /** Put the slack that was measured into the kit of that name, steps. */
    record FocuserSlack(String kit, int steps) implements Intent {}
}
