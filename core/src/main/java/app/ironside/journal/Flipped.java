package app.ironside.journal;

import java.time.Instant;

/** The mount went over to the other side of its pier. */
public record Flipped(Instant time, String text, String target, boolean centred, boolean guided) implements NightEvent {
    @Override
    public Stage station() {
        return Stage.RUN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
