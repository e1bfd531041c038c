package app.ironside.plan;

import app.ironside.sky.Crossings;
import app.ironside.sky.Interval;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Cloud hour by hour: for each given time the share of the sky that is covered, straight between them.
 *
 * <p>A share of the sky covered is read as the share of the time that a target stands behind cloud (common practice).
 */
public final class CloudForecast {
    /** Nothing is known of clouds: the sky counts as clear. */
    public static final CloudForecast CLEAR = new CloudForecast(Map.of());

    /** A sky with more cover than this is not worth starting for. */
    private static final double USABLE_COVER = 0.3;

    private static final Duration STEP = Duration.ofMinutes(10);

    private final TreeMap<Instant, Double> cover;

    /**
     * @param cover share of the sky covered, 0 to 1, by time
     */
    public CloudForecast(Map<Instant, Double> cover) {
        this.cover = new TreeMap<>(cover);
    }

    public boolean isKnown() {
        return !cover.isEmpty();
    }

    /** Whether it tells of a part of a span. */
    public boolean tellsOf(Interval span) {
        return !cover.isEmpty()
                && cover.firstKey().isBefore(span.until())
                && cover.lastKey().isAfter(span.from());
    }

    /** Share of the sky covered, 0 to 1; before the first and after the last given time, as there. */
    public double coverAt(Instant time) {
        if (cover.isEmpty()) {
            return 0;
        }
        Map.Entry<Instant, Double> before = cover.floorEntry(time);
        Map.Entry<Instant, Double> after = cover.ceilingEntry(time);
        if (before == null) {
            return after.getValue();
        }
        if (after == null || after.getKey().equals(before.getKey())) {
            return before.getValue();
        }
        double share = (double) Duration.between(before.getKey(), time).toMillis()
                / Duration.between(before.getKey(), after.getKey()).toMillis();
        return before.getValue() + share * (after.getValue() - before.getValue());
    }

    /** The stretches of a span with at most three tenths of the sky covered. */
    public List<Interval> usable(Interval span) {
        return Crossings.above(span, STEP, t -> USABLE_COVER - coverAt(t));
    }
}
