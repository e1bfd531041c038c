package app.ironside.sim;

import app.ironside.Check;
import app.ironside.device.FilterWheel;
import app.ironside.device.NightClock;
import java.time.Duration;
import java.time.Instant;

/** A filter wheel. */
final class SimWheel implements FilterWheel {
    private static final Duration PER_SLOT = Duration.ofMillis(900);

    private final int slots;
    private final NightClock clock;
    private int slot;
    private Instant busyUntil;

    SimWheel(int slots, NightClock clock) {
        this.slots = slots;
        this.clock = clock;
        this.busyUntil = clock.now();
    }

    @Override
    public int slot() {
        return slot;
    }

    @Override
    public void select(int wanted) {
        Check.inRange("slot", wanted, 0, slots - 1.0);
        busyUntil = clock.now().plus(PER_SLOT.multipliedBy(Math.abs(wanted - slot)));
        slot = wanted;
    }

    @Override
    public Duration remaining() {
        Duration left = Duration.between(clock.now(), busyUntil);
        return left.isNegative() ? Duration.ZERO : left;
    }
}
