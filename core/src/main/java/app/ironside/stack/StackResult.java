package app.ironside.stack;

import app.ironside.image.Frame;
import java.nio.file.Path;
import java.util.List;

/**
 * A finished stack.
 *
 * @param picture in the reference frame's orientation, NaN where no sub reaches
 * @param kept the subs that entered
 * @param rejected the others with the reason
 * @param rejectedPixelFraction share of pixel values left out by the rejection
 * @param noiseAdu standard deviation of the background, pixel to pixel
 * @param subNoiseAdu the same of one calibrated sub, median over the subs
 * @param medianSubHfrPx median half-flux radius of the subs' stars
 */
public record StackResult(
        Frame picture,
        List<Path> kept,
        List<Rejected> rejected,
        Path reference,
        double rejectedPixelFraction,
        double noiseAdu,
        double subNoiseAdu,
        double medianSubHfrPx) {
    /** A sub that did not enter. */
    public record Rejected(Path file, String reason) {}

    /** How much the signal-to-noise ratio gained over one sub: the square root of their number if all is well. */
    public double snrGainOverOneSub() {
        return subNoiseAdu / noiseAdu;
    }
}
