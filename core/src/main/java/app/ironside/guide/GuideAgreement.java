package app.ironside.guide;

import java.util.Locale;
import java.util.Optional;

/**
 * Whether the stars of a sub agree with what the guide star did meanwhile: a guide star that stood still under stars that are drawn out
 * means that something bends between the two, or that the field turns.
 *
 * @param drawnOutArcsec standard deviation by which the stars are longer than wide
 * @param strayedArcsec by which the guide star strayed more along one axis than along the other
 * @param flexure whether the guide star does not explain the stars
 */
public record GuideAgreement(double drawnOutArcsec, double strayedArcsec, boolean flexure, String sentence) {
    /** Full width at half maximum over the standard deviation of a Gaussian. */
    private static final double FWHM_OVER_SIGMA = 2.3548;

    /** Rounder stars are round to the eye (axes as 6 to 5). */
    private static final double ROUND = 0.55;

    /** What the guide star must leave unexplained, in main camera pixels, before anything is said to bend. */
    private static final double UNEXPLAINED_PX = 0.35;

    /**
     * Compares.
     *
     * @param fwhmPx of the sub's stars, geometric mean of both axes
     * @param eccentricity of the sub's stars
     * @param arcsecPerPixel of the main camera
     * @return empty without a guide star
     */
    public static Optional<GuideAgreement> of(
            GuideStatistics guiding, double fwhmPx, double eccentricity, double arcsecPerPixel) {
        if (guiding.samples() == 0 || fwhmPx <= 0) {
            return Optional.empty();
        }
        double stretch = Math.sqrt(Math.sqrt(1 - eccentricity * eccentricity));
        double sigma = fwhmPx * arcsecPerPixel / FWHM_OVER_SIGMA;
        double drawnOut = Math.sqrt(Math.max(0, square(sigma / stretch) - square(sigma * stretch)));
        double strayed = Math.sqrt(Math.abs(square(guiding.rmsRaArcsec()) - square(guiding.rmsDecArcsec())));
        boolean round = eccentricity < ROUND;
        double left = Math.sqrt(Math.max(0, square(drawnOut) - square(strayed)));
        boolean flexure = !round && left > UNEXPLAINED_PX * arcsecPerPixel;
        String sentence = round
                ? format("Round stars (axes as %.2f to 1), as the guide star says.", 1 / square(stretch))
                : flexure
                        ? format(
                                "The stars are drawn out by %.2f″, the guide star strayed by %.2f″: something bends between the two, or the field turns.",
                                drawnOut, strayed)
                        : format(
                                "The stars are drawn out by %.2f″, and the guide star tells why: %.2f″ in right ascension, %.2f″ in declination.",
                                drawnOut, guiding.rmsRaArcsec(), guiding.rmsDecArcsec());
        return Optional.of(new GuideAgreement(drawnOut, strayed, flexure, sentence));
    }

    /**
     * What guiding adds to the stars' width: share of the width squared.
     *
     * @param fwhmPx of the sub's stars
     */
    public static double shareOfWidth(GuideStatistics guiding, double fwhmPx, double arcsecPerPixel) {
        double star = square(fwhmPx * arcsecPerPixel / FWHM_OVER_SIGMA);
        double guide = square(guiding.rmsTotalArcsec()) / 2;
        return star <= 0 ? 0 : Math.min(1, guide / star);
    }

    private static double square(double v) {
        return v * v;
    }

    private static String format(String pattern, Object... values) {
        return String.format(Locale.ROOT, pattern, values);
    }
}
