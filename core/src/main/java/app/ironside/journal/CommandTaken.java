package app.ironside.journal;

import java.time.Instant;

/**
 * A command was obeyed or could not be.
 *
 * @param by who gave it
 * @param why in their words; empty if they gave no reason
 * @param given when it was given; it is taken at a safe point
 * @param obeyed whether it was done; the text says what came of it
 */
public record CommandTaken(
        Instant time, String text, Command command, String by, String why, Instant given, boolean obeyed, Stage stage)
        implements NightEvent {
    @Override
    public Stage station() {
        return stage;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
