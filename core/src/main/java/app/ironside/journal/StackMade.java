package app.ironside.journal;

import app.ironside.solve.Wcs;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * The subs of one target, filter and exposure were stacked.
 *
 * @param set names it
 * @param frames that were looked at
 * @param kept of them
 * @param partial subs that were read out in the middle only and are left out
 * @param light total exposure
 * @param noiseAdu from pixel to pixel
 * @param subNoiseAdu of the median sub
 * @param gain if it was measured
 * @param hfrPx of its stars, if any
 * @param subHfrPx of the subs' stars
 * @param rejectedPixelFraction values left out
 * @param reference the sub to which the others were aligned
 */
public record StackMade(
        Instant time,
        String text,
        String set,
        String target,
        String filter,
        String file,
        int frames,
        int kept,
        int partial,
        Duration light,
        double noiseAdu,
        double subNoiseAdu,
        Optional<Gain> gain,
        OptionalDouble hfrPx,
        double subHfrPx,
        double rejectedPixelFraction,
        String reference,
        Optional<Wcs> wcs)
        implements NightEvent {
    /** How many times better than one sub, against what was possible; {@code error} is the measure's own. */
    public record Gain(double measured, double possible, double error) {}

    /** The file of its picture, stretched as it was when it was made, beside the stack. */
    public String picture() {
        return file.replaceFirst("\\.fits$", ".png");
    }

    @Override
    public Stage station() {
        return Stage.STACK;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
