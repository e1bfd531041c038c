package app.ironside.solve;

import app.ironside.sky.Equatorial;
import java.util.List;

/**
 * A recognised frame.
 *
 * @param centre sky place of the middle of the frame, J2000
 * @param rmsArcsec residual of the matched stars, both axes together
 * @param log10FalseOdds decimal logarithm of the odds that the matches are chance
 * @param stars in the final fit
 * @param wrongHints what was believed before and is not so, each in a sentence; empty if all was right
 */
public record PlateSolution(
        Equatorial centre,
        Wcs wcs,
        double rmsArcsec,
        double log10FalseOdds,
        List<StarMatch> stars,
        List<String> wrongHints)
        implements SolveResult {
    public PlateSolution {
        stars = List.copyOf(stars);
        wrongHints = List.copyOf(wrongHints);
    }

    /** Stars in the final fit. */
    public int matchedStars() {
        return stars.size();
    }

    /** Position angle of the +y axis, east of north, −180 to 180°. */
    public double rotationDeg() {
        return wcs.rotationDeg();
    }

    public double scaleArcsecPerPixel() {
        return wcs.scaleArcsecPerPixel();
    }

    /** As the one that stood of so many candidates tried. */
    PlateSolution withTried(long candidates) {
        double odds = log10FalseOdds + Math.log10(Math.max(1, candidates));
        return new PlateSolution(centre, wcs, rmsArcsec, odds, stars, wrongHints);
    }

    PlateSolution withWrongHints(List<String> sentences) {
        return new PlateSolution(centre, wcs, rmsArcsec, log10FalseOdds, stars, sentences);
    }
}
