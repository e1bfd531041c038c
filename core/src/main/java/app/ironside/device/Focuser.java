package app.ironside.device;

/** A focuser; larger positions are further out. */
public interface Focuser extends Device {
    int positionSteps();

    /**
     * Starts moving.
     *
     * @throws DeviceException outside 0 to {@link #maxSteps}
     */
    Operation moveTo(int positionSteps);

    int maxSteps();

    /** Temperature of the tube, °C. */
    double temperatureC();

    @Override
    default String name() {
        return "focuser";
    }

    /** Moves and waits. */
    default void moveAndWait(NightClock clock, int steps) throws InterruptedException {
        moveTo(steps).await(clock);
    }
}
