package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.judge.BlockNoise;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A finished stack.
 *
 * @param picture in the reference frame's orientation, NaN where no sub reaches; of a mosaic the mean of what its pixels see
 * @param planes the picture, or its red, green and blue
 * @param grid its pixels, for stacks of other filters
 * @param contributions the subs that entered
 * @param rejected the others with the reason
 * @param rejectedPixelFraction share of pixel values left out by the rejection
 * @param noiseAdu standard deviation of the background, pixel to pixel: resampling lowers it, so that it tells no gain
 * @param subNoiseAdu the same of one calibrated sub, median over the subs
 * @param medianSubHfrPx median half-flux radius of the subs' stars
 * @param gain what the stack is better than one sub by
 * @param maps what each pixel is made of; empty if it was not asked for
 * @param drizzled what drops onto a finer grid did, which the picture then has; empty for interpolation
 */
public record StackResult(
        Frame picture,
        List<Frame> planes,
        Stacker.Grid grid,
        List<Contribution> contributions,
        List<Rejected> rejected,
        Path reference,
        double rejectedPixelFraction,
        double noiseAdu,
        double subNoiseAdu,
        double medianSubHfrPx,
        Gain gain,
        Optional<StackMaps> maps,
        Optional<Drizzled> drizzled) {
    /**
     * A sub that entered.
     *
     * @param weight what it counts, 1 for the best
     * @param footprint where it lies
     */
    public record Contribution(Path file, double weight, Footprint footprint) {}

    /** A sub that did not enter. */
    public record Rejected(Path file, String reason) {}

    /**
     * Gain in signal-to-noise ratio over the median sub, for faint extended light: the stars' light over the noise of blocks of
     * {@value BlockNoise#BLOCK_PX} pixels, in the stack and in the subs alike, so that resampling does not count.
     *
     * @param measured in the picture
     * @param possible with the same subs, if each counted by its light over its noise squared: √N when all are alike
     * @param error of the measured gain, one standard deviation
     */
    public record Gain(double measured, double possible, double error) {}

    /**
     * What drops gained and cost, against the same subs interpolated.
     *
     * @param spread of what fell on each pixel over its mean
     * @param fwhmPx width of the stars, in the sub's pixels
     * @param plainFwhmPx the same of the interpolated stack
     * @param plainGain what the interpolated stack is better than one sub by
     */
    public record Drizzled(Drizzle how, double spread, double fwhmPx, double plainFwhmPx, Gain plainGain) {
        /** Whether so many subs, lying so, cover the grid evenly. */
        public boolean isEven() {
            return spread <= Drizzle.EVEN_SPREAD;
        }

        /**
         * Measured in one sentence or two.
         *
         * @param gain of the picture
         */
        public String words(Gain gain) {
            return String.format(
                    Locale.ROOT,
                    "Stars of %.2f of a sub's pixels by drops, %.2f interpolated; faint light %.2f times better than one sub, %.2f interpolated. "
                            + "What fell on the pixels varies by %.0f %%: %s",
                    fwhmPx,
                    plainFwhmPx,
                    gain.measured(),
                    plainGain.measured(),
                    100 * spread,
                    isEven()
                            ? "evenly covered."
                            : "unevenly covered; more dithered subs, larger drops or a coarser grid would fill it.");
        }
    }

    /** The part of the picture in which nearly all subs lie; empty if there is none. */
    public Optional<Crop> crop() {
        return Crop.of(List.of(footprints()), picture.width(), picture.height());
    }

    /** Where the subs lie. */
    public List<Footprint> footprints() {
        return contributions.stream().map(Contribution::footprint).toList();
    }

    /** The files of the subs that entered. */
    public List<Path> kept() {
        return contributions.stream().map(Contribution::file).toList();
    }

    /** How much better than one sub, in signal-to-noise ratio. */
    public double snrGainOverOneSub() {
        return gain.measured();
    }
}
