package app.ironside.plan;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/**
 * What a forecast leaves of the hours in which a target is up and dark.
 *
 * @param upHours how long it is up and dark
 * @param knownHours of which the forecast tells
 * @param clear stretches of these with at most three tenths of the sky covered
 */
public record ClearHours(double upHours, double knownHours, List<Interval> clear) {
    /** A night with less costs more in setting up than it gives (common practice). */
    private static final double WORTH_HOURS = 1;

    public ClearHours {
        clear = List.copyOf(clear);
    }

    /**
     * @param usable when the target is up and dark
     */
    public static ClearHours of(List<Interval> usable, WeatherTable forecast) {
        List<Interval> known = usable.stream()
                .flatMap(u -> u.intersection(forecast.span()).stream())
                .toList();
        List<Interval> clear = known.stream()
                .flatMap(k -> forecast.clouds(k).usable(k).stream())
                .toList();
        return new ClearHours(hours(usable), hours(known), clear);
    }

    private static double hours(List<Interval> spans) {
        return spans.stream().mapToDouble(Interval::hours).sum();
    }

    public double hours() {
        return hours(clear);
    }

    public boolean isWorthStarting() {
        return longest().filter(l -> l.hours() >= WORTH_HOURS).isPresent();
    }

    /** The longest clear stretch. */
    public Optional<Interval> longest() {
        return clear.stream().max(Comparator.comparing(Interval::duration));
    }

    /** When the last clear stretch ends. */
    public Optional<Instant> until() {
        return clear.stream().map(Interval::until).max(Comparator.naturalOrder());
    }
}
