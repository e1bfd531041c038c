package app.ironside.document;

import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Site;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * The written order of steps for a kit: what has no motor is left out, what a lesson added comes last.
 *
 * @param steps in an order that honours each step's {@link ReadyStep#after}
 */
public record ReadyList(List<ReadyStep> steps) {
    public ReadyList {
        steps = List.copyOf(steps);
        Set<String> done = new HashSet<>();
        for (ReadyStep step : steps) {
            if (step.after().isPresent() && !done.contains(step.after().get().subject())) {
                throw new IllegalArgumentException("step " + step.subject() + " stands before "
                        + step.after().get().subject() + "; expected after it: "
                        + step.after().get().reason());
            }
            done.add(step.subject());
        }
    }

    /**
     * The list of a night.
     *
     * @param lessons what earlier nights taught, a step each
     */
    public static ReadyList of(Site site, Kit kit, Program program, List<String> lessons) {
        List<ReadyStep> steps = new ArrayList<>();
        byHandBefore(steps, site, kit, program);
        devices(steps, kit, program);
        byHandAfter(steps, kit);
        for (String lesson : lessons) {
            steps.add(ReadyStep.byHand("lesson", lesson));
        }
        return new ReadyList(steps);
    }

    private static void byHandBefore(List<ReadyStep> steps, Site site, Kit kit, Program program) {
        Equipment e = kit.equipment();
        String pole = site.latDeg() >= 0 ? "north" : "south";
        steps.add(ReadyStep.byHand("tripod", "it stands on its marks, firm and level"));
        steps.add(ReadyStep.byHand("base", "its polar side faces " + pole)
                .after("tripod", "on a level tripod the two knobs act independently"));
        steps.add(ReadyStep.byHand("clutches", "both axes are locked before anything is lifted on")
                .after("tripod", "nothing may swing while it is loaded"));
        steps.add(ReadyStep.byHand("load", load(e)).after("clutches", "nothing may swing while it is loaded"));
        if (!e.goTo()) {
            steps.add(ReadyStep.byHand(
                    "camera settings", "raw, manual, bulb, widest good aperture, white balance fixed"));
        }
        if (e.needsBalance()) {
            steps.add(ReadyStep.byHand(
                            "balance",
                            "each axis stays where it is left, with everything on, at " + attitude(site, program))
                    .after("load", "anything added later upsets it"));
        }
        if (kit.filters().size() > 1) {
            steps.add(ReadyStep.byHand(
                    "filters",
                    "the wheel really holds "
                            + String.join(
                                    " ",
                                    kit.filters().stream().map(f -> f.name()).toList()) + " in this order"));
        }
    }

    private static String load(Equipment e) {
        if (e.loadKg() == 0) {
            return "telescope and cameras are on";
        }
        return e.payloadLimitKg()
                .map(limit -> String.format(Locale.ROOT, "everything is on: %.1f of %.1f kg", e.loadKg(), limit))
                .orElse(String.format(Locale.ROOT, "everything is on: %.1f kg", e.loadKg()));
    }

    private static String attitude(Site site, Program program) {
        TargetPlan first = program.targets().get(0);
        double highest = 90 - Math.abs(site.latDeg() - first.position().decDeg());
        return String.format(Locale.ROOT, "the attitude of %s, up to %.0f° high", first.name(), highest);
    }

    private static void devices(List<ReadyStep> steps, Kit kit, Program program) {
        steps.add(ReadyStep.measured("disk", "room for the plan"));
        if (kit.equipment().supply().isPresent() && kit.equipment().goTo()) {
            steps.add(ReadyStep.measured("supply", "it feeds everything at once"));
        }
        if (kit.equipment().goTo()) {
            steps.add(ReadyStep.measured("mount", "a commanded turn happens"));
        }
        steps.add(ReadyStep.measured("camera", "a frame arrives"));
        if (kit.guideOptics().isPresent()) {
            steps.add(ReadyStep.measured("guide camera", "a frame arrives"));
        }
        if (kit.motorFocuser().isPresent()) {
            steps.add(ReadyStep.measured("focuser", "it answers, moves, and stands where it should"));
        }
        if (kit.filters().size() > 1) {
            steps.add(ReadyStep.measured("filter wheel", "the filter asked for is in place")
                    .after("filters", "a wrong table would be believed all night"));
        }
        if (program.calibrations().flatsPerFilter() > 0 && kit.equipment().goTo()) {
            steps.add(ReadyStep.measured("flat panel", "it opens"));
        }
        if (kit.equipment().heated()
                && kit.equipment().parts().stream().anyMatch(p -> p.name().contains("heater"))) {
            steps.add(ReadyStep.measured("heaters", "they draw current"));
        }
        if (kit.sensor().cooled()) {
            steps.add(ReadyStep.measured("cooler", "the set point is reached and held"));
        }
    }

    private static void byHandAfter(List<ReadyStep> steps, Kit kit) {
        if (kit.equipment().goTo()) {
            steps.add(ReadyStep.byHand("cables", "nothing catches through the whole travel, past the meridian and back")
                    .after("mount", "turn the axes with the hand controller, slowly, and watch"));
        }
        steps.add(ReadyStep.byHand("caps", "main and guide optics are open, the hood waits until focus is found"));
        if (!kit.equipment().goTo()) {
            steps.add(ReadyStep.byHand("pole star", "it stands in the reticle where it belongs at this minute")
                    .after(kit.equipment().needsBalance() ? "balance" : "load", "balancing afterwards moves the axis"));
        }
        if (kit.motorFocuser().isEmpty()) {
            steps.add(ReadyStep.byHand("focus", "sharp through the mask, ring taped, looked at again after locking"));
        }
    }

    /** What stands against a step now, in words; empty if it may be done. */
    public Optional<String> against(ReadyStep step, Set<String> done) {
        return step.after()
                .filter(order -> !done.contains(order.subject()))
                .map(order -> "First " + order.subject() + ": " + order.reason() + ".");
    }

    /** The step that comes after those that are done. */
    public Optional<ReadyStep> next(Set<String> done) {
        return steps.stream()
                .filter(s -> !done.contains(key(s)) && against(s, done).isEmpty())
                .findFirst();
    }

    /** By what a step is known as done: lessons are told apart by their text. */
    public static String key(ReadyStep step) {
        return step.subject().equals("lesson") ? step.what() : step.subject();
    }
}
