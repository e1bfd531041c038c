package app.ironside.logbook;

import app.ironside.image.Statistics;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * What a night gave and lost of a target.
 *
 * @param night its number in the logbook
 * @param lost hours by what lowered the subs most, in the rule book's word; "" where that is not told
 * @param guidingArcsec RMS of the subs kept, where they were guided
 */
public record TargetNight(
        long night,
        LocalDate date,
        String kit,
        List<OfFilter> filters,
        Map<String, Double> lost,
        List<Double> guidingArcsec) {
    /**
     * In one filter.
     *
     * @param taken subs
     * @param sizesPx widths of the stars of those kept, where they were measured
     */
    public record OfFilter(String filter, int taken, int kept, double hoursKept, List<Double> sizesPx) {
        private static OfFilter of(String filter, List<Taken> subs) {
            List<Taken> good = subs.stream().filter(Taken::keep).toList();
            return new OfFilter(
                    filter,
                    subs.size(),
                    good.size(),
                    good.stream().mapToDouble(Taken::hours).sum(),
                    good.stream().flatMap(s -> s.sizePx().stream()).toList());
        }
    }

    /** One sub as it is counted here. */
    record Taken(
            long night,
            LocalDate date,
            String kit,
            String target,
            String filter,
            boolean keep,
            String cause,
            double hours,
            Optional<Double> sizePx,
            Optional<Double> guidingArcsec) {}

    /** @param subs of one night, at least one */
    static TargetNight of(List<Taken> subs) {
        Taken any = subs.get(0);
        return new TargetNight(
                any.night(),
                any.date(),
                any.kit(),
                subs.stream()
                        .collect(Collectors.groupingBy(Taken::filter, TreeMap::new, Collectors.toList()))
                        .entrySet()
                        .stream()
                        .map(e -> OfFilter.of(e.getKey(), e.getValue()))
                        .toList(),
                subs.stream()
                        .filter(s -> !s.keep())
                        .collect(Collectors.groupingBy(
                                Taken::cause, TreeMap::new, Collectors.summingDouble(Taken::hours))),
                subs.stream()
                        .filter(Taken::keep)
                        .flatMap(s -> s.guidingArcsec().stream())
                        .toList());
    }

    public int taken() {
        return filters.stream().mapToInt(OfFilter::taken).sum();
    }

    public int kept() {
        return filters.stream().mapToInt(OfFilter::kept).sum();
    }

    public double hoursKept() {
        return filters.stream().mapToDouble(OfFilter::hoursKept).sum();
    }

    public OptionalDouble usualSizePx() {
        return usual(filters.stream().flatMap(f -> f.sizesPx().stream()).toList());
    }

    public OptionalDouble usualGuidingArcsec() {
        return usual(guidingArcsec);
    }

    /** The median; empty of none. */
    public static OptionalDouble usual(List<Double> values) {
        return values.isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(Statistics.median(
                        values.stream().mapToDouble(Double::doubleValue).toArray()));
    }
}
