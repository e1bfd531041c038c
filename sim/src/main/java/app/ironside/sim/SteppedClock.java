package app.ironside.sim;

import app.ironside.device.NightClock;
import java.time.Duration;
import java.time.Instant;

/** A clock that runs only when somebody waits, and then at once. */
public final class SteppedClock implements NightClock {
    private volatile Instant now;

    public SteppedClock(Instant start) {
        now = start;
    }

    @Override
    public Instant now() {
        return now;
    }

    @Override
    public void await(Duration time) throws InterruptedException {
        if (Thread.interrupted()) {
            throw new InterruptedException("the night is being stopped");
        }
        if (!time.isNegative()) {
            now = now.plus(time);
        }
    }
}
