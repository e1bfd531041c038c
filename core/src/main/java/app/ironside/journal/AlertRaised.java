package app.ironside.journal;

import java.time.Instant;

/**
 * Something that a person is told of.
 *
 * @param wake whether light is being lost now and hands would help; else it is worth a note
 */
public record AlertRaised(Instant time, String text, Trouble trouble, boolean wake) implements NightEvent {
    /** As on the command line. */
    public String severity() {
        return wake ? "wake" : "note";
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
