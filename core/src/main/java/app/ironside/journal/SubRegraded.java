package app.ironside.journal;

import java.time.Instant;

/**
 * An earlier sub whose verdict is another now that its series is known better.
 *
 * @param file of the sub
 */
public record SubRegraded(Instant time, String text, String file, Verdict verdict) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
