package app.ironside.night;

import app.ironside.image.Statistics;
import app.ironside.journal.SubTaken;
import app.ironside.sky.SkyBrightness;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * How a night's stars have grown since focus was found, filter by filter: what height adds is taken out first, since air widens stars with
 * the 0.6th power of its mass.
 *
 * @see "Roddier 1981, Progress in Optics 19, 281: seeing goes as airmass^0.6"
 */
final class SizeGrowth {
    private static final double POWER = 0.6;

    /** First and last subs of a filter that are compared. */
    private static final int SUBS = 3;

    private final Map<String, List<Double>> sizes = new LinkedHashMap<>();
    private String last = "";

    /** Focus was found: what comes now is measured against what comes first. */
    void begin() {
        sizes.clear();
    }

    void taken(SubTaken sub) {
        if (sub.measures().hfrPx().isPresent()
                && sub.circumstances().altitudeDeg().isPresent()) {
            double airmass = SkyBrightness.airmass(
                    Math.max(5, sub.circumstances().altitudeDeg().getAsDouble()));
            sizes.computeIfAbsent(sub.filter(), f -> new ArrayList<>())
                    .add(sub.measures().hfrPx().getAsDouble() / Math.pow(airmass, POWER));
            last = sub.filter();
        }
    }

    /** Why the stars of the last filter ask for a run; empty if they have not grown by that share. */
    Optional<String> because(double share) {
        List<Double> all = sizes.getOrDefault(last, List.of());
        if (all.size() < 2 * SUBS) {
            return Optional.empty();
        }
        double first = median(all.subList(0, SUBS));
        double now = median(all.subList(all.size() - SUBS, all.size()));
        return now > first * (1 + share)
                ? Optional.of(String.format(
                        Locale.ROOT,
                        "stars in %s larger by %.0f %% than after the last run, height taken out",
                        last,
                        100 * (now / first - 1)))
                : Optional.empty();
    }

    private static double median(List<Double> values) {
        return Statistics.median(
                values.stream().mapToDouble(Double::doubleValue).toArray());
    }
}
