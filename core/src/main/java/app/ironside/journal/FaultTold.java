package app.ironside.journal;

import java.time.Instant;
import java.util.Optional;

/**
 * Something went wrong.
 *
 * @param about the device it happened to, as {@link app.ironside.device.Device#name} has it, or {@link #DISK}; empty for what is not one
 *     thing's fault, and where the journal does not tell it
 */
public record FaultTold(Instant time, String text, Stage stage, Optional<String> about) implements NightEvent {
    /** What frames are written to. */
    public static final String DISK = "disk";

    @Override
    public Stage station() {
        return stage;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
