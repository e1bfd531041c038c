package app.ironside.star;

import app.ironside.image.Statistics;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * Why stars trail, from what they have in common and when it happens (common practice): all subs along one direction, polar alignment;
 * some subs at a gear's period, periodic error; rising toward the meridian, a cable or contact; one sub, wind or a knock; round but
 * swollen, focus or dew.
 */
public final class TrailCause {
    private static final int FEWEST_SUBS = 6;
    private static final double TRAILED_ELONGATION = 0.22;
    private static final double SWOLLEN = 1.3;
    private static final double MOST_FALSE_ALARM = 0.01;

    /** Causes that the pattern can tell apart. */
    public enum Cause {
        POLAR_ALIGNMENT,
        PERIODIC_ERROR,
        CABLE_OR_CONTACT,
        WIND_OR_KNOCK,
        FOCUS_OR_DEW
    }

    /**
     * A sub's stars.
     *
     * @param elongation 1 − b/a that the whole field shares
     * @param angleDeg its direction, from +x toward +y; for comparing subs after a flip, turned back by the flip's half turn or not alike
     * @param halfFluxRadiusPx median
     * @param hourAngleDeg of the target in the middle of the sub; negative before the meridian
     */
    public record SubShape(
            Instant middle, double elongation, double angleDeg, double halfFluxRadiusPx, double hourAngleDeg) {}

    /**
     * A cause with what speaks for it.
     *
     * @param strength 0 to 1
     * @param at when it was worst, where that says something
     */
    public record Evidence(Cause cause, double strength, String sentence, Optional<Instant> at) {
        Evidence(Cause cause, double strength, String sentence) {
            this(cause, strength, sentence, Optional.empty());
        }
    }

    private TrailCause() {}

    /**
     * What the pattern of a night's subs speaks for, strongest first; empty if nothing trails or too few subs tell.
     *
     * @param subs in time
     * @param wormPeriodSeconds of the mount's gear, if it is known
     */
    public static List<Evidence> of(List<SubShape> subs, OptionalDouble wormPeriodSeconds) {
        List<Evidence> found = new ArrayList<>();
        if (subs.size() < FEWEST_SUBS) {
            return found;
        }
        List<SubShape> trailed =
                subs.stream().filter(s -> s.elongation() > TRAILED_ELONGATION).toList();
        double share = (double) trailed.size() / subs.size();
        swollen(subs, found);
        if (trailed.isEmpty()) {
            return found;
        }
        double together = together(trailed);
        toMeridian(subs, trailed, found);
        if (share <= 2.5 / subs.size()) {
            SubShape worst = trailed.stream()
                    .max(Comparator.comparingDouble(SubShape::elongation))
                    .orElseThrow();
            found.add(new Evidence(
                    Cause.WIND_OR_KNOCK,
                    0.8,
                    String.format(
                            Locale.ROOT,
                            "%d of %d subs trailed, the others are round: wind or a knock.",
                            trailed.size(),
                            subs.size()),
                    Optional.of(worst.middle())));
        } else {
            Periodicity p = periodicity(subs, wormPeriodSeconds);
            if (p.falseAlarm() < MOST_FALSE_ALARM && share < 0.85) {
                found.add(new Evidence(
                        Cause.PERIODIC_ERROR,
                        Math.min(1, 0.5 + p.power()),
                        wormPeriodSeconds.isPresent()
                                ? String.format(
                                        Locale.ROOT,
                                        "%.0f %% of the subs trailed, in step with the worm that turns in %s: the gear's periodic error.",
                                        100 * share,
                                        minutes(wormPeriodSeconds.getAsDouble()))
                                : String.format(
                                        Locale.ROOT,
                                        "%.0f %% of the subs trailed, again and again after %s: the gear's periodic error turns in that or in twice that.",
                                        100 * share,
                                        minutes(p.seconds()))));
            }
            if (share > 0.8 && together > 0.8) {
                found.add(new Evidence(
                        Cause.POLAR_ALIGNMENT,
                        share * together,
                        String.format(
                                Locale.ROOT,
                                "%.0f %% of the subs trailed, all along %.0f°: polar alignment, or tracking at a wrong rate.",
                                100 * share,
                                meanAngle(trailed))));
            }
        }
        found.sort(Comparator.comparingDouble(Evidence::strength).reversed());
        return found;
    }

    private static String minutes(double seconds) {
        Duration d = Duration.ofSeconds(Math.round(seconds));
        return d.toMinutesPart() + " min " + d.toSecondsPart() + " s";
    }

    private static void swollen(List<SubShape> subs, List<Evidence> found) {
        double[] sizes = subs.stream().mapToDouble(SubShape::halfFluxRadiusPx).toArray();
        double usual = java.util.Arrays.stream(sizes)
                .sorted()
                .limit(Math.max(3, sizes.length / 3))
                .average()
                .orElse(1);
        int third = Math.max(2, sizes.length / 3);
        double last = Statistics.median(java.util.Arrays.copyOfRange(sizes, sizes.length - third, sizes.length));
        double round = Statistics.median(subs.subList(sizes.length - third, sizes.length).stream()
                .mapToDouble(SubShape::elongation)
                .toArray());
        if (last > SWOLLEN * usual && round < TRAILED_ELONGATION) {
            found.add(new Evidence(
                    Cause.FOCUS_OR_DEW,
                    Math.min(1, last / usual - 0.8),
                    String.format(
                            Locale.ROOT,
                            "Stars swelled from %.1f to %.1f px and stayed round: focus has moved, or there is dew on the glass.",
                            usual,
                            last)));
        }
    }

    /** Before the meridian, the trailing rises with the hour angle. */
    private static void toMeridian(List<SubShape> subs, List<SubShape> trailed, List<Evidence> found) {
        List<SubShape> before = subs.stream()
                .filter(s -> s.hourAngleDeg() < 5 && s.hourAngleDeg() > -60)
                .toList();
        if (before.size() < FEWEST_SUBS || trailed.size() < 3) {
            return;
        }
        double rank = rankCorrelation(
                before.stream().mapToDouble(SubShape::hourAngleDeg).toArray(),
                before.stream().mapToDouble(SubShape::elongation).toArray());
        double early = Statistics.median(before.subList(0, before.size() / 3).stream()
                .mapToDouble(SubShape::elongation)
                .toArray());
        double late = Statistics.median(before.subList(before.size() - before.size() / 3, before.size()).stream()
                .mapToDouble(SubShape::elongation)
                .toArray());
        if (rank > 0.6 && late > TRAILED_ELONGATION && late > early + 0.1) {
            found.add(new Evidence(
                    Cause.CABLE_OR_CONTACT,
                    rank,
                    String.format(
                            Locale.ROOT,
                            "Trailing rises toward the meridian, from %.0f to %.0f %%: a cable pulls, or something touches the tripod.",
                            100 * early / (1 - early),
                            100 * late / (1 - late))));
        }
    }

    /** Length of the mean of unit vectors of twice the angle: 1 if all trails are parallel. */
    private static double together(List<SubShape> subs) {
        double c = 0;
        double s = 0;
        for (SubShape sub : subs) {
            c += Math.cos(Math.toRadians(2 * sub.angleDeg()));
            s += Math.sin(Math.toRadians(2 * sub.angleDeg()));
        }
        return Math.hypot(c, s) / subs.size();
    }

    private static double meanAngle(List<SubShape> subs) {
        double c = 0;
        double s = 0;
        for (SubShape sub : subs) {
            c += Math.cos(Math.toRadians(2 * sub.angleDeg()));
            s += Math.sin(Math.toRadians(2 * sub.angleDeg()));
        }
        return Math.toDegrees(Math.atan2(s, c) / 2);
    }

    /** Spearman's coefficient. */
    static double rankCorrelation(double[] a, double[] b) {
        double[] ra = ranks(a);
        double[] rb = ranks(b);
        double mean = (a.length - 1) / 2.0;
        double ab = 0;
        double aa = 0;
        double bb = 0;
        for (int i = 0; i < a.length; i++) {
            ab += (ra[i] - mean) * (rb[i] - mean);
            aa += (ra[i] - mean) * (ra[i] - mean);
            bb += (rb[i] - mean) * (rb[i] - mean);
        }
        return aa * bb == 0 ? 0 : ab / Math.sqrt(aa * bb);
    }

    private static double[] ranks(double[] values) {
        double[] ranks = new double[values.length];
        for (int i = 0; i < values.length; i++) {
            int below = 0;
            int equal = 0;
            for (double v : values) {
                below += v < values[i] ? 1 : 0;
                equal += v == values[i] ? 1 : 0;
            }
            ranks[i] = below + (equal - 1) / 2.0;
        }
        return ranks;
    }

    /**
     * The strongest period.
     *
     * @param power share of the variance
     * @param falseAlarm chance that noise shows as much
     */
    private record Periodicity(double seconds, double power, double falseAlarm) {}

    /**
     * Looks for a period in the elongations, at the gear's own if it is known.
     *
     * @see "Lomb 1976, Ap&SS 39, 447; Scargle 1982, ApJ 263, 835 (false alarm probability)"
     */
    private static Periodicity periodicity(List<SubShape> subs, OptionalDouble known) {
        int n = subs.size();
        double[] t = subs.stream()
                .mapToDouble(
                        s -> Duration.between(subs.get(0).middle(), s.middle()).toMillis() / 1000.0)
                .toArray();
        double[] e = subs.stream().mapToDouble(SubShape::elongation).toArray();
        double mean = java.util.Arrays.stream(e).average().orElse(0);
        double variance =
                java.util.Arrays.stream(e).map(v -> (v - mean) * (v - mean)).sum() / (n - 1);
        double span = t[n - 1];
        if (variance <= 0 || span <= 0) {
            return new Periodicity(0, 0, 1);
        }
        double step = span / (n - 1);
        if (known.isPresent()) {
            // A star trails while the gear errs fast, one way or the other: twice in a turn, if subs are short enough
            // to tell.
            Periodicity turn = strongest(
                    t, e, mean, variance, 1 / known.getAsDouble() / 1.03, 1 / known.getAsDouble() * 1.03, 5, 1);
            double half = 2 / known.getAsDouble();
            if (half > 1 / (2 * step)) {
                return turn;
            }
            Periodicity twice = strongest(t, e, mean, variance, half / 1.03, half * 1.03, 5, 1);
            return twice.falseAlarm() < turn.falseAlarm() ? twice : turn;
        }
        return strongest(t, e, mean, variance, 1 / span * 2, 1 / (2 * step), Math.max(10, 4 * n), n / 2.0);
    }

    /** The strongest of some frequencies, hertz; {@code independent} of them are no neighbours. */
    private static Periodicity strongest(
            double[] t,
            double[] e,
            double mean,
            double variance,
            double first,
            double last,
            int tried,
            double independent) {
        int n = t.length;
        Periodicity best = new Periodicity(0, 0, 1);
        for (int i = 0; i <= tried; i++) {
            double frequency = first + (last - first) * i / tried;
            double w = 2 * Math.PI * frequency;
            double s2 = 0;
            double c2 = 0;
            for (double v : t) {
                s2 += Math.sin(2 * w * v);
                c2 += Math.cos(2 * w * v);
            }
            double tau = Math.atan2(s2, c2) / (2 * w);
            double yc = 0;
            double ys = 0;
            double cc = 1e-12;
            double ss = 1e-12;
            for (int k = 0; k < n; k++) {
                double c = Math.cos(w * (t[k] - tau));
                double s = Math.sin(w * (t[k] - tau));
                yc += (e[k] - mean) * c;
                ys += (e[k] - mean) * s;
                cc += c * c;
                ss += s * s;
            }
            double power = (yc * yc / cc + ys * ys / ss) / (2 * variance);
            double alarm = 1 - Math.pow(1 - Math.exp(-power), independent);
            if (alarm < best.falseAlarm()) {
                best = new Periodicity(1 / frequency, 2 * power / n, alarm);
            }
        }
        return best;
    }
}
