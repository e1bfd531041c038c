package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Kit;

/**
 * What a sub costs besides its light, seconds.
 *
 * @param perSub read-out and download
 * @param perDither until guiding has settled after a shift
 * @param perFocus a focus run between subs, guiding begun anew after it
 * @param hoursPerFocus how often one is expected
 * @param perStart slew, centring, the first focus run, guide star, settling and a minute's proof
 * @param perFlip the same on the other side, without a focus run
 */
public record Overheads(
        double perSub, double perDither, double perFocus, double hoursPerFocus, double perStart, double perFlip) {
    /** Beyond the read-out: the guide exposure under way ends first. */
    private static final double GUIDE_EXPOSURE_ENDS = 1;

    // What the journals of the three example nights show: 137 dithers of 24 s (29 at most), sweeps of 73 s with 80 s to
    // guide again,
    // five starts of 235 to 368 s, five flips of 158 to 159 s.
    private static final double DITHER = 24;
    private static final double FOCUS = 153;
    private static final double HOURS_PER_FOCUS = 1.2;
    private static final double START = 293;
    private static final double FLIP = 159;

    public Overheads {
        Check.positive("hoursPerFocus", hoursPerFocus);
    }

    /** Usual figures for a kit. */
    public static Overheads of(Kit kit) {
        return new Overheads(
                kit.sensor().readoutSeconds() + GUIDE_EXPOSURE_ENDS, DITHER, FOCUS, HOURS_PER_FOCUS, START, FLIP);
    }

    /** A plan that is to hold its count gets this much more time than it should need: a dither settles late, a focus run comes between. */
    private static final double RESERVE = 1.15;

    /** Time to allow for a number of subs with so many flips. */
    public double secondsFor(int subs, double subSeconds, int ditherEvery, int flips) {
        double light = subs * (subSeconds + perSub + perDither / ditherEvery);
        double once = perStart + flips * (perFlip + subSeconds);
        double focus = light / 3600 / hoursPerFocus * perFocus;
        return RESERVE * (light + once + focus);
    }

    /** Subs that fit into a time with so many flips. */
    public int subsIn(double seconds, double subSeconds, int ditherEvery, int flips) {
        double focus = seconds / 3600 / hoursPerFocus * perFocus;
        double left = seconds - perStart - flips * perFlip - focus;
        return (int) Math.max(0, Math.floor(left / (subSeconds + perSub + perDither / ditherEvery)));
    }
}
