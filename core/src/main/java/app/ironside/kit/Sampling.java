package app.ironside.kit;

import app.ironside.Check;

/** What follows from focal length, aperture and pixel size alone. */
public final class Sampling {
    private static final double ARCSEC_PER_RADIAN = 648_000 / Math.PI;
    private static final double GREEN_UM = 0.55;

    /** What moves a star by less than this within a sub does not show, pixels (common practice). */
    public static final double INVISIBLE_PX = 0.5;

    private Sampling() {}

    /** Image scale: 206,264.8″ times pixel over focal length. */
    public static double arcsecPerPixel(double pixelUm, double focalLengthMm) {
        Check.positive("pixelUm", pixelUm);
        Check.positive("focalLengthMm", focalLengthMm);
        return ARCSEC_PER_RADIAN * pixelUm / 1000 / focalLengthMm;
    }

    /**
     * How far the focal plane may lie from best focus on either side before the wavefront is a quarter wave off: 2 λ N²,
     * in green light.
     *
     * @return half the critical focus zone, micrometres
     * @see "Born and Wolf 1999, Principles of Optics, section 8.8 (tolerance of focal setting)"
     */
    public static double criticalFocusUm(double focalRatio) {
        return 2 * GREEN_UM * focalRatio * focalRatio;
    }
}
