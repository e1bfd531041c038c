package app.ironside.journal;

import app.ironside.guide.GuideRules;
import java.time.Instant;

/**
 * Guiding goes on by other rules: a person changed them, or an axis set itself by its own record.
 *
 * @param rules in force from here on
 */
public record GuiderSet(Instant time, String text, GuideRules rules) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
