package app.ironside.device;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** Something that a device was told to do and that takes its time: how it stands, how to end it, and how long it may take. */
public interface Operation {
    /** A device that cannot tell how long it still needs is asked this often. */
    Duration ASK_EVERY = Duration.ofMillis(250);

    /** How it stands. */
    enum State {
        UNDER_WAY,
        DONE,
        ABORTED
    }

    /** Which device, in the words of the field: "mount". */
    String device();

    /** What it does, in words: "the slew". */
    String what();

    /**
     * Asks the device.
     *
     * @throws DeviceException if it failed, or if the device no longer answers
     */
    State state();

    /** How much longer, as far as the device can tell; zero if it is over. */
    Optional<Duration> remaining();

    /** Longer than this after it began means that the device hangs. */
    Duration limit();

    /** Ends it at once; what stands where then is for the device's own state to tell. Nothing happens if it is over. */
    void abort();

    /**
     * Waits until it is over.
     *
     * @return {@link State#DONE}, or {@link State#ABORTED} if somebody ended it
     * @throws DeviceException if it failed; or if it took longer than its limit, when it was aborted
     */
    default State await(NightClock clock) throws InterruptedException {
        Instant hangs = clock.now().plus(limit());
        for (State state = state(); ; state = state()) {
            if (state != State.UNDER_WAY) {
                return state;
            }
            if (clock.now().isAfter(hangs)) {
                abort();
                throw new DeviceException(
                        device(),
                        what() + " was not over after " + limit().toSeconds() + " s and was aborted",
                        "Look at its power, its cable and what might block it.");
            }
            clock.await(remaining().filter(d -> !d.isZero()).orElse(ASK_EVERY));
        }
    }

    /** What a device did at once. */
    static Operation done(String device, String what) {
        return new Operation() {
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
                return State.DONE;
            }

            @Override
            public Optional<Duration> remaining() {
                return Optional.of(Duration.ZERO);
            }

            @Override
            public Duration limit() {
                return Duration.ZERO;
            }

            @Override
            public void abort() {
                // It is over.
            }
        };
    }
}
