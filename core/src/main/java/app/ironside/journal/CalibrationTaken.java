package app.ironside.journal;

import java.time.Instant;

/**
 * A bias, dark or flat.
 *
 * @param set to which it belongs: "dark_180s"
 * @param dark whether it is one of the darks
 * @param levelAdu median
 */
public record CalibrationTaken(
        Instant time,
        String text,
        String set,
        boolean dark,
        String file,
        double levelAdu,
        double seconds,
        double sensorC)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.CALIBRATE;
    }
}
