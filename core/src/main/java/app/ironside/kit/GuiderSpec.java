package app.ironside.kit;

import app.ironside.Check;

/** The guide camera and the optics before it. */
public record GuiderSpec(double apertureMm, double focalLengthMm, int widthPx, int heightPx, double pixelUm) {
    public GuiderSpec {
        Check.positive("apertureMm", apertureMm);
        Check.positive("focalLengthMm", focalLengthMm);
        Check.atLeast("widthPx", widthPx, 32);
        Check.atLeast("heightPx", heightPx, 32);
        Check.positive("pixelUm", pixelUm);
    }

    /** Image scale in arcseconds per pixel. */
    public double arcsecPerPixel() {
        return Sampling.arcsecPerPixel(pixelUm, focalLengthMm);
    }
}
