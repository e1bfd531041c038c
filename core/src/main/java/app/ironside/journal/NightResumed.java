package app.ironside.journal;

import java.time.Instant;

/**
 * A night goes on after a stop.
 *
 * @param subs that still fit
 */
public record NightResumed(Instant time, String text, int subs) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.PLAN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
