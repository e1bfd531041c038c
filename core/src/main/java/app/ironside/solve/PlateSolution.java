package app.ironside.solve;

import app.ironside.sky.Equatorial;

/**
 * A recognised frame.
 *
 * @param centre sky place of the middle of the frame, J2000
 * @param matchedStars stars in the final fit
 * @param rmsArcsec residual of the matched stars, both axes together
 * @param log10FalseOdds decimal logarithm of the odds that the matches are chance
 */
public record PlateSolution(Equatorial centre, Wcs wcs, int matchedStars, double rmsArcsec, double log10FalseOdds)
        implements SolveResult {
    /** Position angle of the +y axis, east of north, −180 to 180°. */
    public double rotationDeg() {
        return wcs.rotationDeg();
    }

    public double scaleArcsecPerPixel() {
        return wcs.scaleArcsecPerPixel();
    }
}
