package app.ironside.journal;

import app.ironside.Provenance;
import java.time.Instant;
import java.time.LocalDate;

/**
 * A night was begun.
 *
 * @param date local date of its evening
 * @param provenance whether devices and sky are real
 */
public record NightStarted(Instant time, String text, String site, String kit, LocalDate date, Provenance provenance)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.PLAN;
    }
}
