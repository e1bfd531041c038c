package app.ironside.kit;

import app.ironside.Check;

/**
 * A telescope or lens.
 *
 * @param obstruction diameter of the central obstruction over the aperture, 0 for none
 * @param transmission share of the light that reaches the filter, 0 to 1
 * @param blurFwhmArcsec the optics' own star size, full width at half maximum
 */
public record Optics(
        double apertureMm, double focalLengthMm, double obstruction, double transmission, double blurFwhmArcsec) {
    public Optics {
        Check.inRange("apertureMm", apertureMm, 1, 20_000);
        Check.inRange("focalLengthMm", focalLengthMm, 1, 100_000);
        Check.inRange("obstruction", obstruction, 0, 0.9);
        Check.inRange("transmission", transmission, 0.01, 1);
        Check.inRange("blurFwhmArcsec", blurFwhmArcsec, 0, 60);
    }

    /** Focal length over aperture. */
    public double focalRatio() {
        return focalLengthMm / apertureMm;
    }

    /** Collecting area, cm². */
    public double areaCm2() {
        double radiusCm = apertureMm / 20;
        return Math.PI * radiusCm * radiusCm * (1 - obstruction * obstruction);
    }
}
