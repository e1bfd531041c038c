package app.ironside.journal;

import java.time.Duration;
import java.time.Instant;

/**
 * The pointing was shifted a little between two subs.
 *
 * @param westArcsec where it stands now, from where guiding began
 * @param northArcsec where it stands now, from where guiding began
 * @param settled whether guiding was calm again
 * @param took until it was, or was given up
 */
public record Dithered(Instant time, String text, double westArcsec, double northArcsec, boolean settled, Duration took)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
