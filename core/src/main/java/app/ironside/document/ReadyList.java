package app.ironside.document;

import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.plan.BalanceBy;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Angles;
import app.ironside.sky.Site;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The written order of steps for a kit: what has no motor is left out, what a lesson added comes last.
 *
 * @param steps in an order that honours each step's {@link ReadyStep#after}
 */
public record ReadyList(List<ReadyStep> steps) {
    /** Two angles that differ by less are one. */
    private static final double NEXT_ANGLE_DEG = 2;

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
        byHandAfter(steps, kit, program);
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
        if (!e.rotator()) {
            cameraAngle(program)
                    .ifPresent(angle -> steps.add(ReadyStep.byHand("camera angle", angle)
                            .after(
                                    "load",
                                    "a turn later shifts the camera's weight and opens the flats' dust to doubt")));
        }
        if (e.needsBalance() && e.goTo()) {
            balance(steps, program.setUp().balanceBy(), attitude(site, program));
        } else if (e.needsBalance()) {
            steps.add(ReadyStep.byHand(
                            "balance",
                            "the axis stays where it is left, with everything on, at " + attitude(site, program))
                    .after("load", "anything added later upsets it")
                    .ifNot("The camera sinks to one side: set its head nearer to the axis, or turn the camera in it."));
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

    /** The camera stands as the first target that wants an angle wants it; the others are told. */
    private static Optional<String> cameraAngle(Program program) {
        List<TargetPlan> turned =
                program.targets().stream().filter(t -> t.angleDeg().isPresent()).toList();
        if (turned.isEmpty()) {
            return Optional.empty();
        }
        double first = turned.get(0).angleDeg().get();
        String others = turned.stream()
                .filter(t -> Math.abs(Angles.wrap180(t.angleDeg().get() - first)) > NEXT_ANGLE_DEG)
                .map(t -> String.format(
                        Locale.ROOT, "%s wants %.0f°", t.name(), t.angleDeg().get()))
                .collect(Collectors.joining(", "));
        return Optional.of(String.format(
                Locale.ROOT,
                "it stands at %.0f°, as %s wants it%s",
                first,
                turned.get(0).name(),
                others.isEmpty() ? "" : "; " + others));
    }

    private static void balance(List<ReadyStep> steps, BalanceBy by, String attitude) {
        switch (by) {
            case IN_STEPS -> inSteps(steps, attitude);
            case AT_ATTITUDE -> steps.add(ReadyStep.byHand(
                            "balance",
                            "everything on, both axes free, halfway up and at " + attitude
                                    + ": each stays where it is left")
                    .after("load", "anything added later upsets it")
                    .ifNot(
                            "The right-ascension axis turns: move the weights. The tube tips: slide it. Both at a slant only: something hangs to"
                                    + " one side."));
            case ANYWHERE -> steps.add(ReadyStep.byHand(
                            "balance",
                            "both clutches loose: it stays with the weights down, with the tube out to each side, and halfway up")
                    .after("load", "anything added later upsets it")
                    .ifNot(
                            "It stays in one attitude and turns in another: the weight is off the axis by a little in two directions. Offset masses:"
                                    + " a small one opposite to what hangs to a side, for each axis by itself."));
        }
    }

    /**
     * Weight in three directions (common practice): along the bar, along the tube, and to its side, which shows only when the tube lies on
     * its side.
     */
    private static void inSteps(List<ReadyStep> steps, String attitude) {
        steps.add(ReadyStep.byHand(
                        "balance, bar",
                        "declination locked, bar level, the right-ascension axis free: a push by one finger moves it, and it stays where it is left")
                .after("load", "anything added later upsets it")
                .ifNot(
                        "The weights sink: move them up the bar. The telescope sinks: move them out. It moves stiffly: it hides what is"
                                + " out of balance; warm or loosen the axis first."));
        steps.add(ReadyStep.byHand(
                        "balance, tube",
                        "bar level and locked, tube level, the declination axis free: it stays where it is left")
                .after("balance, bar", "the tube is only level on a level bar")
                .ifNot("The front sinks: slide the tube backward in its saddle. The camera sinks: slide it forward."));
        steps.add(ReadyStep.byHand(
                        "balance, side",
                        "the declination axis free: it stays with the weights down and the tube at the pole, and with the tube out to the side")
                .after("balance, tube", "what is left now hangs to one side")
                .ifNot(
                        "It stays in one of the two and turns in the other: something hangs to one side, a guide telescope, a finder, a cable. Turn"
                                + " the tube in its rings, or hang a small weight opposite."));
        steps.add(
                ReadyStep.byHand(
                                "balance",
                                "both axes free, with everything on, halfway up and at " + attitude
                                        + ": each stays where it is left")
                        .after("balance, side", "all three directions count at a slant")
                        .ifNot(
                                "It drifts at a slant only: go back to the first position that drifts, and tie the cables as they will hang."));
    }

    private static String load(Equipment e) {
        if (e.loadKg() == 0) {
            return "telescope and cameras are on";
        }
        return e.ratingKg()
                .map(limit -> String.format(
                        Locale.ROOT,
                        "everything is on%s: %.1f of %.1f kg",
                        e.needsCounterweight() ? ", the counterweight too" : "",
                        e.loadKg(),
                        limit))
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
            steps.add(ReadyStep.measured("home", "the mount starts from its home, before anything else points"));
            steps.add(ReadyStep.measured("mount", "a commanded turn happens")
                    .after("home", "from anywhere else it would turn by a wrong idea of where it stands"));
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
        if (kit.equipment().heated() && !kit.equipment().heaters().isEmpty()) {
            steps.add(ReadyStep.measured("heaters", "they draw current"));
        }
        if (kit.sensor().cooled()) {
            steps.add(ReadyStep.measured("cooler", "the set point is reached and held"));
        }
    }

    private static void byHandAfter(List<ReadyStep> steps, Kit kit, Program program) {
        String travel = "nothing catches through the whole travel, past the meridian and back";
        if (kit.equipment().goTo() && program.setUp().sweepAxes()) {
            steps.add(ReadyStep.measured("cables", travel)
                    .after(
                            "mount",
                            "the axes go piece by piece and stop for you to look: stand where you see every cable"));
        } else if (kit.equipment().goTo()) {
            steps.add(ReadyStep.byHand("cables", travel)
                    .after("mount", "turn the axes with the hand controller, slowly, and watch"));
        }
        if (kit.equipment().goTo()) {
            steps.add(ReadyStep.byHand("link", "a second device reaches this machine too, tried just now")
                    .ifNot(
                            "If the one you hold fails at two in the morning nobody can stop the night but at the telescope: take a second,"
                                    + " or stay near."));
        }
        steps.add(ReadyStep.byHand("caps", "main and guide optics are open, the hood waits until focus is found"));
        if (!kit.equipment().goTo() || program.setUp().polarBy().byReticle()) {
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
