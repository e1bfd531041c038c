package app.ironside.journal;

import java.time.Instant;

/**
 * A target's part of the night is over.
 *
 * @param subs taken of it in this part, and before a stop
 * @param why what came first
 */
public record TargetLeft(Instant time, String text, String target, int subs, Why why) implements NightEvent {
    /** What ends a target's part of the night. */
    public enum Why {
        TIME("its time is over"),
        COUNT("it has all the subs that were wanted"),
        TOO_LOW("it is too low"),
        SKYLINE("the skyline hides it"),
        BRIGHT_SKY("the sky about it is too bright"),
        CLOUDED("cloud covers it, and another is clear"),
        SKIPPED("it was left by hand"),
        GIVEN_UP("it was given up"),
        PROGRAM("the program was changed"),
        NIGHT("the night ends");

        private final String words;

        Why(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }
}
