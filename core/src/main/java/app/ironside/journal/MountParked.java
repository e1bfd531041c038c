package app.ironside.journal;

import java.time.Instant;

/** The mount is where it is left, or on its way there. */
public record MountParked(Instant time, String text) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
