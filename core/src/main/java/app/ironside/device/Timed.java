package app.ironside.device;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** An operation of which it is known how long it takes. */
public final class Timed implements Operation {
    /** A device that needs three times as long as it should hangs. */
    private static final int HANGS_AFTER = 3;

    private static final Duration AT_LEAST = Duration.ofSeconds(30);

    private final String device;
    private final String what;
    private final NightClock clock;
    private final Instant begun;
    private final Instant until;
    private final Runnable onAbort;
    private boolean aborted;

    /**
     * Begins now.
     *
     * @param onAbort ends the movement itself
     */
    public Timed(String device, String what, NightClock clock, Duration takes, Runnable onAbort) {
        this.device = device;
        this.what = what;
        this.clock = clock;
        this.begun = clock.now();
        this.until = begun.plus(takes);
        this.onAbort = onAbort;
    }

    /** When it began. */
    public Instant begun() {
        return begun;
    }

    /** The share of it that is done, 0 to 1. */
    public double share() {
        double whole = Duration.between(begun, until).toNanos();
        return whole <= 0 ? 1 : Math.min(1, Duration.between(begun, clock.now()).toNanos() / whole);
    }

    @Override
    public String device() {
        return device;
    }

    @Override
    public String what() {
        return what;
    }

    @Override
    public State state() {
        return aborted ? State.ABORTED : clock.now().isBefore(until) ? State.UNDER_WAY : State.DONE;
    }

    @Override
    public Optional<Duration> remaining() {
        return Optional.of(state() == State.UNDER_WAY ? Duration.between(clock.now(), until) : Duration.ZERO);
    }

    @Override
    public Duration limit() {
        return Duration.between(begun, until).multipliedBy(HANGS_AFTER).plus(AT_LEAST);
    }

    @Override
    public void abort() {
        if (state() == State.UNDER_WAY) {
            onAbort.run();
            aborted = true;
        }
    }
}
