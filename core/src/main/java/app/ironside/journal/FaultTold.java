package app.ironside.journal;

import java.time.Instant;
import java.util.Optional;

/**
 * Something went wrong.
 *
 * @param about the device it happened to, as {@link app.ironside.device.Device#name} has it, {@link #DISK} or {@link #GUIDE_STAR}; empty for what is not one
 *     thing's fault, and where the journal does not tell it
 */
public record FaultTold(Instant time, String text, Stage stage, Optional<String> about) implements NightEvent {
    /** What frames are written to. */
    public static final String DISK = "disk";

    /** What was guided on, where it is no star. */
    public static final String GUIDE_STAR = "guide star";

    @Override
    public Stage station() {
        return stage;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
