package app.ironside.journal;

import java.time.Instant;

/**
 * A short frame of the main camera, taken to tell a clouded sky from a guide camera that fails.
 *
 * @param stars found in it
 * @param light of its stars against the target's clear subs, 0 to 1; 0 without stars
 */
public record SkyTested(Instant time, String text, int stars, double light) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
