package app.ironside.logbook;

import java.time.LocalDate;
import java.time.YearMonth;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * What the nights of a logbook gave: light kept, light lost, and how often there is a clear night.
 *
 * @param nights in which a sub was taken or planned, oldest first
 */
public record Account(List<Night> nights) {
    /** Before so many days of record a rate says more of chance than of the place. */
    private static final int LEAST_DAYS = 60;

    static final double DAYS_PER_MONTH = 365.25 / 12;

    /** What counts as a clear night. */
    private static final double LEAST_HOURS = 1;

    public static final Account NONE = new Account(List.of());

    public Account {
        nights = nights.stream().sorted(Comparator.comparing(Night::date)).toList();
    }

    /**
     * One night.
     *
     * @param real whether a sky was seen, by devices or by the frames of another program
     * @param hoursPlanned light that was planned when it began
     * @param hoursTaken light of all its subs
     * @param kept hours of light kept, by target and filter
     * @param lost hours of light taken and not kept, by what lowered it most, in the rule book's word; "" where that is not told
     * @param notTakenFor why most of what was planned and not taken was not; "" where the journal tells no reason
     */
    public record Night(
            LocalDate date,
            String site,
            String kit,
            boolean real,
            double hoursPlanned,
            double hoursTaken,
            Map<String, Map<String, Double>> kept,
            Map<String, Double> lost,
            String notTakenFor) {
        public Night {
            kept = Map.copyOf(kept);
            lost = Map.copyOf(lost);
        }

        public double hoursKept() {
            return kept.values().stream()
                    .flatMap(f -> f.values().stream())
                    .mapToDouble(Double::doubleValue)
                    .sum();
        }

        /** Whether its sky gave at least an hour. */
        boolean isClear() {
            return hoursKept() >= LEAST_HOURS;
        }

        /** Light that was taken and judged not good enough. */
        public double hoursRejected() {
            return Math.max(0, hoursTaken - hoursKept());
        }

        /** Light that was planned and never taken: cloud, trouble, an early end. */
        public double hoursNotTaken() {
            return Math.max(0, hoursPlanned - hoursTaken);
        }
    }

    /** The nights before a date. */
    public Account before(LocalDate date) {
        return new Account(nights.stream().filter(n -> n.date().isBefore(date)).toList());
    }

    /** The nights that count: real ones; where there is none, those that were rehearsed. */
    public Account counted() {
        return isRehearsedOnly()
                ? this
                : new Account(nights.stream().filter(Night::real).toList());
    }

    /** Whether no night of it saw a sky. */
    public boolean isRehearsedOnly() {
        return nights.stream().noneMatch(Night::real);
    }

    /**
     * Hours of light kept of a target, by filter.
     *
     * @param sameName brings a target's names to one: people write M33 and M 33
     */
    public Map<String, Double> kept(String target, UnaryOperator<String> sameName) {
        String wanted = sameName.apply(target);
        Map<String, Double> sums = new HashMap<>();
        nights.forEach(n -> n.kept().forEach((name, filters) -> {
            if (sameName.apply(name).equals(wanted)) {
                filters.forEach((filter, hours) -> sums.merge(filter, hours, Double::sum));
            }
        }));
        return sums;
    }

    public double hoursKept() {
        return nights.stream().mapToDouble(Night::hoursKept).sum();
    }

    public double hoursRejected() {
        return nights.stream().mapToDouble(Night::hoursRejected).sum();
    }

    /** Hours of light that were not kept, by what took them, the most first. */
    public Map<String, Double> lost() {
        Map<String, Double> sums = new HashMap<>();
        nights.forEach(n -> n.lost().forEach((cause, hours) -> sums.merge(cause, hours, Double::sum)));
        return sorted(sums);
    }

    public double hoursNotTaken() {
        return nights.stream().mapToDouble(Night::hoursNotTaken).sum();
    }

    /** Hours that were planned and not taken, by the main reason of each night, the most first. */
    public Map<String, Double> notTaken() {
        Map<String, Double> sums = new HashMap<>();
        nights.stream()
                .filter(n -> n.hoursNotTaken() > 0)
                .forEach(n -> sums.merge(n.notTakenFor(), n.hoursNotTaken(), Double::sum));
        return sorted(sums);
    }

    private static Map<String, Double> sorted(Map<String, Double> sums) {
        Map<String, Double> sorted = new LinkedHashMap<>();
        sums.entrySet().stream()
                .sorted(Map.Entry.<String, Double>comparingByValue(Comparator.reverseOrder()))
                .forEach(e -> sorted.put(e.getKey(), e.getValue()));
        return sorted;
    }

    /** Real nights with an hour of light kept or more. */
    public int clearNights() {
        return (int) nights.stream()
                .filter(n -> n.real() && n.isClear())
                .map(Night::date)
                .distinct()
                .count();
    }

    /**
     * The nights of a month.
     *
     * @param used dates on which something was planned or taken
     * @param clear of them with an hour of light kept or more
     * @param lostFor what took most of the light that was not kept or not taken; "" where nothing was lost, or nothing tells
     */
    public record Month(YearMonth month, int used, int clear, double hoursKept, double hoursLost, String lostFor) {}

    /** Month by month, the newest first; months without a night are left out. */
    public List<Month> months() {
        Map<YearMonth, List<Night>> byMonth = new TreeMap<>(Comparator.reverseOrder());
        nights.forEach(n -> byMonth.computeIfAbsent(YearMonth.from(n.date()), m -> new ArrayList<>())
                .add(n));
        return byMonth.entrySet().stream()
                .map(e -> month(e.getKey(), e.getValue()))
                .toList();
    }

    private static Month month(YearMonth month, List<Night> nights) {
        Account of = new Account(nights);
        Map<String, Double> lost = new HashMap<>(of.notTaken());
        of.lost().forEach((cause, hours) -> lost.merge(cause, hours, Double::sum));
        return new Month(
                month,
                (int) nights.stream().map(Night::date).distinct().count(),
                (int) nights.stream()
                        .filter(Night::isClear)
                        .map(Night::date)
                        .distinct()
                        .count(),
                of.hoursKept(),
                of.hoursRejected() + of.hoursNotTaken(),
                lost.entrySet().stream()
                        .filter(e -> e.getValue() > 0)
                        .max(Map.Entry.comparingByValue())
                        .map(Map.Entry::getKey)
                        .orElse(""));
    }

    /** How many clear nights a month were used; empty while two months of record are not together. */
    public Optional<Double> clearNightsAMonth(LocalDate today) {
        return nights.stream()
                .filter(Night::real)
                .findFirst()
                .map(first -> (double) ChronoUnit.DAYS.between(first.date(), today))
                .filter(days -> days >= LEAST_DAYS)
                .map(days -> clearNights() / (days / DAYS_PER_MONTH));
    }
}
