package app.ironside.kit;

import app.ironside.Check;
import java.util.List;

/**
 * How many of a kit's own subs had round stars, by length.
 *
 * @param lengths in any order
 */
public record RoundRecord(List<Length> lengths) {
    /** Of a kit without subs. */
    public static final RoundRecord NONE = new RoundRecord(List.of());

    /** What is reckoned from gear and axis counts as so many subs that were seen. */
    private static final double REASONED = 10;

    /** Lengths that differ by less than this factor tell of each other. */
    private static final double ALIKE = 1.25;

    /**
     * Subs of one length that showed stars.
     *
     * @param round of them
     */
    public record Length(double seconds, int taken, int round) {
        public Length {
            Check.positive("seconds", seconds);
            Check.inRange("round", round, 0, taken);
        }
    }

    public RoundRecord {
        lengths = List.copyOf(lengths);
    }

    /** Subs of about a length. */
    public Length about(double seconds) {
        int taken = 0;
        int round = 0;
        for (Length l : lengths) {
            if (l.seconds() < ALIKE * seconds && seconds < ALIKE * l.seconds()) {
                taken += l.taken();
                round += l.round();
            }
        }
        return new Length(seconds, taken, round);
    }

    /**
     * A share that was reckoned, corrected by what was seen: the more subs of about the length there are, the more they count.
     *
     * @param reckoned 0 to 1
     */
    public double corrected(double seconds, double reckoned) {
        Length seen = about(seconds);
        return (REASONED * reckoned + seen.round()) / (REASONED + seen.taken());
    }
}
