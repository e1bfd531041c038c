package app.ironside.journal;

import java.time.Instant;

/**
 * A short frame of another target, taken while cloud covers the one that is being taken.
 *
 * @param target that was looked at
 * @param stars found there
 * @param light of its stars against what they would have in a clear sky, air taken out; 0 if it was not recognised
 * @param clear whether that is enough to go there
 */
public record LookedElsewhere(Instant time, String text, String target, int stars, double light, boolean clear)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
