package app.ironside.device;

import java.time.Duration;

/** A filter wheel; slots count from 0. */
public interface FilterWheel {
    int slot();

    /** Starts turning. */
    void select(int slot);

    /** Until the slot is in place; zero if it is. */
    Duration remaining();
}
