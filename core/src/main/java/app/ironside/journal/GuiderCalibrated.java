package app.ironside.journal;

import java.time.Instant;

/** How the guide star moves for pulses, pixels a second along x and y, was measured. */
public record GuiderCalibrated(
        Instant time, String text, double westX, double westY, double northX, double northY, double axesAngleDeg)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
