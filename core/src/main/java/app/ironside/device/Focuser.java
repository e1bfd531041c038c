package app.ironside.device;

import java.time.Duration;

/** A motor focuser; larger positions are further out. */
public interface Focuser {
    int positionSteps();

    /**
     * Starts moving.
     *
     * @throws DeviceException outside 0 to {@link #maxSteps}
     */
    void moveTo(int positionSteps);

    /** Until it stands still; zero if it does. */
    Duration remaining();

    int maxSteps();

    /** Temperature of the tube, °C. */
    double temperatureC();

    /** Moves and waits. */
    default void moveAndWait(NightClock clock, int steps) throws InterruptedException {
        moveTo(steps);
        clock.await(remaining());
    }
}
