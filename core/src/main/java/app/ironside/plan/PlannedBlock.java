package app.ironside.plan;

import app.ironside.sky.Interval;
import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * One target's part of the night.
 *
 * @param flip when the telescope changes sides, if that falls inside
 * @param byFilter subs that fit, overheads counted, by filter in the order of their first
 * @param done subs of it that were taken before a stop, by filter
 */
public record PlannedBlock(
        TargetPlan target,
        TargetWindow window,
        Interval span,
        Optional<Instant> flip,
        Map<String, Integer> byFilter,
        Map<String, Integer> done) {
    public PlannedBlock {
        byFilter = Collections.unmodifiableMap(new LinkedHashMap<>(byFilter));
        done = Map.copyOf(done);
    }

    /** Subs that fit. */
    public int subs() {
        return byFilter.values().stream().mapToInt(Integer::intValue).sum();
    }

    /** What is taken of each filter: "L 24 × 120 s, Ha 10 × 300 s". */
    public String words() {
        return target.goals().stream()
                .filter(g -> byFilter.containsKey(g.filter()))
                .map(g -> String.format(
                        Locale.ROOT, "%s %d × %.0f s", g.filter(), byFilter.get(g.filter()), g.subSeconds()))
                .collect(Collectors.joining(", "));
    }

    /** The light that they gather, hours. */
    public double hoursOfLight() {
        return target.goals().stream()
                        .mapToDouble(g -> byFilter.getOrDefault(g.filter(), 0) * g.subSeconds())
                        .sum()
                / 3600;
    }
}
