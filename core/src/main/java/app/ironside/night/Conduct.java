package app.ironside.night;

import app.ironside.BadInputException;
import app.ironside.device.NightClock;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.Marks;
import app.ironside.journal.Noted;
import app.ironside.journal.Stage;
import app.ironside.journal.SubRegraded;
import app.ironside.night.NightControl.GatePolicy;
import app.ironside.night.NightControl.Order;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * How a night obeys: takes commands at its safe points, rests when it is told to, asks where a gate is not passed, and writes down what
 * came of each. On the night's thread.
 */
final class Conduct {
    private static final Duration SLICE = Duration.ofSeconds(2);

    /** While nothing is done, commands are looked for this often. */
    private static final Duration LOOK_ROUND = Duration.ofSeconds(10);

    private final NightControl control;
    private final NightRecord record;
    private final NightClock clock;
    private final Set<Stage> overruled = EnumSet.noneOf(Stage.class);

    /** Stages whose next gate a person has overruled beforehand: it is not asked about. */
    private final Set<Stage> answered = EnumSet.noneOf(Stage.class);

    private final ProgramInForce inForce;
    private Optional<Command.Replan> revision = Optional.empty();
    private boolean ending;
    private Instant dawn = Instant.MAX;

    Conduct(NightControl control, NightRecord record, NightClock clock, ProgramInForce inForce) {
        this.inForce = inForce;
        this.control = control;
        this.record = record;
        this.clock = clock;
    }

    /** Something that waits in small pieces, so that what has to go on goes on. */
    @FunctionalInterface
    interface Rest {
        void aWhile(Duration time) throws InterruptedException;
    }

    NightControl control() {
        return control;
    }

    /** Whether no more lights are to be taken. */
    boolean isEnding() {
        return ending;
    }

    /** From when on there is nothing more to take: a rest lasts no longer. */
    void endsAt(Instant time) {
        dawn = time;
    }

    /** A changed program that is in force now, and whose plan is to be made. */
    Optional<Command.Replan> takeRevision() {
        Optional<Command.Replan> taken = revision;
        revision = Optional.empty();
        return taken;
    }

    boolean hasRevision() {
        return revision.isPresent();
    }

    /** Stages whose gate was not passed and that the night went on from. */
    Set<Stage> overruled() {
        return EnumSet.copyOf(overruled);
    }

    /** Says where commands are taken next. */
    void announce(String words, Duration in) {
        control.announce(new NightControl.SafePoint(words, clock.now().plus(in)));
    }

    /** Obeys what was asked meanwhile, and says whether the wait goes on. */
    @FunctionalInterface
    interface Look {
        boolean goesOn() throws InterruptedException;
    }

    /** Waits with nothing to do: in pieces, with a look round before each. */
    void waitUntil(Instant time, Look look) throws InterruptedException {
        while (clock.now().isBefore(time) && look.goesOn()) {
            announce("at once", Duration.ZERO);
            Duration left = Duration.between(clock.now(), time);
            clock.await(left.compareTo(LOOK_ROUND) < 0 ? left : LOOK_ROUND);
        }
    }

    /** A safe point of a stage that takes no subs: obeys what is not about them. */
    void safePoint(Stage stage) throws InterruptedException {
        safePoint(stage, clock::await);
    }

    /** As above, with what has to go on during a rest. */
    void safePoint(Stage stage, Rest rest) throws InterruptedException {
        for (Optional<Order> order = next(stage); order.isPresent(); order = next(stage)) {
            if (!obeyed(order.get(), stage, rest)) {
                refuse(order.get(), stage, "no sub is being taken");
            }
        }
    }

    /** The next command; leaves the night at once if that is asked. */
    Optional<Order> next(Stage stage) {
        leaveIfAsked(stage);
        return control.take(c -> true);
    }

    /**
     * Leaves the night if somebody asked for it.
     *
     * @throws NightLeft if so
     */
    void leaveIfAsked(Stage stage) {
        giveVerdicts(stage);
        takeNotes(stage);
        Optional<Order> park = control.take(Command.ParkNow.class::isInstance);
        if (park.isPresent()) {
            obeyed(park.get(), stage, "the night stops here");
            throw new NightLeft("The night was stopped by " + park.get().by() + ".");
        }
    }

    /** Verdicts are given at once: they touch no device. */
    private void giveVerdicts(Stage stage) {
        for (Optional<Order> order = control.take(Command.GiveVerdicts.class::isInstance);
                order.isPresent();
                order = control.take(Command.GiveVerdicts.class::isInstance)) {
            List<SubRegraded> events = Marks.events(
                    record.state(), ((Command.GiveVerdicts) order.get().command()).verdicts(), record.now());
            obeyed(order.get(), stage, events.size() == 1 ? "the verdict stands" : events.size() + " verdicts stand");
            events.forEach(record::tell);
        }
    }

    private void takeNotes(Stage stage) {
        for (Optional<Order> order = control.take(Command.Note.class::isInstance);
                order.isPresent();
                order = control.take(Command.Note.class::isInstance)) {
            obeyed(order.get(), stage, "it is kept");
            record.tell(Noted.of(
                    record.now(),
                    ((Command.Note) order.get().command()).note(),
                    order.get().by()));
        }
    }

    /** Obeys a command that is not about subs; false if it is about them. */
    boolean obeyed(Order order, Stage stage, Rest rest) throws InterruptedException {
        Command command = order.command();
        if (command instanceof Command.Hold) {
            obeyed(order, stage, "the night rests until it is told to go on");
            hold(stage, rest);
        } else if (command instanceof Command.GoOn) {
            refuse(order, stage, "the night does not rest");
        } else if (command instanceof Command.Overrule overrule) {
            overruled.add(overrule.stage());
            answered.add(overrule.stage());
            obeyed(order, stage, "what follows is marked");
        } else if (command instanceof Command.Replan replan) {
            revise(order, replan, stage);
        } else if (command instanceof Command.EndNight) {
            ending = true;
            obeyed(order, stage, "no more lights; calibration frames and stacks follow");
        } else {
            return false;
        }
        return true;
    }

    private void revise(Order order, Command.Replan replan, Stage stage) {
        try {
            inForce.revise(replan.document());
            revision = Optional.of(replan);
            obeyed(order, stage, "what is left of the night is planned anew");
        } catch (BadInputException e) {
            refuse(order, stage, e.getMessage());
        }
    }

    /** Rests until told to go on, or to end. Other commands wait. */
    private void hold(Stage stage, Rest rest) throws InterruptedException {
        control.setHeld(true);
        try {
            while (true) {
                leaveIfAsked(stage);
                Optional<Order> order = control.take(c -> c instanceof Command.GoOn || c instanceof Command.EndNight);
                if (order.isPresent()) {
                    ending |= order.get().command() instanceof Command.EndNight;
                    obeyed(order.get(), stage, ending ? "no more lights" : "the rest is over");
                    return;
                }
                if (stage.compareTo(Stage.CALIBRATE) < 0 && !clock.now().isBefore(dawn)) {
                    ending = true;
                    record.fault(stage, "The night rested until dawn: no more lights.");
                    return;
                }
                control.announce(new NightControl.SafePoint("at once", clock.now()));
                rest.aWhile(SLICE);
                control.giveAPersonTime();
            }
        } finally {
            control.setHeld(false);
        }
    }

    /** Writes down that a command was done. */
    void obeyed(Order order, Stage stage, String effect) {
        tell(order, stage, true, effect);
    }

    /** Writes down that a command cannot be done, and why. */
    void refuse(Order order, Stage stage, String why) {
        tell(order, stage, false, why);
    }

    private void tell(Order order, Stage stage, boolean obeyed, String effect) {
        String why = order.why().isBlank() ? "" : " (" + order.why() + ")";
        record.tell(new CommandTaken(
                record.now(),
                order.by() + ": " + order.command().words() + why + (obeyed ? ". " : ". Not possible: ")
                        + Character.toUpperCase(effect.charAt(0)) + effect.substring(1) + ".",
                order.command(),
                order.by(),
                order.why(),
                order.given(),
                obeyed,
                stage));
    }

    /**
     * What is done about a gate: passed, the night goes on; else by the policy that was set for it.
     *
     * @return whether the night goes on; false if it is to end
     */
    boolean gate(Stage stage, boolean passed, Rest rest) throws InterruptedException {
        if (passed) {
            overruled.remove(stage);
            answered.remove(stage);
            return !ending;
        }
        if (answered.remove(stage)) {
            return !ending; // a person has said so before they were asked
        }
        GatePolicy policy = control.policy(stage);
        if (policy == GatePolicy.GO_ON) {
            goOnFrom(stage, "the rule for this gate");
            return !ending;
        }
        boolean parks = policy == GatePolicy.ASK_THEN_PARK;
        String sentence = record.state().gate(stage).map(GateMeasured::text).orElse("");
        Instant until = clock.now().plus(NightControl.ANSWER_WITHIN);
        control.ask(Optional.of(new NightControl.Question(stage, sentence, until, parks)));
        try {
            while (clock.now().isBefore(until)) {
                leaveIfAsked(stage);
                Optional<Order> answer = control.take(c ->
                        c instanceof Command.Overrule || c instanceof Command.GoOn || c instanceof Command.EndNight);
                if (answer.isPresent()) {
                    ending |= answer.get().command() instanceof Command.EndNight;
                    obeyed(answer.get(), stage, ending ? "no more lights" : "what follows is marked");
                    overruled.add(stage);
                    return !ending;
                }
                control.announce(new NightControl.SafePoint("at once", clock.now()));
                rest.aWhile(SLICE);
                control.giveAPersonTime();
            }
        } finally {
            control.ask(Optional.empty());
        }
        if (parks) {
            throw new NightLeft(stage.title() + " is not passed and nobody answered within "
                    + NightControl.ANSWER_WITHIN.toMinutes() + " minutes.");
        }
        goOnFrom(stage, "nobody answered within " + NightControl.ANSWER_WITHIN.toMinutes() + " minutes");
        return !ending;
    }

    private void goOnFrom(Stage stage, String by) {
        overruled.add(stage);
        record.tell(new GateOverruled(
                record.now(),
                stage.title() + " is not passed; the night goes on (" + by + ") and what follows is marked.",
                stage,
                by));
    }
}
