package app.ironside.journal;

import java.time.Instant;

/** The night turned to a stage. */
public record StageBegan(Instant time, String text, Stage stage) implements NightEvent {
    @Override
    public Stage station() {
        return stage;
    }
}
