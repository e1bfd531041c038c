package app.ironside.night;

import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * The reins of a night that runs: commands come in from any thread and are taken by the night's own at its safe points, which it names
 * beforehand. Thread-safe.
 */
public final class NightControl {
    /**
     * A command with who gave it and why.
     *
     * @param why in their words; may be empty
     */
    public record Order(Command command, String by, String why, Instant given) {}

    /**
     * Where commands are taken next.
     *
     * @param words "after this sub"
     * @param at when that will be, as far as it can be known
     */
    public record SafePoint(String words, Instant at) {}

    /**
     * What the night wants to know of a person.
     *
     * @param sentence what was measured and what it should be
     * @param until when it decides by itself
     * @param parks whether it then parks; else it goes on
     */
    public record Question(Stage stage, String sentence, Instant until, boolean parks) {}

    /** What is done about a gate that is not passed. */
    public enum GatePolicy {
        /** Go on, and mark what follows. */
        GO_ON,
        /** Hold and ask; without an answer in time, go on. */
        ASK_THEN_GO_ON,
        /** Hold and ask; without an answer in time, park. */
        ASK_THEN_PARK
    }

    /** So long an answer is waited for. */
    public static final Duration ANSWER_WITHIN = Duration.ofMinutes(10);

    private static final long BLINK_MILLIS = 20;

    private final long blinkMillis;

    private final Deque<Order> orders = new ArrayDeque<>();
    private final Map<Stage, GatePolicy> policies = new EnumMap<>(Stage.class);
    private Optional<SafePoint> next = Optional.empty();
    private Optional<Question> question = Optional.empty();
    private boolean held;

    public NightControl() {
        this(BLINK_MILLIS);
    }

    /** For who answers at once, or never: a rehearsal waits so long in real time each time it looks round. */
    NightControl(long blinkMillis) {
        this.blinkMillis = blinkMillis;
    }

    /** Gives a command. */
    public synchronized void give(Command command, String by, String why, Instant now) {
        orders.addLast(new Order(command, by, why, now));
        notifyAll();
    }

    /** What was given and not yet taken. */
    public synchronized Optional<Order> waiting() {
        return Optional.ofNullable(orders.peekFirst());
    }

    /** How many were given and not yet taken. */
    public synchronized int waitingCount() {
        return orders.size();
    }

    /** Sets what is done about a stage's gate; without it the night goes on and marks what follows. */
    public synchronized void setPolicy(Stage stage, GatePolicy policy) {
        policies.put(stage, policy);
    }

    synchronized GatePolicy policy(Stage stage) {
        return policies.getOrDefault(stage, GatePolicy.GO_ON);
    }

    /** Where a command that is given now will be taken; empty before the night begins and after its end. */
    public synchronized Optional<SafePoint> safePoint() {
        return next;
    }

    synchronized void announce(SafePoint point) {
        next = Optional.of(point);
    }

    synchronized void over() {
        next = Optional.empty();
        question = Optional.empty();
        held = false;
    }

    /** Whether the night rests until it is told to go on. */
    public synchronized boolean isHeld() {
        return held;
    }

    /**
     * Waits a blink of real time, or until something is given. A rehearsal at full speed would else rest till morning before anybody can
     * say go on.
     */
    synchronized void giveAPersonTime() throws InterruptedException {
        // What already waits is not for now, or it would have been taken.
        wait(blinkMillis);
    }

    synchronized void setHeld(boolean resting) {
        held = resting;
    }

    /** What the night wants to know. */
    public synchronized Optional<Question> question() {
        return question;
    }

    synchronized void ask(Optional<Question> asked) {
        question = asked;
    }

    /** Takes the first command that a test picks, whatever was given before it. */
    synchronized Optional<Order> take(Predicate<Command> which) {
        for (Iterator<Order> i = orders.iterator(); i.hasNext(); ) {
            Order order = i.next();
            if (which.test(order.command())) {
                i.remove();
                return Optional.of(order);
            }
        }
        return Optional.empty();
    }
}
