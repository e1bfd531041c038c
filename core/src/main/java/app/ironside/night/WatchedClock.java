package app.ironside.night;

import app.ironside.device.NightClock;
import java.time.Duration;
import java.time.Instant;

/**
 * The night's clock with somebody who looks round while the night waits, however it waits: a wait is cut into pieces, and after each the
 * watch looks. What must never go on unseen, above all a mount that tracks toward its pier, is looked at here and nowhere else.
 */
public final class WatchedClock implements NightClock {
    private static final Duration STEP = Duration.ofSeconds(10);

    /** Looks and does what is due. */
    @FunctionalInterface
    public interface Watch {
        void look(Instant now);
    }

    private final NightClock clock;
    private final Watch watch;
    private Instant looked = Instant.MIN;

    public WatchedClock(NightClock clock, Watch watch) {
        this.clock = clock;
        this.watch = watch;
    }

    @Override
    public Instant now() {
        return clock.now();
    }

    @Override
    public boolean runsByItself() {
        return clock.runsByItself();
    }

    @Override
    public void await(Duration time) throws InterruptedException {
        Duration left = time;
        do {
            Duration piece = left.compareTo(STEP) < 0 ? left : STEP;
            clock.await(piece);
            left = left.minus(piece);
            Instant now = clock.now();
            // Short waits come many to a second of the night; looking at each would find nothing new.
            if (Duration.between(looked.equals(Instant.MIN) ? now.minus(STEP) : looked, now)
                            .compareTo(STEP)
                    >= 0) {
                looked = now;
                watch.look(now);
            }
        } while (left.compareTo(Duration.ZERO) > 0);
    }
}
