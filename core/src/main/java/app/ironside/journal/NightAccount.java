package app.ironside.journal;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Where a night's time went, from the shutter's first opening to its last closing.
 *
 * @param whole from the first to the last
 * @param kept exposure of the subs that are kept
 * @param lost exposure of those that are not, by what was wrong then, the most first
 * @param focus runs
 * @param dither shifts with their settling
 */
public record NightAccount(Duration whole, Duration kept, Map<String, Duration> lost, Duration focus, Duration dither) {
    private static final String BY_HAND = "marks by hand";
    private static final String UNNAMED = "what was not named";

    /** Of a night; empty if no sub was taken. */
    public static Optional<NightAccount> of(NightState night) {
        List<SubTaken> subs = night.subs();
        if (subs.isEmpty()) {
            return Optional.empty();
        }
        Instant from = subs.stream()
                .map(s -> s.exposed().from())
                .min(Instant::compareTo)
                .orElseThrow();
        Instant until = subs.stream()
                .map(s -> s.exposed().until())
                .max(Instant::compareTo)
                .orElseThrow();
        List<Troubles.Lasting> troubles = Troubles.of(night);
        Map<String, Duration> lost = new LinkedHashMap<>();
        Duration kept = Duration.ZERO;
        for (SubTaken sub : subs) {
            if (sub.kept()) {
                kept = kept.plus(seconds(sub.seconds()));
            } else {
                lost.merge(cause(sub, troubles), seconds(sub.seconds()), Duration::plus);
            }
        }
        Map<String, Duration> sorted = new LinkedHashMap<>();
        lost.entrySet().stream()
                .sorted(Map.Entry.<String, Duration>comparingByValue(Comparator.reverseOrder()))
                .forEach(e -> sorted.put(e.getKey(), e.getValue()));
        return Optional.of(new NightAccount(
                Duration.between(from, until),
                kept,
                sorted,
                sum(night.all(FocusSwept.class).stream()
                        .filter(f -> f.time().isAfter(from) && f.time().isBefore(until))
                        .map(FocusSwept::took)
                        .toList()),
                sum(night.all(Dithered.class).stream().map(Dithered::took).toList())));
    }

    /** What went into pointing, settling, reading out, waiting. */
    public Duration other() {
        Duration named = kept.plus(focus).plus(dither).plus(sum(List.copyOf(lost.values())));
        Duration rest = whole.minus(named);
        return rest.isNegative() ? Duration.ZERO : rest;
    }

    private static String cause(SubTaken sub, List<Troubles.Lasting> troubles) {
        if (sub.verdict().by().isPresent()) {
            return BY_HAND;
        }
        return troubles.stream()
                .filter(t -> !t.since().isAfter(sub.exposed().until())
                        && t.over()
                                .map(o -> o.time().isAfter(sub.exposed().from()))
                                .orElse(true))
                .max(Comparator.comparing((Troubles.Lasting t) -> t.last().losing())
                        .thenComparing(t -> t.last().certainty()))
                .map(t -> t.trouble().what())
                .orElse(UNNAMED);
    }

    private static Duration seconds(double seconds) {
        return Duration.ofMillis(Math.round(1000 * seconds));
    }

    private static Duration sum(List<Duration> all) {
        return all.stream().reduce(Duration.ZERO, Duration::plus);
    }
}
