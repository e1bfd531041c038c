package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Kit;
import app.ironside.kit.OwnTimes;

/**
 * What a sub costs besides its light, seconds.
 *
 * @param perSub read-out and download
 * @param perDither until guiding has settled after a shift
 * @param perFocus a focus run between subs, guiding begun anew after it
 * @param hoursPerFocus how often one is expected
 * @param perStart slew, centring, the first focus run, guide star, settling and a minute's proof
 * @param perFlip the same on the other side, without a focus run
 * @param perFilterByHand another filter from a box; nothing where a wheel turns
 */
public record Overheads(
        double perSub,
        double perDither,
        double perFocus,
        double hoursPerFocus,
        double perStart,
        double perFlip,
        double perFilterByHand) {
    /** To walk out, unscrew one filter in the dark and screw in another, seconds (common practice: three minutes). */
    public static final double FILTER_BY_HAND = 180;

    // What the journals of rehearsed nights show: 78 dithers of 21 s (35 at most), sweeps of 75 s with 85 s to guide
    // again,
    // starts of 243 to 279 s, flips of 158 to 160 s.
    private static final double DITHER = 21;
    private static final double FOCUS = 160;
    private static final double HOURS_PER_FOCUS = 1.5;
    private static final double START = 265;
    private static final double FLIP = 159;

    public Overheads {
        Check.positive("hoursPerFocus", hoursPerFocus);
    }

    /** Those of a kit: what its own nights showed where it tells that, else usual figures. */
    public static Overheads of(Kit kit) {
        OwnTimes own = kit.equipment().ownTimes();
        return new Overheads(
                kit.sensor().readoutSeconds(),
                own.ditherSeconds().orElse(DITHER),
                own.focusRunSeconds().orElse(FOCUS),
                HOURS_PER_FOCUS,
                START,
                own.flipSeconds().orElse(FLIP),
                filtersFromABox(kit) ? FILTER_BY_HAND : 0);
    }

    /** Whether somebody has to go out for another filter. */
    public static boolean filtersFromABox(Kit kit) {
        return kit.equipment().filtersByHand() && kit.filters().size() > 1;
    }

    /** A plan that is to hold its count gets this much more time than it should need: a dither settles late, a focus run comes between. */
    private static final double RESERVE = 1.15;

    /**
     * Time to allow for subs that must be taken.
     *
     * @param seconds what the subs alone take, as {@link #secondsOf} has it
     * @param longestSub of them, which a flip may cost
     */
    public double secondsFor(double seconds, int flips, double longestSub) {
        double once = perStart + flips * (perFlip + longestSub);
        double focus = seconds / 3600 / hoursPerFocus * perFocus;
        return RESERVE * (seconds + once + focus);
    }

    /** What of a time is left for subs, with so many flips. */
    public double secondsForSubs(double seconds, int flips) {
        double focus = seconds / 3600 / hoursPerFocus * perFocus;
        return seconds - perStart - flips * perFlip - focus;
    }

    /** What so many subs' dithers take. */
    public double secondsOfDithers(int subs, int ditherEvery) {
        return (double) subs / ditherEvery * perDither;
    }

    /** What a sub takes, with its share of a dither. */
    public double secondsOf(double subSeconds, int ditherEvery) {
        return subSeconds + perSub + perDither / ditherEvery;
    }

    /** Subs of one length that fit into a time with so many flips. */
    public int subsIn(double seconds, double subSeconds, int ditherEvery, int flips) {
        return (int) Math.max(0, Math.floor(secondsForSubs(seconds, flips) / secondsOf(subSeconds, ditherEvery)));
    }
}
