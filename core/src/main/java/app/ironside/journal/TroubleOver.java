package app.ironside.journal;

import java.time.Duration;
import java.time.Instant;

/**
 * Something that was wrong shows no more.
 *
 * @param lasted from the first sub that showed it to the last
 * @param subsLost that were not kept for it
 */
public record TroubleOver(Instant time, String text, Trouble trouble, Duration lasted, int subsLost)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
