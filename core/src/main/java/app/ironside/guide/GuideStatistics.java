package app.ironside.guide;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.ToDoubleFunction;

/**
 * What a stretch of guiding was like. RMS is about zero, the lock position, because an offset trails stars as surely as noise.
 *
 * @param p80Arcsec within which four fifths of the exposures stayed, both axes together
 * @param decDriftArcsecPerMin slope of the declination displacement
 */
public record GuideStatistics(
        int samples,
        double rmsRaArcsec,
        double rmsDecArcsec,
        double p80Arcsec,
        double peakArcsec,
        double decDriftArcsecPerMin) {
    public static final GuideStatistics NONE = new GuideStatistics(0, 0, 0, 0, 0, 0);

    /** Statistics of samples in order of time; {@link #NONE} for none. */
    public static GuideStatistics of(List<GuideSample> samples) {
        if (samples.isEmpty()) {
            return NONE;
        }
        double[] off = samples.stream()
                .mapToDouble(s -> Math.hypot(s.raArcsec(), s.decArcsec()))
                .sorted()
                .toArray();
        double peak = off[off.length - 1];
        double fourFifths = off[(int) Math.min(off.length - 1L, Math.round(0.8 * (off.length - 1)))];
        return new GuideStatistics(
                samples.size(),
                rms(samples, GuideSample::raArcsec),
                rms(samples, GuideSample::decArcsec),
                fourFifths,
                peak,
                slopePerMinute(samples));
    }

    /** Both axes together. */
    public double rmsTotalArcsec() {
        return Math.hypot(rmsRaArcsec, rmsDecArcsec);
    }

    private static double rms(List<GuideSample> samples, ToDoubleFunction<GuideSample> axis) {
        double sum =
                samples.stream().mapToDouble(axis).map(v -> v * v).average().orElseThrow();
        return Math.sqrt(sum);
    }

    private static double slopePerMinute(List<GuideSample> samples) {
        Instant start = samples.get(0).time();
        double meanT = 0;
        double meanD = 0;
        for (GuideSample s : samples) {
            meanT += minutes(start, s) / samples.size();
            meanD += s.decArcsec() / samples.size();
        }
        double covariance = 0;
        double variance = 0;
        for (GuideSample s : samples) {
            double t = minutes(start, s) - meanT;
            covariance += t * (s.decArcsec() - meanD);
            variance += t * t;
        }
        return variance == 0 ? 0 : covariance / variance;
    }

    private static double minutes(Instant start, GuideSample sample) {
        return Duration.between(start, sample.time()).toMillis() / 60_000.0;
    }
}
