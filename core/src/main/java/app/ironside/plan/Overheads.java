package app.ironside.plan;

import app.ironside.Check;
import app.ironside.kit.Kit;

/**
 * What a sub costs besides its light, seconds.
 *
 * @param perSub read-out and download
 * @param perDither until guiding has settled after a shift
 * @param perFocus one focus run (common practice: 60 to 90 s; nine broadband frames with settling)
 * @param hoursPerFocus how often one is expected
 * @param perStart slew, centring, guide-star search and settling
 * @param perFlip the same with a focus check
 */
public record Overheads(
        double perSub, double perDither, double perFocus, double hoursPerFocus, double perStart, double perFlip) {
    public Overheads {
        Check.positive("hoursPerFocus", hoursPerFocus);
    }

    /** Usual figures for a kit. */
    public static Overheads of(Kit kit) {
        return new Overheads(kit.sensor().readoutSeconds(), 18, 110, 1.2, 120, 150);
    }

    /** A plan that is to hold its count gets this much more time than it should need: a dither settles late, a focus run comes between. */
    private static final double RESERVE = 1.15;

    /** Time to allow for a number of subs with so many flips. */
    public double secondsFor(int subs, double subSeconds, int ditherEvery, int flips) {
        double light = subs * (subSeconds + perSub + perDither / ditherEvery);
        double once = perStart + perFocus + flips * (perFlip + subSeconds);
        double focus = light / 3600 / hoursPerFocus * perFocus;
        return RESERVE * (light + once + focus);
    }

    /** Subs that fit into a time with so many flips. */
    public int subsIn(double seconds, double subSeconds, int ditherEvery, int flips) {
        double focus = seconds / 3600 / hoursPerFocus * perFocus;
        double left = seconds - perStart - flips * (perFlip + subSeconds / 2) - focus;
        return (int) Math.max(0, Math.floor(left / (subSeconds + perSub + perDither / ditherEvery)));
    }
}
