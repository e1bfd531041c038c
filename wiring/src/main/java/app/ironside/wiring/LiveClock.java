package app.ironside.wiring;

import app.ironside.device.NightClock;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;

/** The time of the machine, which goes on whatever the night does. */
public final class LiveClock implements NightClock {
    private final Clock clock;

    LiveClock(Clock clock) {
        this.clock = clock;
    }

    @Override
    public Instant now() {
        return clock.instant();
    }

    @Override
    public boolean runsByItself() {
        return true;
    }

    @Override
    public void await(Duration time) throws InterruptedException {
        Thread.sleep(Math.max(0, time.toMillis()));
    }
}
