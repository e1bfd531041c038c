package app.ironside.judge;

import app.ironside.star.SubLimits;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.ToDoubleFunction;

/**
 * The rule book: judges each sub by its series. What low altitude, moonlight and thin cloud take is reckoned as light, not as a fault: a sub
 * goes only when it would add next to nothing or would spoil the stars.
 *
 * <p>What lowers a sub is told in one currency, the natural logarithm of what its squared signal-to-noise loses: by air, by cloud or dew, by
 * a bright sky, by swollen and by drawn-out stars. The largest is its cause.
 */
public final class Grader {
    /** Of a fifth of its weight on a sub through cloud leaves more gradient than light (common practice). */
    static final double LEAST_THROUGH_CLOUD = 0.2;

    /** Twilight changes during the sub and lies unevenly. */
    static final double LEAST_IN_TWILIGHT = 0.25;

    /** A twentieth of a sub is next to nothing, whatever took the rest. */
    static final double LEAST_WEIGHT = 0.05;

    /** Losses below a fifth and a bit are the usual ups and downs. */
    private static final double WORTH_NAMING = 0.25;

    /** The air's own ups and downs of star size. */
    private static final double SIZE_WORTH_NAMING = 0.3;

    /** Showing less of the field than this, it is of another. */
    static final double LEAST_OVERLAP = 0.5;

    /** Below it a field is low: its light crosses two airmasses. */
    private static final double LOW_DEG = 30;

    /** The Sun's light is gone (astronomical twilight). */
    private static final double DARK_SUN_DEG = -18;

    /** Above it twilight outshines any Moon that is up. */
    private static final double BRIGHT_SUN_DEG = -14;

    private static final double GLOW_DEG = 4;

    /** A loss of light that measuring it may make. */
    private static final double SLIGHT = 0.1;

    private static final double LEAST_MOON_SHARE = 0.08;

    /** Of the better subs, so many of a hundred are better still: one lucky moment is no yardstick. */
    private static final double BETTER_SHARE = 0.2;

    /** Swollen so far, no air did it (common practice). */
    private static final double SURELY_FOCUS = 1.6;

    /** Out of focus, stars grow a flat top: wider at half of the peak for the same half-flux radius. */
    private static final double FLAT_TOP = 1.08;

    /** The long axis over the short, each against the better subs'. */
    private static final double DRAWN_OUT = 1.25;

    /** Cloud that leaves less may leave nothing a sub later. */
    private static final double DIMMED = 0.7;

    private static final double FEW_OF_OTHERS = 0.3;
    private static final double HARDLY_ANY = 0.05;

    private Grader() {}

    /** Grades for all of some subs, in the order given. */
    public static List<Grade> grade(List<SubLook> subs) {
        Map<String, List<SubLook>> series = new LinkedHashMap<>();
        subs.forEach(
                s -> series.computeIfAbsent(s.series(), k -> new ArrayList<>()).add(s));
        Map<SubLook, Grade> grades = new HashMap<>();
        for (List<SubLook> one : series.values()) {
            List<SubLook> inTime = new ArrayList<>(one);
            inTime.sort(Comparator.comparing(s -> s.time().orElse(Instant.EPOCH)));
            new Judgement(inTime).grades().forEach(g -> grades.put(g.sub(), g));
        }
        return subs.stream().map(grades::get).toList();
    }

    /** What each thing costs a sub. */
    private record Costs(double air, double veil, double sky, double swollen, double drawnOut) {}

    /** One series being judged. */
    private static final class Judgement {
        private final List<SubLook> subs;
        private final ClearAir air;
        private final double bestWorth;
        private final double bestClear;
        private final double bestShare;
        private final double darkest;
        private final double shortPx;
        private final double longPx;
        private final double flatness;
        private final double stars;
        private final boolean[] dewing;
        private final boolean[] drifting;

        Judgement(List<SubLook> inTime) {
            subs = inTime;
            air = ClearAir.of(subs);
            List<SubLook> field = subs.stream()
                    .filter(s -> s.comparable() && s.overlap() >= LEAST_OVERLAP)
                    .toList();
            // Stars that are drawn out are narrow across: no measure of the others.
            List<SubLook> round = field.stream()
                    .filter(s -> s.eccentricity() <= SubLimits.TRAILED_ECCENTRICITY)
                    .toList();
            List<SubLook> seen = round.isEmpty() ? field : round;
            shortPx = better(seen, SubLook::shortAxisPx);
            // A blurred sub has little noise from pixel to pixel, and is no yardstick.
            List<SubLook> sound = seen.stream()
                    .filter(s -> swollen(s) <= SubLimits.SOFT_FACTOR)
                    .toList();
            longPx = better(sound, SubLook::longAxisPx);
            bestWorth = sound.stream().mapToDouble(SubLook::worth).max().orElse(0);
            bestClear = sound.stream().mapToDouble(this::clearLight).max().orElse(1);
            bestShare = sound.stream().mapToDouble(air::share).max().orElse(1);
            darkest = sound.stream().mapToDouble(SubLook::noiseAdu).min().orElse(1);
            flatness = better(sound, s -> s.fwhmPx() / s.hfrPx());
            stars = middle(sound);
            dewing = new boolean[subs.size()];
            drifting = new boolean[subs.size()];
            markRuns();
        }

        private double clearLight(SubLook s) {
            return s.light().orElse(0) / air.share(s);
        }

        private static double better(List<SubLook> sound, ToDoubleFunction<SubLook> measure) {
            double[] sorted = sound.stream().mapToDouble(measure).sorted().toArray();
            return sorted.length == 0 ? 0 : sorted[(int) Math.round(BETTER_SHARE * (sorted.length - 1))];
        }

        private static double middle(List<SubLook> sound) {
            int[] sorted = sound.stream().mapToInt(SubLook::stars).sorted().toArray();
            return sorted.length == 0 ? 0 : sorted[sorted.length / 2];
        }

        /** Dew dims steadily and gives stars a halo; a focus that drifts lets them grow steadily. Neither comes back by itself. */
        private void markRuns() {
            double[] clear = subs.stream()
                    .mapToDouble(s -> s.comparable() ? clearLight(s) / bestClear : Double.NaN)
                    .toArray();
            double[] size = subs.stream()
                    .mapToDouble(s -> s.comparable() ? s.hfrPx() : Double.NaN)
                    .toArray();
            double[] dimming = Arrays.stream(clear).map(v -> 1 / v).toArray();
            for (Run run : Run.rising(dimming)) {
                boolean halo = Run.growWith(dimming, size, run);
                for (int i = run.first(); halo && i <= run.until(); i++) {
                    dewing[i] = true;
                }
            }
            double[] width = subs.stream()
                    .mapToDouble(s -> s.comparable() ? s.shortAxisPx() : Double.NaN)
                    .toArray();
            for (Run run : Run.rising(width)) {
                for (int i = run.first(); i <= run.until(); i++) {
                    drifting[i] = true;
                }
            }
        }

        List<Grade> grades() {
            List<Grade> grades = new ArrayList<>();
            for (int i = 0; i < subs.size(); i++) {
                SubLook sub = subs.get(i);
                grades.add(sub.comparable() && sub.overlap() >= LEAST_OVERLAP ? graded(i) : strange(i));
            }
            return grades;
        }

        /** One whose stars are not those of the series, or that has none. */
        private Grade strange(int i) {
            SubLook s = subs.get(i);
            if (!s.hasStars() || s.stars() < HARDLY_ANY * stars) {
                return starless(i);
            }
            if (s.comparable()) {
                return new Grade(
                        s,
                        clearLight(s) / bestClear,
                        0,
                        false,
                        Cause.WRONG_FIELD,
                        () -> text("only %.0f %% of the series' field is in it", 100 * s.overlap()));
            }
            if (s.eccentricity() > SubLimits.TRAILED_ECCENTRICITY) {
                return new Grade(
                        s,
                        0,
                        0,
                        false,
                        Cause.TRAILED,
                        () -> text("trailed beyond recognition, eccentricity %.2f", s.eccentricity()));
            }
            if (shortPx > 0 && s.shortAxisPx() > 2 * shortPx) {
                return new Grade(
                        s,
                        0,
                        0,
                        false,
                        Cause.FOCUS,
                        () -> text("out of focus, stars of %.1f px against %.1f", s.fwhmPx(), shortPx));
            }
            if (s.stars() < FEW_OF_OTHERS * stars) {
                return new Grade(
                        s,
                        0,
                        0,
                        false,
                        Cause.CLOUD,
                        () -> text("%d stars of the usual %.0f, too few to be recognised", s.stars(), stars));
            }
            return new Grade(
                    s,
                    0,
                    0,
                    false,
                    Cause.WRONG_FIELD,
                    () -> text("its %d stars are not those of the series' field", s.stars()));
        }

        private Grade starless(int i) {
            SubLook s = subs.get(i);
            String found = s.stars() == 0 ? "no stars" : text("only %d stars of the usual %.0f", s.stars(), stars);
            if (s.sunAltitudeDeg().orElse(-90) > -10) {
                return new Grade(
                        s,
                        0,
                        0,
                        false,
                        Cause.TWILIGHT,
                        () -> found
                                + text(", the Sun at %.0f°", s.sunAltitudeDeg().getAsDouble()));
            }
            Optional<Boolean> before = dimmed(i, -1);
            Optional<Boolean> after = dimmed(i, 1);
            boolean amongCloud = (before.isPresent() || after.isPresent()) && before.orElse(true) && after.orElse(true);
            return new Grade(
                    s,
                    0,
                    0,
                    false,
                    amongCloud ? Cause.CLOUD : Cause.NO_STARS,
                    () -> amongCloud
                            ? found + " beside subs that cloud dims"
                            : found + ": cloud, a cap or a shut roof");
        }

        /** Whether cloud dims the nearest sub with stars in one direction of time; empty if there is none. */
        private Optional<Boolean> dimmed(int from, int step) {
            for (int i = from + step; i >= 0 && i < subs.size(); i += step) {
                if (subs.get(i).comparable()) {
                    return Optional.of(clearLight(subs.get(i)) / bestClear < DIMMED);
                }
            }
            return Optional.empty();
        }

        private Grade graded(int i) {
            SubLook s = subs.get(i);
            double clear = clearLight(s) / bestClear;
            double weight = Math.min(1, s.worth() / bestWorth);
            Costs costs = costs(s, clear);
            Cause cause = cause(i, s, costs);
            double longer = s.longAxisPx() / longPx;
            boolean trailed = s.eccentricity() > SubLimits.TRAILED_ECCENTRICITY && costs.drawnOut() > 0.2
                    || longer > SubLimits.SOFT_FACTOR && longer / swollen(s) > DRAWN_OUT;
            boolean patchy = s.stars() < SubLimits.FEW_STARS_SHARE * stars
                    && clear > 0.75
                    && costs.sky() < WORTH_NAMING
                    && swollen(s) < SubLimits.SOFT_FACTOR;
            if (patchy && !trailed) {
                return new Grade(
                        s,
                        clear,
                        weight,
                        false,
                        Cause.CLOUD,
                        () -> text("cloud in patches, %d stars of the usual %.0f", s.stars(), stars));
            }
            boolean soft = !trailed && swollen(s) > SubLimits.SOFT_FACTOR;
            if (trailed) {
                return new Grade(
                        s, clear, weight, false, Cause.TRAILED, () -> sentence(Cause.TRAILED, s, clear, weight));
            }
            if (soft) {
                Cause why = dewing[i] ? Cause.DEW : focusOrAir(i, s);
                return new Grade(s, clear, weight, false, why, () -> sentence(why, s, clear, weight));
            }
            // What low air takes is no reason to drop what cloud or twilight left.
            double throughAir = weight * Math.exp(costs.air());
            boolean keep = weight >= LEAST_WEIGHT && throughAir >= least(cause);
            if (keep && worst(costs) < WORTH_NAMING) {
                return new Grade(s, clear, weight, true, Cause.GOOD, () -> sentence(Cause.GOOD, s, clear, weight));
            }
            return new Grade(s, clear, weight, keep, cause, () -> sentence(cause, s, clear, weight));
        }

        private static double least(Cause cause) {
            return switch (cause) {
                case CLOUD, DEW -> LEAST_THROUGH_CLOUD;
                case TWILIGHT -> LEAST_IN_TWILIGHT;
                default -> LEAST_WEIGHT;
            };
        }

        private double swollen(SubLook s) {
            return shortPx > 0 ? s.shortAxisPx() / shortPx : 1;
        }

        private Costs costs(SubLook s, double clear) {
            double longer = longPx > 0 ? s.longAxisPx() / longPx : 1;
            return new Costs(
                    2 * Math.log(bestShare / air.share(s)),
                    -2 * Math.log(clear),
                    2 * Math.log(s.noiseAdu() / darkest),
                    2 * Math.log(Math.max(1, swollen(s))),
                    2 * Math.log(Math.max(1, longer / swollen(s))));
        }

        private static double worst(Costs c) {
            double swollen = c.swollen() < SIZE_WORTH_NAMING ? 0 : c.swollen();
            return Math.max(Math.max(Math.max(c.air(), c.veil()), Math.max(c.sky(), swollen)), c.drawnOut());
        }

        private Cause cause(int i, SubLook s, Costs c) {
            Cause bright = brightSky(i, s, c);
            double air = c.air() + (bright == Cause.LOW ? c.sky() : 0);
            double veil = c.veil() + (bright == Cause.CLOUD ? c.sky() : 0);
            double sky = bright == Cause.LOW || bright == Cause.CLOUD ? 0 : c.sky();
            double most = Math.max(Math.max(Math.max(air, veil), Math.max(sky, c.swollen())), c.drawnOut());
            if (most == veil) {
                return dewing[i] ? Cause.DEW : Cause.CLOUD;
            }
            if (most == air) {
                return Cause.LOW;
            }
            if (most == sky) {
                return bright;
            }
            return most == c.drawnOut() ? Cause.TRAILED : dewing[i] ? Cause.DEW : focusOrAir(i, s);
        }

        private Cause focusOrAir(int i, SubLook s) {
            boolean flatTop = flatness > 0 && s.fwhmPx() / s.hfrPx() > FLAT_TOP * flatness;
            return flatTop || swollen(s) >= SURELY_FOCUS || drifting[i] ? Cause.FOCUS : Cause.SEEING;
        }

        /** What lights the sky: the Sun and the Moon by where they stand, cloud if it takes light too, else the glow low down. */
        private Cause brightSky(int i, SubLook s, Costs c) {
            boolean sun = s.sunAltitudeDeg().orElse(-90) > DARK_SUN_DEG;
            boolean moon = s.moonAltitudeDeg().orElse(-90) > -1 && s.moonShare().orElse(1) > LEAST_MOON_SHARE;
            if (s.sunAltitudeDeg().isPresent()) {
                if (sun && (s.sunAltitudeDeg().getAsDouble() > BRIGHT_SUN_DEG || !moon)) {
                    return Cause.TWILIGHT;
                }
                if (moon) {
                    return Cause.MOONLIGHT;
                }
                boolean low = s.altitudeDeg().orElse(90) < LOW_DEG + 5 && c.air() > c.veil();
                return low ? Cause.LOW : c.veil() > SLIGHT ? Cause.CLOUD : nearlyUp(s);
            }
            if (s.moonShare().isPresent() && s.moonShare().getAsDouble() < LEAST_MOON_SHARE) {
                return c.veil() > WORTH_NAMING ? Cause.CLOUD : Cause.TWILIGHT;
            }
            return brightensFast(i) ? Cause.TWILIGHT : Cause.MOONLIGHT;
        }

        /** A first glow comes before the usual limits. */
        private static Cause nearlyUp(SubLook s) {
            boolean sun = s.sunAltitudeDeg().orElse(-90) > DARK_SUN_DEG - GLOW_DEG;
            boolean moon =
                    s.moonAltitudeDeg().orElse(-90) > -GLOW_DEG && s.moonShare().orElse(1) > LEAST_MOON_SHARE;
            return sun ? Cause.TWILIGHT : moon ? Cause.MOONLIGHT : Cause.CLOUD;
        }

        /** The sky of twilight doubles within ten minutes, that of a rising Moon within an hour. */
        private boolean brightensFast(int i) {
            SubLook here = subs.get(i);
            for (int j : new int[] {i - 1, i + 1}) {
                if (j < 0
                        || j >= subs.size()
                        || subs.get(j).time().isEmpty()
                        || here.time().isEmpty()) {
                    continue;
                }
                SubLook other = subs.get(j);
                double minutes = Math.abs(other.time().get().toEpochMilli()
                                - here.time().get().toEpochMilli())
                        / 60_000.0;
                double doublings = Math.abs(2 * Math.log(other.noiseAdu() / here.noiseAdu()) / Math.log(2));
                if (minutes > 0 && doublings / minutes > 1.0 / 20) {
                    return true;
                }
            }
            return false;
        }

        private String sentence(Cause cause, SubLook s, double clear, double weight) {
            String counts = text("counts %.0f %% of the best", 100 * weight);
            return switch (cause) {
                case GOOD -> text("stars of %.2f px, %.0f %% of the best light, %s", s.fwhmPx(), 100 * clear, counts);
                case CLOUD -> 1 - clear < SLIGHT
                        ? text(
                                "noise of the sky %.1f times the darkest with neither Sun nor Moon up: lit cloud, haze or a lamp, %s",
                                s.noiseAdu() / darkest, counts)
                        : text("cloud took %.0f %% of the light, %s", 100 * (1 - clear), counts);
                case DEW -> text(
                        "steadily dimmer to %.0f %% with stars growing to %.2f px as dew does it, %s",
                        100 * clear, s.fwhmPx(), counts);
                case FOCUS, SEEING -> text(
                        "stars of %.2f px across, the better subs %.2f, %s", s.shortAxisPx(), shortPx, counts);
                case TRAILED -> text(
                        "stars %.2f px long and %.2f wide, eccentricity %.2f, %s",
                        s.longAxisPx(), s.shortAxisPx(), s.eccentricity(), counts);
                case TWILIGHT -> s.sunAltitudeDeg().isPresent()
                        ? text(
                                "noise of the sky %.1f times the darkest with the Sun at %.0f°, %s",
                                s.noiseAdu() / darkest, s.sunAltitudeDeg().getAsDouble(), counts)
                        : text(
                                "noise of the sky %.1f times the darkest and changing fast, %s",
                                s.noiseAdu() / darkest, counts);
                case MOONLIGHT -> s.moonAltitudeDeg().isPresent()
                        ? text(
                                "noise of the sky %.1f times the darkest with the Moon at %.0f°, %s",
                                s.noiseAdu() / darkest, s.moonAltitudeDeg().getAsDouble(), counts)
                        : text("noise of the sky %.1f times the darkest, %s", s.noiseAdu() / darkest, counts);
                case LOW -> text(
                        "at %.0f° the air leaves %.0f %% of the light, %s",
                        s.altitudeDeg().orElse(90), 100 * air.share(s), counts);
                default -> counts;
            };
        }
    }

    private static String text(String format, Object... values) {
        return String.format(Locale.ROOT, format, values);
    }

    /**
     * From which sub on clouds or a fault leave nothing to keep; empty if the last is kept, or only dawn, the Moon or the
     * horizon ended the night.
     *
     * @param grades in any order
     */
    public static Optional<SubLook> collapse(List<Grade> grades) {
        List<Grade> inTime = new ArrayList<>(grades);
        inTime.sort(Comparator.comparing(g -> g.sub().time().orElse(Instant.EPOCH)));
        Predicate<Grade> dawn =
                g -> List.of(Cause.TWILIGHT, Cause.LOW, Cause.MOONLIGHT).contains(g.cause());
        int end = inTime.size();
        while (end > 0 && !inTime.get(end - 1).keep() && dawn.test(inTime.get(end - 1))) {
            end--;
        }
        int from = end;
        while (from > 0 && !inTime.get(from - 1).keep()) {
            from--;
        }
        while (from < end && dawn.test(inTime.get(from))) {
            from++;
        }
        // One bad sub at the end is a bad sub.
        return end - from >= 2 ? Optional.of(inTime.get(from).sub()) : Optional.empty();
    }

    /**
     * What a choice of subs gives.
     *
     * @param effectiveSeconds exposure, each sub's by its weight
     * @param fwhmPx star size of their weighted mean: widths add as squares
     */
    public record Choice(int frames, double effectiveSeconds, double fwhmPx) {
        private static Choice of(List<Grade> chosen) {
            double weights = chosen.stream().mapToDouble(Grade::weight).sum();
            double squares = chosen.stream()
                    .mapToDouble(g -> g.weight() * g.sub().fwhmPx() * g.sub().fwhmPx())
                    .sum();
            return new Choice(
                    chosen.size(),
                    chosen.stream()
                            .mapToDouble(g -> g.weight() * g.sub().exposureS())
                            .sum(),
                    weights > 0 ? Math.sqrt(squares / weights) : 0);
        }
    }

    /** Every sub with stars of the right field. */
    public static Choice keepAll(List<Grade> grades) {
        return Choice.of(grades.stream().filter(g -> g.weight() > 0).toList());
    }

    /** What is kept by the verdicts. */
    public static Choice keepSharp(List<Grade> grades) {
        return Choice.of(grades.stream().filter(Grade::keep).toList());
    }
}
