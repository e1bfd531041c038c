package app.ironside.wiring;

import app.ironside.device.NightClock;
import java.time.Duration;
import java.time.Instant;

/**
 * A virtual clock that runs at a chosen multiple of real time, or as fast as the work goes, and can be held.
 */
public final class PacedClock implements NightClock {
    /** As fast as it goes. */
    public static final double UNBOUNDED = Double.POSITIVE_INFINITY;

    private static final long SLICE_NANOS = 12_000_000;

    private final Object lock = new Object();
    private Instant now;
    private double rate;
    private boolean held;
    private double owedNanos;

    /**
     * @param rate virtual seconds in a real one, above 0
     */
    public PacedClock(Instant start, double rate) {
        this.now = start;
        this.rate = rate;
    }

    @Override
    public Instant now() {
        synchronized (lock) {
            return now;
        }
    }

    /** How fast time runs; {@link #UNBOUNDED} for no waiting at all. */
    public double rate() {
        synchronized (lock) {
            return rate;
        }
    }

    public void setRate(double virtualSecondsInARealOne) {
        synchronized (lock) {
            rate = virtualSecondsInARealOne;
            owedNanos = 0;
            lock.notifyAll();
        }
    }

    public boolean isHeld() {
        synchronized (lock) {
            return held;
        }
    }

    /** Stops time, or lets it go on. */
    public void hold(boolean stopped) {
        synchronized (lock) {
            held = stopped;
            lock.notifyAll();
        }
    }

    @Override
    public void await(Duration time) throws InterruptedException {
        synchronized (lock) {
            Instant target = now.plus(time.isNegative() ? Duration.ZERO : time);
            while (true) {
                if (Thread.interrupted()) {
                    throw new InterruptedException("the night is being stopped");
                }
                if (held) {
                    lock.wait(200);
                } else if (!now.isBefore(target)) {
                    return;
                } else if (Double.isInfinite(rate)) {
                    now = target;
                } else {
                    slice(target);
                }
            }
        }
    }

    /** Lets a little virtual time pass; sleeps only when enough real time is owed, so that short waits add up. */
    private void slice(Instant target) throws InterruptedException {
        long left = Duration.between(now, target).toNanos();
        long step = (long) Math.min(left, SLICE_NANOS * rate);
        now = now.plusNanos(Math.max(1, step));
        owedNanos += step / rate;
        if (owedNanos >= SLICE_NANOS) {
            long millis = (long) (owedNanos / 1e6);
            owedNanos -= millis * 1e6;
            lock.wait(Math.max(1, millis));
        }
    }
}
