package app.ironside.journal;

import java.time.Instant;

/**
 * An event that this version cannot read: of a later version, or damaged. It is kept whole.
 *
 * @param kind as it was written
 * @param version of its facts
 * @param facts as they were written
 */
public record Unknown(Instant time, String text, String kind, int version, String facts) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.LOGBOOK;
    }
}
