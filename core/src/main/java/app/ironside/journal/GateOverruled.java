package app.ironside.journal;

import java.time.Instant;

/**
 * The night goes on although a gate was not passed; what follows is marked.
 *
 * @param by who decided: a person, or the policy that was set for the gate
 */
public record GateOverruled(Instant time, String text, Stage stage, String by) implements NightEvent {
    @Override
    public Stage station() {
        return stage;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
