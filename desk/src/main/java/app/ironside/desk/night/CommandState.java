package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl;
import app.ironside.night.NightControl.GatePolicy;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * What a person may ask of the running night at a station, and when it will be taken. Pure.
 *
 * @param sentence the present safe point, or what the night waits for
 * @param waits whether the night waits for a person
 * @param needsReason whether what is offered first wants a reason for the journal
 * @param policy what is done when the station's gate is not passed; empty where there is no gate
 */
public record CommandState(
        String sentence, boolean waits, boolean needsReason, List<Offer> offers, Optional<GatePolicy> policy) {
    /** A worm turns once in so long, or more often; less shows no gear. */
    private static final int UNGUIDED_MINUTES = 8;

    private static final Duration LONGER = Duration.ofMinutes(15);

    /**
     * A command that makes sense now.
     *
     * @param sure whether it is asked again first
     */
    public record Offer(String id, String label, char key, Command command, boolean chief, boolean sure) {}

    /** Nothing runs. */
    public static CommandState idle(Stage station, GatePolicy policy) {
        return new CommandState("", false, false, List.of(), hasGate(station) ? Optional.of(policy) : Optional.empty());
    }

    /**
     * Of a night that runs.
     *
     * @param changedPlan the night file of the plan on the desk, if it could take the place of the one in force
     */
    public static CommandState of(
            Stage station,
            NightControl control,
            NightState night,
            Instant now,
            GatePolicy policy,
            Supplier<Optional<String>> changedPlan) {
        if (night.isWatched()) {
            return watched(control);
        }
        List<Offer> offers = new ArrayList<>();
        Optional<NightControl.Question> question = control.question();
        question.ifPresent(q -> offers.add(
                new Offer("overrule", "Go on all the same", 'H', new Command.Overrule(q.stage()), true, false)));
        if (control.isHeld()) {
            offers.add(new Offer("go-on-night", "Go on", 'H', new Command.GoOn(), true, false));
        }
        offers.addAll(own(station, night, changedPlan));
        if (!control.isHeld() && question.isEmpty()) {
            offers.add(new Offer("hold-night", "Rest", 'H', new Command.Hold(), false, false));
        }
        offers.add(new Offer("end-night", "End the night", 'W', new Command.EndNight(), false, true));
        offers.add(new Offer("park-now", "Park now", 'Q', new Command.ParkNow(), false, false));
        return new CommandState(
                sentence(control, now),
                question.isPresent() || control.isHeld(),
                question.isPresent(),
                offers,
                hasGate(station) ? Optional.of(policy) : Optional.empty());
    }

    /** Somebody else runs it: all that can be asked is to look on no longer. */
    private static CommandState watched(NightControl control) {
        return new CommandState(
                control.waiting().isPresent()
                        ? "The folder is watched no more in a moment."
                        : "This night is run by somebody else; its frames are judged as they come.",
                false,
                false,
                List.of(new Offer("end-night", "Stop watching", 'W', new Command.EndNight(), false, false)),
                Optional.empty());
    }

    private static boolean hasGate(Stage station) {
        return station != Stage.PLAN && station != Stage.LOGBOOK;
    }

    /** Of the station itself. */
    private static List<Offer> own(Stage station, NightState night, Supplier<Optional<String>> changedPlan) {
        return switch (station) {
            case PLAN -> changedPlan
                    .get()
                    .map(text -> List.of(offer("replan", "Go on by this plan", 'A', new Command.Replan(text))))
                    .orElse(List.of());
            case POLAR -> List.of(offer("good-enough", "Good enough as it is", 'A', new Command.Overrule(Stage.POLAR)));
            case POINT -> List.of(offer("recentre", "Centre anew", 'C', new Command.Recentre()));
            case FOCUS -> List.of(
                    offer("refocus", "Focus anew", 'R', new Command.Refocus()),
                    offer("measure-offsets", "Measure the filters", 'E', new Command.MeasureOffsets()),
                    offer("measure-focuser", "Measure the focuser", 'M', new Command.MeasureFocuser()));
            case GUIDE -> List.of(
                    isUnguided(night)
                            ? offer("start-guiding", "Start guiding", 'U', new Command.StartGuiding())
                            : offer("stop-guiding", "Stop guiding", 'U', new Command.StopGuiding()),
                    offer("calibrate-guider", "Calibrate", 'B', new Command.CalibrateGuider()),
                    offer("dither", "Dither", 'D', new Command.DitherNow()),
                    offer(
                            "watch-unguided",
                            UNGUIDED_MINUTES + " min unguided",
                            'E',
                            new Command.WatchUnguided(UNGUIDED_MINUTES)));
            case RUN -> List.of(
                    offer("end-sub", "End this sub", 'E', new Command.EndSub(true)),
                    offer("throw-sub", "Throw it away", 'X', new Command.EndSub(false)),
                    offer("one-more", "One more", 'M', new Command.OneMore()),
                    offer("extend", LONGER.toMinutes() + " min longer", 'L', new Command.Extend(LONGER)),
                    offer("try-lengths", "Try lengths", 'T', new Command.TryLengths()),
                    offer("skip-filter", "Next filter", 'J', new Command.SkipFilter()),
                    offer("skip-target", "Next target", 'K', new Command.SkipTarget()));
            case READY, CALIBRATE, STACK, LOGBOOK -> List.of();
        };
    }

    private static Offer offer(String id, String label, char key, Command command) {
        return new Offer(id, label, key, command, false, false);
    }

    private static boolean isUnguided(NightState night) {
        return night.all(CommandTaken.class).stream()
                .filter(CommandTaken::obeyed)
                .map(CommandTaken::command)
                .filter(c -> c instanceof Command.StopGuiding
                        || c instanceof Command.StartGuiding
                        || c instanceof Command.CalibrateGuider)
                .reduce((a, b) -> b)
                .filter(Command.StopGuiding.class::isInstance)
                .isPresent();
    }

    private static String sentence(NightControl control, Instant now) {
        Optional<NightControl.Question> question = control.question();
        if (question.isPresent()) {
            NightControl.Question q = question.get();
            Duration left = Duration.between(now, q.until());
            return q.sentence() + " Without an answer the night " + (q.parks() ? "parks" : "goes on") + " in "
                    + Words.countdown(left.isNegative() ? Duration.ZERO : left) + ".";
        }
        if (control.isHeld()) {
            return "The night rests.";
        }
        String when = control.safePoint()
                .map(p -> {
                    Duration left = Duration.between(now, p.at());
                    return p.words() + (left.toSeconds() < 2 ? "" : ", in " + Words.countdown(left));
                })
                .orElse("when the night has begun");
        return control.waiting()
                .map(order -> "\u201c" + Words.capital(order.command().words()) + "\u201d comes " + when + ".")
                .orElse("What you ask is done " + when + ".");
    }

    /** A policy in words. */
    public static String words(GatePolicy policy) {
        return switch (policy) {
            case GO_ON -> "If not passed: go on, marked";
            case ASK_THEN_GO_ON -> "If not passed: ask, then go on";
            case ASK_THEN_PARK -> "If not passed: ask, then park";
        };
    }
}
