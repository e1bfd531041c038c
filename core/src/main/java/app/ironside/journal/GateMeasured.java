package app.ironside.journal;

import java.time.Instant;

/** A stage's number was held against its limit. */
public record GateMeasured(Instant time, String text, Gate gate) implements NightEvent {
    @Override
    public Stage station() {
        return gate.stage();
    }
}
