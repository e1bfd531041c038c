package app.ironside.kit;

import app.ironside.Check;

/** The guide camera and the optics before it. */
public record GuiderSpec(double apertureMm, double focalLengthMm, int widthPx, int heightPx, double pixelUm) {
    public GuiderSpec {
        Check.inRange("apertureMm", apertureMm, 1, 20_000);
        Check.inRange("focalLengthMm", focalLengthMm, 1, 100_000);
        Check.inRange("widthPx", widthPx, 32, 30_000);
        Check.inRange("heightPx", heightPx, 32, 30_000);
        Check.inRange("pixelUm", pixelUm, 0.5, 100);
    }

    /** Image scale in arcseconds per pixel. */
    public double arcsecPerPixel() {
        return Sampling.arcsecPerPixel(pixelUm, focalLengthMm);
    }
}
