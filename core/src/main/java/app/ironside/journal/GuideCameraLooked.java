package app.ironside.journal;

import java.time.Instant;
import java.util.OptionalDouble;

/**
 * The focus of the guide camera was looked at.
 *
 * @param stars in its frame
 * @param hfrPx median half-flux radius; empty without stars
 * @param limitPx what air, optics and pixels let expect at most
 */
public record GuideCameraLooked(
        Instant time, String text, int stars, OptionalDouble hfrPx, double limitPx, boolean sharp)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
