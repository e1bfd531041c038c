package app.ironside.journal;

import java.time.Instant;

/**
 * A set was combined.
 *
 * @param kind "dark"
 * @param name of the set, in words: "dark 180s"
 * @param level ADU, or the share of its own mean for a flat
 * @param spread the same
 */
public record MasterMade(
        Instant time, String text, String kind, String name, String file, int frames, double level, double spread)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.CALIBRATE;
    }
}
