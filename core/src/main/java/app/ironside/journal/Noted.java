package app.ironside.journal;

import java.time.Instant;

/** A person's own words about a night: what was tried, what was seen, what it was. */
public record Noted(Instant time, String text, String by) implements NightEvent {
    /** Of words as they were typed. */
    public static Noted of(Instant time, String words, String by) {
        return new Noted(time, "Note: " + words.strip(), by);
    }

    @Override
    public Stage station() {
        return Stage.LOGBOOK;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
