package app.ironside.plan;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.List;

/** A service that foretells the weather of a site hour by hour. */
public interface WeatherForecast {
    /**
     * One hour.
     *
     * @param cloudCover share of the sky, 0 to 1
     * @param relativeHumidity 0 to 1
     */
    record Hour(
            Instant time,
            double cloudCover,
            double temperatureC,
            double relativeHumidity,
            double windMetresPerSecond) {}

    /** The hours of a span, in order; empty if the service has none for it. */
    List<Hour> hours(Interval span);

    /** Whether it is made up, for rehearsals: then nothing that follows from it may be told as if it were foreseen. */
    default boolean isInvented() {
        return false;
    }

    /** The clouds of a span. */
    default CloudForecast clouds(Interval span) {
        java.util.Map<Instant, Double> cover = new java.util.HashMap<>();
        hours(span).forEach(h -> cover.put(h.time(), h.cloudCover()));
        return new CloudForecast(cover);
    }
}
