package app.ironside.journal;

import app.ironside.sky.Interval;
import java.time.Instant;

/**
 * Guiding was begun and watched for a while before the first sub.
 *
 * @param starSnr of the guide star
 * @param span the minute of proof
 */
public record GuidingProven(
        Instant time, String text, String target, double starSnr, Interval span, GuideFigures figures)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
