package app.ironside.star;

import app.ironside.Check;

/**
 * What counts as a star.
 *
 * @param thresholdSigma significance, in standard deviations of the matched-filter noise
 * @param kernelSigmaPx Gaussian sigma of the matched filter
 * @param minAreaPx smallest number of pixels above the threshold
 * @param saturationAdu pixel value from which a star counts as saturated
 */
public record DetectSettings(double thresholdSigma, double kernelSigmaPx, int minAreaPx, double saturationAdu) {
    public static final DetectSettings DEFAULT = new DetectSettings(5.0, 1.0, 4, 64_000);

    public DetectSettings {
        Check.inRange("thresholdSigma", thresholdSigma, 1, 1000);
        Check.inRange("kernelSigmaPx", kernelSigmaPx, 0.3, 20);
        Check.atLeast("minAreaPx", minAreaPx, 1);
    }

    public DetectSettings withKernelSigmaPx(double sigmaPx) {
        return new DetectSettings(thresholdSigma, sigmaPx, minAreaPx, saturationAdu);
    }
}
