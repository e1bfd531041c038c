package app.ironside.logbook;

import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.TreeMap;

/**
 * What the nights gathered of one target.
 *
 * @param rehearsed whether all of it is of rehearsals
 * @param nights that kept light of it, oldest first
 */
public record Gathering(String target, boolean rehearsed, List<Night> nights) {
    /** Less is a rounding. */
    private static final double NOTHING_HOURS = 1e-3;

    public Gathering {
        nights = nights.stream().sorted(Comparator.comparing(Night::date)).toList();
    }

    /**
     * One night's part.
     *
     * @param night its number in the logbook
     * @param hours of light kept, by filter
     * @param picture its deepest stack, as it was stretched when it was made; it may have been moved away since
     */
    public record Night(long night, LocalDate date, Map<String, Double> hours, Optional<Path> picture) {
        public Night {
            hours = Map.copyOf(hours);
        }

        public double hoursKept() {
            return hours.values().stream().mapToDouble(Double::doubleValue).sum();
        }
    }

    /** Hours kept in all, by filter. */
    public Map<String, Double> kept() {
        Map<String, Double> sums = new TreeMap<>();
        nights.forEach(n -> n.hours().forEach((filter, hours) -> sums.merge(filter, hours, Double::sum)));
        return sums;
    }

    public double hoursKept() {
        return nights.stream().mapToDouble(Night::hoursKept).sum();
    }

    /** The first night of which there is a picture: what later ones are held against. */
    public Optional<Night> baseline() {
        return nights.stream().filter(n -> n.picture().isPresent()).findFirst();
    }

    /** The last night of which there is a picture. */
    public Optional<Night> latest() {
        return nights.stream().filter(n -> n.picture().isPresent()).reduce((a, b) -> b);
    }

    /** Light kept up to a night, that night included. */
    public double hoursUntil(Night night) {
        return nights.stream()
                .filter(n -> !n.date().isAfter(night.date()))
                .mapToDouble(Night::hoursKept)
                .sum();
    }

    /** What a night of it usually keeps: the median. */
    public OptionalDouble hoursANight() {
        return nights.isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(Statistics.median(
                        nights.stream().mapToDouble(Night::hoursKept).toArray()));
    }

    /** Hours still wanted, by filter. */
    public Map<String, Double> left(Map<String, Double> wanted) {
        Map<String, Double> kept = kept();
        Map<String, Double> left = new TreeMap<>();
        wanted.forEach((filter, hours) -> left.put(filter, Math.max(0, hours - kept.getOrDefault(filter, 0.0))));
        return left;
    }

    /** How many more nights like those so far are needed; empty where nothing was gathered yet. */
    public OptionalInt nightsLeft(Map<String, Double> wanted) {
        double left = sum(left(wanted));
        OptionalDouble a = hoursANight();
        return a.isEmpty() || a.getAsDouble() < NOTHING_HOURS
                ? OptionalInt.empty()
                : OptionalInt.of((int) Math.ceil(left / a.getAsDouble() - 1e-9));
    }

    /** The night by which all that is wanted was gathered; empty while something is left, or nothing is wanted. */
    public Optional<LocalDate> finished(Map<String, Double> wanted) {
        if (wanted.isEmpty()) {
            return Optional.empty();
        }
        Map<String, Double> sums = new HashMap<>();
        for (Night n : nights) {
            n.hours().forEach((filter, hours) -> sums.merge(filter, hours, Double::sum));
            if (wanted.entrySet().stream()
                    .allMatch(w -> sums.getOrDefault(w.getKey(), 0.0) >= w.getValue() - NOTHING_HOURS)) {
                return Optional.of(n.date());
            }
        }
        return Optional.empty();
    }

    /**
     * Where it stands.
     *
     * @param wanted hours in all, by filter; empty for no end
     * @param clearNightsAMonth the person's own; empty while the record is short
     */
    public String sentence(Map<String, Double> wanted, Optional<Double> clearNightsAMonth) {
        List<String> says = new ArrayList<>();
        says.add(keptWords());
        Optional<LocalDate> finished = finished(wanted);
        OptionalInt nightsLeft = nightsLeft(wanted);
        if (wanted.isEmpty()) {
            says.add("no end is set for it");
        } else if (finished.isPresent()) {
            says.add("all that was wanted was there on " + finished.get());
        } else if (nightsLeft.isPresent()) {
            says.add(String.format(
                    Locale.ROOT,
                    "%.1f of %.1f h are left, %d more night%s at %.1f h a night%s",
                    sum(left(wanted)),
                    sum(wanted),
                    nightsLeft.getAsInt(),
                    nightsLeft.getAsInt() == 1 ? "" : "s",
                    hoursANight().orElseThrow(),
                    clearNightsAMonth
                            .filter(rate -> rate > 0)
                            .map(rate -> String.format(
                                    Locale.ROOT,
                                    ", about %.0f days at %.1f clear nights a month",
                                    nightsLeft.getAsInt() / rate * Account.DAYS_PER_MONTH,
                                    rate))
                            .orElse("")));
        } else {
            says.add(String.format(Locale.ROOT, "%.1f h are wanted", sum(wanted)));
        }
        return String.join("; ", says) + ".";
    }

    private String keptWords() {
        if (nights.isEmpty()) {
            return "nothing was kept so far";
        }
        Night last = nights.get(nights.size() - 1);
        return nights.size() == 1
                ? String.format(Locale.ROOT, "%.1f h kept on %s", hoursKept(), last.date())
                : String.format(
                        Locale.ROOT,
                        "%.1f h kept over %d nights, the last of them, %s, added %.1f h",
                        hoursKept(),
                        nights.size(),
                        last.date(),
                        last.hoursKept());
    }

    private static double sum(Map<String, Double> hours) {
        return hours.values().stream().mapToDouble(Double::doubleValue).sum();
    }
}
