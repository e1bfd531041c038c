package app.ironside.journal;

import java.time.Instant;

/** Something went wrong. */
public record FaultTold(Instant time, String text, Stage stage) implements NightEvent {
    @Override
    public Stage station() {
        return stage;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
