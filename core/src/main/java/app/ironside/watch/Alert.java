package app.ironside.watch;

import app.ironside.journal.Trouble;
import java.time.Instant;

/**
 * Something to be told.
 *
 * @param wake whether light is being lost now and hands would help; else it is worth a note
 */
public record Alert(Instant time, boolean wake, Trouble trouble, String sentence) {
    /** As on the command line. */
    public String severity() {
        return wake ? "wake" : "note";
    }
}
