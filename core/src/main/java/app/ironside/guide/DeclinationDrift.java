package app.ironside.guide;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hipparchus.stat.regression.SimpleRegression;

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
        SimpleRegression line = new SimpleRegression();
        double pulsed = 0;
        for (GuideSample s : samples) {
            // Displacements are the telescope's, the star's go the other way.
            line.addData(Duration.between(start, s.time()).toMillis() / 60_000.0, pulsed - s.decArcsec());
            pulsed += s.decPulseMs() / 1000 * northArcsecPerSecond;
        }
        return Optional.of(new DeclinationDrift(start, watched, line.getSlope(), CORRELATED * line.getSlopeStdErr()));
    }
}
