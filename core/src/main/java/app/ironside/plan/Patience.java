package app.ironside.plan;

import app.ironside.Check;
import java.time.Duration;

/**
 * How long a target of which nothing is kept is waited for.
 *
 * @param how what ends the wait
 * @param minutes for {@link How#MINUTES}, 10 to 1440; 0 otherwise
 */
public record Patience(How how, int minutes) {
    /** To the end of its time. */
    public static final Patience ENDLESS = new Patience(How.NEVER, 0);

    /** As long as what is left of its time is worth the wait. */
    public static final Patience OF_THE_WINDOW = new Patience(How.WINDOW, 0);

    /** A passing cloud is no reason to leave, however little is left. */
    private static final Duration PASSING = Duration.ofMinutes(10);

    /** What ends a wait. */
    public enum How {
        NEVER,
        MINUTES,
        WINDOW
    }

    public Patience {
        if (how == How.MINUTES) {
            Check.inRange("giveUpAfterMinutes", minutes, 10, 1440);
        }
    }

    public static Patience ofMinutes(int minutes) {
        return new Patience(How.MINUTES, minutes);
    }

    /**
     * Whether the wait is over.
     *
     * <p>By the window: nobody knows how long what is wrong will last, and of things of which only their age is known half last as long
     * again (Gott 1993, Nature 363, 315). Once it has lasted as long as there is left, it is more likely than not that nothing comes of
     * the rest.
     *
     * @param without how long nothing was kept
     * @param left of the target's time
     * @param sub what must fit when it is over, at the least
     */
    public boolean isOver(Duration without, Duration left, Duration sub) {
        return switch (how) {
            case NEVER -> false;
            case MINUTES -> without.toMinutes() >= minutes;
            case WINDOW -> without.compareTo(PASSING) >= 0 && without.plus(sub).compareTo(left) >= 0;
        };
    }
}
