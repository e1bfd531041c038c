package app.ironside.guide;

import app.ironside.kit.GuiderSpec;
import app.ironside.star.StarField;
import java.util.Locale;
import java.util.OptionalDouble;

/**
 * Whether a guide camera is in focus, as one of its frames shows.
 *
 * @param stars found
 * @param hfrPx their median half-flux radius; empty without stars
 * @param limitPx twice what air, aperture and pixels together make of a star in focus
 */
public record GuideFocus(int stars, OptionalDouble hfrPx, double limitPx) {
    /** An air that is poor for a short exposure, full width at half maximum. */
    private static final double POOR_AIR_ARCSEC = 4;

    /** Small guide optics are seldom sharper, full width at half maximum. */
    private static final double OPTICS_ARCSEC = 4;

    /** Width of a star that falls into one pixel, as it is measured. */
    private static final double PIXEL_PX = 1.2;

    /** Full width of the diffraction disc in wavelengths over aperture (Born and Wolf, 8.5.2). */
    private static final double DIFFRACTION = 1.03;

    private static final double GREEN_MM = 5.5e-4;
    private static final double ARCSEC = 206_264.8;

    /** Half-flux radius of a Gaussian over its full width at half maximum. */
    private static final double HFR_OF_FWHM = 0.5;

    private static final double TWICE = 2;

    /** What a guide frame shows. */
    public static GuideFocus of(StarField field, GuiderSpec guider) {
        double diffraction = DIFFRACTION * GREEN_MM / guider.apertureMm() * ARCSEC;
        double sky = Math.hypot(Math.hypot(POOR_AIR_ARCSEC, OPTICS_ARCSEC), diffraction) / guider.arcsecPerPixel();
        return new GuideFocus(
                field.good().size(), field.medianHalfFluxRadiusPx(), TWICE * HFR_OF_FWHM * Math.hypot(sky, PIXEL_PX));
    }

    public boolean isSharp() {
        return hfrPx.isPresent() && hfrPx.getAsDouble() <= limitPx;
    }

    /** In a sentence, with what to do. */
    public String sentence() {
        if (hfrPx.isEmpty()) {
            return "The guide camera shows no star to judge its focus by.";
        }
        return String.format(
                Locale.ROOT,
                isSharp()
                        ? "The guide camera is in focus: %d stars, half-flux radius %.2f px of at most %.2f."
                        : "The guide camera is out of focus: %d stars, half-flux radius %.2f px where at most %.2f are due."
                                + " Turn its focus until the stars are smallest.",
                stars,
                hfrPx.getAsDouble(),
                limitPx);
    }
}
