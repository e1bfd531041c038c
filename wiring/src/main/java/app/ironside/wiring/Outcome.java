package app.ironside.wiring;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;
import org.hipparchus.stat.descriptive.rank.Percentile;

/** What many nights of the same program gave, and what decided it. */
public record Outcome(List<ManyNights.Night> nights) {
    /** Fewer nights than this on either side say nothing about a cause. */
    private static final int FEWEST = 3;

    /** Median light that a cause must cost to be named, as a share. */
    private static final double MATTERS = 0.05;

    public Outcome {
        nights = List.copyOf(nights);
    }

    /** The value that one night in ten stays below, the middle one, and the one that one in ten exceeds. */
    public record Percentiles(double tenth, double median, double ninetieth) {}

    /**
     * Something that nights have or have not.
     *
     * @param nights how many have it
     * @param lossShare of the median light of those that have not
     */
    public record Cause(String words, int nights, double lossShare) {}

    public Percentiles lightSeconds() {
        return percentiles(ManyNights.Night::lightSeconds);
    }

    public Percentiles subsKept() {
        return percentiles(ManyNights.Night::kept);
    }

    /** Subs kept of each target. */
    public Map<String, Percentiles> byTarget() {
        Set<String> names = new TreeSet<>();
        nights.forEach(n -> names.addAll(n.keptByTarget().keySet()));
        return names.stream()
                .collect(Collectors.toMap(
                        name -> name,
                        name -> percentiles(n -> n.keptByTarget().getOrDefault(name, 0)),
                        (a, b) -> a,
                        java.util.TreeMap::new));
    }

    /**
     * Nights of one kind of weather or of air.
     *
     * @param words what they have in common
     * @param light seconds that were kept
     * @param kept subs
     */
    public record Group(String words, int nights, Percentiles light, Percentiles kept) {}

    /** Nights by how long cloud took more than half of their light. */
    public List<Group> byWeather() {
        return groups(
                ManyNights.Night::cloudedHours,
                new double[] {0.25, 2},
                List.of("hardly any cloud", "cloud up to 2 h", "cloud above 2 h"));
    }

    /** Nights by the air: its quiet third, its middle one, its restless one. */
    public List<Group> bySeeing() {
        Percentile percentile = new Percentile().withEstimationType(Percentile.EstimationType.R_7);
        percentile.setData(
                nights.stream().mapToDouble(ManyNights.Night::seeingArcsec).toArray());
        double quiet = percentile.evaluate(100.0 / 3);
        double restless = percentile.evaluate(200.0 / 3);
        return groups(
                ManyNights.Night::seeingArcsec,
                new double[] {quiet, restless},
                List.of(
                        String.format(Locale.ROOT, "seeing up to %.1f″", quiet),
                        String.format(Locale.ROOT, "seeing %.1f to %.1f″", quiet, restless),
                        String.format(Locale.ROOT, "seeing above %.1f″", restless)));
    }

    /** Each night is in the first group whose limit it does not exceed, or in the last; groups without nights are left out. */
    private List<Group> groups(ToDoubleFunction<ManyNights.Night> value, double[] limits, List<String> words) {
        List<Group> groups = new ArrayList<>();
        for (int i = 0; i < words.size(); i++) {
            double above = i == 0 ? Double.NEGATIVE_INFINITY : limits[i - 1];
            double upTo = i == limits.length ? Double.POSITIVE_INFINITY : limits[i];
            List<ManyNights.Night> own = nights.stream()
                    .filter(n -> value.applyAsDouble(n) > above && value.applyAsDouble(n) <= upTo)
                    .toList();
            if (!own.isEmpty()) {
                Outcome of = new Outcome(own);
                groups.add(new Group(words.get(i), own.size(), of.lightSeconds(), of.subsKept()));
            }
        }
        return groups;
    }

    private Percentiles percentiles(ToDoubleFunction<ManyNights.Night> value) {
        double[] values = nights.stream().mapToDouble(value).toArray();
        Percentile percentile = new Percentile().withEstimationType(Percentile.EstimationType.R_7);
        percentile.setData(values);
        return new Percentiles(percentile.evaluate(10), percentile.evaluate(50), percentile.evaluate(90));
    }

    /** The share of nights that bring at least so much light. */
    public double shareWith(double lightSeconds) {
        return nights.stream().filter(n -> n.lightSeconds() >= lightSeconds).count() / (double) nights.size();
    }

    /** What nights with little light have that others have not, worst first. */
    public List<Cause> causes() {
        Map<String, Predicate<ManyNights.Night>> candidates = new java.util.LinkedHashMap<>();
        candidates.put("an hour or more under cloud", n -> n.cloudedHours() >= 1);
        double wide = percentiles(ManyNights.Night::seeingArcsec).ninetieth();
        candidates.put(
                String.format(Locale.ROOT, "seeing of %.1f″ and more, the worst tenth", wide),
                n -> n.seeingArcsec() >= wide);
        Map<FaultKind, String> kinds = new EnumMap<>(FaultKind.class);
        nights.forEach(n -> n.faults().forEach(f -> kinds.put(f.kind(), f.kind().sentence())));
        kinds.forEach((kind, words) -> candidates.put(
                words.substring(0, 1).toLowerCase(Locale.ROOT) + words.substring(1),
                n -> n.faults().stream().map(RehearsedFault::kind).anyMatch(kind::equals)));
        return candidates.entrySet().stream()
                .map(e -> cause(e.getKey(), e.getValue()))
                .filter(c -> c.nights() >= FEWEST && nights.size() - c.nights() >= FEWEST && c.lossShare() >= MATTERS)
                .sorted(Comparator.comparingDouble((Cause c) -> c.lossShare() * c.nights())
                        .reversed())
                .toList();
    }

    private Cause cause(String words, Predicate<ManyNights.Night> has) {
        List<ManyNights.Night> with = nights.stream().filter(has).toList();
        List<ManyNights.Night> without = nights.stream().filter(has.negate()).toList();
        if (with.isEmpty() || without.isEmpty()) {
            return new Cause(words, with.size(), 0);
        }
        double usual = new Outcome(without).lightSeconds().median();
        double here = new Outcome(with).lightSeconds().median();
        return new Cause(words, with.size(), usual <= 0 ? 0 : 1 - here / usual);
    }
}
