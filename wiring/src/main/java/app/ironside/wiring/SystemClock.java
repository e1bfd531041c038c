package app.ironside.wiring;

import app.ironside.device.NightClock;
import java.time.Duration;
import java.time.Instant;

/** The real clock, for nights with real devices. */
public final class SystemClock implements NightClock {
    @Override
    public Instant now() {
        return Instant.now();
    }

    @Override
    public void await(Duration time) throws InterruptedException {
        if (!time.isNegative()) {
            Thread.sleep(time.toMillis(), (int) (time.toNanos() % 1_000_000));
        }
    }
}
