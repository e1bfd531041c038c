package app.ironside.journal;

import java.time.Instant;

/**
 * The night goes on by another program.
 *
 * @param document the night file in force from here on
 * @param subs that fit by it
 */
public record ProgramRevised(Instant time, String text, String document, int subs) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.PLAN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
