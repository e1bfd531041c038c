package app.ironside.sim;

import app.ironside.Check;
import app.ironside.device.FilterWheel;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.document.FaultKind;
import java.time.Duration;

/** A filter wheel. */
final class SimWheel extends SimDevice implements FilterWheel {
    private static final Duration PER_SLOT = Duration.ofMillis(900);

    private final int slots;
    private final NightClock clock;
    private final Faults faults;
    private int slot;

    SimWheel(int slots, NightClock clock, Faults faults) {
        super("filter wheel");
        this.slots = slots;
        this.clock = clock;
        this.faults = faults;
    }

    @Override
    public int slot() {
        mustAnswer();
        return slot;
    }

    /** The slot that is really in the beam. */
    int inBeam() {
        return faults.hasBegun(FaultKind.WRONG_FILTER, clock.now()) ? (slot + 1) % slots : slot;
    }

    /** A hand has put in what belongs to a slot. */
    void put(int wanted) {
        slot = wanted;
    }

    @Override
    public Operation select(int wanted) {
        mustAnswer();
        Check.inRange("slot", wanted, 0, slots - 1.0);
        int from = slot;
        slot = wanted;
        // Once it turns it turns: a stop half-way would leave no filter in the beam.
        return new Timed(
                name(), "the turn of the wheel", clock, PER_SLOT.multipliedBy(Math.abs(wanted - from)), () -> {});
    }
}
