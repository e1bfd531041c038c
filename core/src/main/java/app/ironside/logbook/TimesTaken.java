package app.ironside.logbook;

import app.ironside.image.Statistics;
import app.ironside.journal.Dithered;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.kit.OwnTimes;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * What a kit's nights took besides light: medians, with how many there were of each.
 *
 * @param rehearsed whether no night of it saw a sky
 */
public record TimesTaken(
        int nights, boolean rehearsed, Optional<Median> dither, Optional<Median> focusRun, Optional<Median> flip) {
    public static final TimesTaken NONE =
            new TimesTaken(0, false, Optional.empty(), Optional.empty(), Optional.empty());

    /** Fewer say more of one evening than of the kit. */
    private static final int FEWEST = 3;

    /** A longer gap is a wait. */
    private static final double LONGEST_GAP_SECONDS = 900;

    /**
     * The middle of many.
     *
     * @param count how many there were
     * @param hours what all of them took
     */
    public record Median(double seconds, int count, double hours) {
        private static Optional<Median> of(List<Double> all) {
            return all.size() < FEWEST
                    ? Optional.empty()
                    : Optional.of(new Median(
                            Statistics.median(all.stream()
                                    .mapToDouble(Double::doubleValue)
                                    .toArray()),
                            all.size(),
                            all.stream().mapToDouble(Double::doubleValue).sum() / 3600));
        }
    }

    /**
     * Of the journals of some nights. A focus run or a flip is counted where it alone stands between two subs; what lies between other subs,
     * reading out above all, is taken off.
     */
    static TimesTaken of(List<List<NightEvent>> nights, boolean rehearsed) {
        List<Double> dithers = new ArrayList<>();
        List<Double> runs = new ArrayList<>();
        List<Double> flips = new ArrayList<>();
        List<Double> plain = new ArrayList<>();
        for (List<NightEvent> night : nights) {
            List<SubTaken> subs = night.stream()
                    .filter(e -> e instanceof SubTaken s && !s.foundAfterStop())
                    .map(SubTaken.class::cast)
                    .sorted(Comparator.comparing(s -> s.exposed().from()))
                    .toList();
            for (int i = 1; i < subs.size(); i++) {
                Instant from = subs.get(i - 1).exposed().until();
                Instant until = subs.get(i).exposed().from();
                List<NightEvent> between = night.stream()
                        .filter(e -> e.time().isAfter(from) && !e.time().isAfter(until))
                        .toList();
                double gap = seconds(Duration.between(from, until));
                if (gap > LONGEST_GAP_SECONDS || between.stream().anyMatch(FaultTold.class::isInstance)) {
                    continue;
                }
                long focus = count(between, FocusSwept.class);
                long flip = count(between, Flipped.class);
                List<Dithered> dithered = between.stream()
                        .filter(Dithered.class::isInstance)
                        .map(Dithered.class::cast)
                        .toList();
                dithered.forEach(d -> dithers.add(seconds(d.took())));
                double other = gap
                        - dithered.stream().mapToDouble(d -> seconds(d.took())).sum();
                if (focus == 0 && flip == 0) {
                    plain.add(other);
                } else if (focus == 1 && flip == 0) {
                    runs.add(other);
                } else if (focus == 0 && flip == 1) {
                    flips.add(other);
                }
            }
        }
        double usual = plain.isEmpty()
                ? 0
                : Statistics.median(
                        plain.stream().mapToDouble(Double::doubleValue).toArray());
        runs.replaceAll(s -> Math.max(0, s - usual));
        flips.replaceAll(s -> Math.max(0, s - usual));
        return new TimesTaken(nights.size(), rehearsed, Median.of(dithers), Median.of(runs), Median.of(flips));
    }

    private static long count(List<NightEvent> events, Class<? extends NightEvent> kind) {
        return events.stream().filter(kind::isInstance).count();
    }

    private static double seconds(Duration time) {
        return time.toMillis() / 1000.0;
    }

    /** For the kit, to the second; what there was too little of stays as usual. */
    public OwnTimes forKit() {
        return new OwnTimes(whole(dither), whole(focusRun), whole(flip));
    }

    private static Optional<Double> whole(Optional<Median> median) {
        return median.map(m -> (double) Math.round(m.seconds()));
    }

    /** Whether there is anything to go by. */
    public boolean isKnown() {
        return dither.isPresent() || focusRun.isPresent() || flip.isPresent();
    }

    /** "A dither 21 s (78 of them), a focus run 160 s (12), a flip 159 s (5), on 4 rehearsed nights". */
    public String words() {
        List<String> each = new ArrayList<>();
        dither.ifPresent(m -> each.add(words("a dither", m)));
        focusRun.ifPresent(m -> each.add(words("a focus run", m)));
        flip.ifPresent(m -> each.add(words("a flip", m)));
        return String.join(", ", each) + ", on " + nights + (rehearsed ? " rehearsed" : "")
                + (nights == 1 ? " night" : " nights");
    }

    private static String words(String what, Median m) {
        return String.format(Locale.ROOT, "%s %.0f s (%d)", what, m.seconds(), m.count());
    }
}
