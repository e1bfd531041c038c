package app.ironside.journal;

import java.time.Instant;

/** What the night did by itself about something that is wrong. */
public record Reacted(Instant time, String text, Trouble trouble, Reaction reaction) implements NightEvent {
    /** What a night can do by itself. */
    public enum Reaction {
        REFOCUS("focused again"),
        HEAT("switched the heaters on"),
        GUIDE_ANEW("began guiding anew on another star"),
        RECENTRE("pointed again"),
        END_TARGET("ended the target");

        private final String words;

        Reaction(String words) {
            this.words = words;
        }

        /** As in a sentence of what the night did. */
        public String words() {
            return words;
        }
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
