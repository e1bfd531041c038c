package app.ironside.journal;

import java.time.Instant;

/** A night has come to its end. */
public record NightEnded(Instant time, String text, int taken, int kept) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.LOGBOOK;
    }
}
