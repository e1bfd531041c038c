package app.ironside.guide;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * How the guide star would have drifted in declination, had nobody held it: where it was seen, less what the pulses had moved the
 * telescope by.
 *
 * @param start of what was watched
 * @param northArcsecPerMinute of the star, north positive
 * @param sigmaArcsecPerMinute standard deviation
 */
public record DeclinationDrift(
        Instant start, Duration watched, double northArcsecPerMinute, double sigmaArcsecPerMinute) {
    private static final int FEWEST_SAMPLES = 12;
    private static final Duration SHORTEST = Duration.ofSeconds(45);

    /** What the air does to one exposure it does to the next too: fewer are independent than there are. */
    private static final double CORRELATED = 2;

    /**
     * Fits a straight line.
     *
     * @param samples without a dither between them, in order
     * @param northArcsecPerSecond by which a pulse north moves the telescope
     * @return empty if they are too few
     */
    public static Optional<DeclinationDrift> of(List<GuideSample> samples, double northArcsecPerSecond) {
        int n = samples.size();
        if (n < FEWEST_SAMPLES) {
            return Optional.empty();
        }
        Instant start = samples.get(0).time();
        Duration watched = Duration.between(start, samples.get(n - 1).time());
        if (watched.compareTo(SHORTEST) < 0) {
            return Optional.empty();
        }
        double[] minutes = new double[n];
        double[] left = new double[n];
        double pulsed = 0;
        for (int i = 0; i < n; i++) {
            GuideSample s = samples.get(i);
            minutes[i] = Duration.between(start, s.time()).toMillis() / 60_000.0;
            // Displacements are the telescope's, the star's go the other way.
            left[i] = pulsed - s.decArcsec();
            pulsed += s.decPulseMs() / 1000 * northArcsecPerSecond;
        }
        double meanX = mean(minutes);
        double meanY = mean(left);
        double xx = 0;
        double xy = 0;
        double yy = 0;
        for (int i = 0; i < n; i++) {
            xx += (minutes[i] - meanX) * (minutes[i] - meanX);
            xy += (minutes[i] - meanX) * (left[i] - meanY);
            yy += (left[i] - meanY) * (left[i] - meanY);
        }
        double slope = xy / xx;
        double variance = Math.max(0, yy - slope * xy) / (n - 2);
        return Optional.of(new DeclinationDrift(start, watched, slope, CORRELATED * Math.sqrt(variance / xx)));
    }

    private static double mean(double[] values) {
        double sum = 0;
        for (double value : values) {
            sum += value;
        }
        return sum / values.length;
    }
}
