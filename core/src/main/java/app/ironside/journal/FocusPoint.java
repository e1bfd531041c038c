package app.ironside.journal;

import java.time.Instant;
import java.util.OptionalDouble;

/**
 * A frame of a sweep that goes on.
 *
 * @param position of the focuser, steps
 * @param sizePx half-flux radius; empty where no stars showed
 */
public record FocusPoint(Instant time, String text, int position, OptionalDouble sizePx, int stars)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.FOCUS;
    }
}
