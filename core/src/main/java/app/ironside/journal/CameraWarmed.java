package app.ironside.journal;

import java.time.Instant;

/** The camera's cooler was let go slowly. */
public record CameraWarmed(Instant time, String text, double sensorC) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.CALIBRATE;
    }
}
