package app.ironside.star;

import app.ironside.Check;

/**
 * What counts as a star.
 *
 * @param thresholdSigma significance, in standard deviations of the matched-filter noise
 * @param kernelSigmaPx Gaussian sigma of the matched filter
 * @param minAreaPx smallest number of pixels above the threshold
 * @param saturationAdu pixel value from which a star counts as saturated
 * @param most of the brightest groups of pixels that are measured; the fainter ones are left out
 * @param profiles whether a profile is fitted to each star
 */
public record DetectSettings(
        double thresholdSigma, double kernelSigmaPx, int minAreaPx, double saturationAdu, int most, boolean profiles) {
    /** All stars, in full. */
    public static final DetectSettings DEFAULT = new DetectSettings(5.0, 1.0, 4, 64_000, Integer.MAX_VALUE, true);

    /** The brightest stars without their profiles: enough to focus by and to recognise the sky by, in a fraction of the time. */
    public static final DetectSettings BRIGHTEST = new DetectSettings(5.0, 1.0, 4, 64_000, 600, false);

    public DetectSettings {
        Check.inRange("thresholdSigma", thresholdSigma, 1, 1000);
        Check.inRange("kernelSigmaPx", kernelSigmaPx, 0.3, 20);
        Check.atLeast("minAreaPx", minAreaPx, 1);
        Check.atLeast("most", most, 1);
    }

    public DetectSettings withKernelSigmaPx(double sigmaPx) {
        return new DetectSettings(thresholdSigma, sigmaPx, minAreaPx, saturationAdu, most, profiles);
    }

    public DetectSettings withoutProfiles() {
        return new DetectSettings(thresholdSigma, kernelSigmaPx, minAreaPx, saturationAdu, most, false);
    }
}
