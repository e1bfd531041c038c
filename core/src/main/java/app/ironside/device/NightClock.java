package app.ironside.device;

import java.time.Duration;
import java.time.Instant;

/** Time as the night sees it: the real clock beside the mount, a virtual one in rehearsals and tests. */
public interface NightClock {
    Instant now();

    /**
     * Whether time goes on while the night computes, as it does at a telescope. In a rehearsal it stands still meanwhile, so that a run is
     * the same every time.
     */
    default boolean runsByItself() {
        return false;
    }

    /**
     * Returns when the time has passed.
     *
     * @throws InterruptedException if the night is being stopped
     */
    void await(Duration time) throws InterruptedException;
}
