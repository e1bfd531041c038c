package app.ironside.guide;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToDoubleFunction;

/** How much an axis swings at each period, in a record that nothing corrected. */
public final class GuideSpectrum {
    private static final int PERIODS = 160;
    private static final double SHORTEST_SECONDS = 10;

    private GuideSpectrum() {}

    /**
     * Swing to either side, arcseconds, of the sine that fits best at each of some periods, evenly in their logarithm, from ten seconds to
     * half the record.
     *
     * @param axis of the displacement
     * @return period and swing, the shortest first; empty of a record that is too short
     */
    public static List<double[]> of(List<GuideSample> samples, ToDoubleFunction<GuideSample> axis) {
        if (samples.size() < GuideLog.FEWEST) {
            return List.of();
        }
        Instant start = samples.get(0).time();
        double[] t = samples.stream()
                .mapToDouble(s -> Duration.between(start, s.time()).toMillis() / 1000.0)
                .toArray();
        double[] y = samples.stream().mapToDouble(axis).toArray();
        double longest = t[t.length - 1] / 2;
        if (longest <= SHORTEST_SECONDS) {
            return List.of();
        }
        double variance = varianceAboutLine(t, y);
        List<double[]> spectrum = new ArrayList<>();
        for (int k = 0; k < PERIODS; k++) {
            double period = SHORTEST_SECONDS * Math.pow(longest / SHORTEST_SECONDS, k / (PERIODS - 1.0));
            double power = Math.max(0, Periodogram.power(t, y, period));
            spectrum.add(new double[] {period, Math.sqrt(2 * power * variance)});
        }
        return spectrum;
    }

    private static double varianceAboutLine(double[] t, double[] y) {
        Line line = Line.through(t, y);
        double meanT = 0;
        double meanY = 0;
        for (int i = 0; i < t.length; i++) {
            meanT += t[i] / t.length;
            meanY += y[i] / t.length;
        }
        double sum = 0;
        for (int i = 0; i < t.length; i++) {
            double off = y[i] - meanY - line.slope() * (t[i] - meanT);
            sum += off * off / t.length;
        }
        return sum;
    }
}
