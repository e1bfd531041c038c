package app.ironside.journal;

import java.time.Instant;

/**
 * A step of bringing the kit up was looked at.
 *
 * @param subject what it is about: "mount"
 * @param step what is to be true afterwards
 * @param measured what proves it, in words; empty if nothing does
 */
public record StepProven(Instant time, String text, String subject, String step, String measured, boolean proven)
        implements NightEvent {
    @Override
    public Stage station() {
        return Stage.READY;
    }
}
