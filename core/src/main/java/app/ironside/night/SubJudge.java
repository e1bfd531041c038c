package app.ironside.night;

import app.ironside.image.Statistics;
import app.ironside.journal.NightState;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import app.ironside.star.SubLimits;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Judges subs by the series they belong to: same target, filter, exposure and frame size. The yardstick is what the better subs of the
 * series show, not the first one, which may be clouded; when better ones come, earlier verdicts are given anew.
 */
final class SubJudge {

    /** A sky so many times as bright leaves a sub a sixth of its weight in the stack: a moonlit hour is kept, dawn is not. */
    private static final double BRIGHT_FACTOR = 6;

    private static final int FEWEST_STARS = 8;

    /** Low in the sky air alone takes a third of the light; what takes half is no air. */
    private static final double DIMMED_SHARE = 0.5;

    /** Bright stars by rank: the first few may be saturated, the later ones come and go. */
    private static final int RANK_FROM = 5;

    private static final int RANK_TO = 45;

    /** From so many subs on one of five may be a lucky one: the yardstick is then the best but that. */
    private static final int MANY = 5;

    private static final double BETTER_SHARE = 0.8;

    /** A verdict that is another now. */
    record Regraded(Measured sub, Verdict verdict) {}

    /**
     * What a sub is judged by.
     *
     * @param set names its series
     * @param file by which it is known
     * @param skyAdu above an unexposed pixel
     * @param starFluxAdu median of its bright stars
     */
    record Measured(
            String set, String file, int stars, double hfrPx, double eccentricity, double skyAdu, double starFluxAdu) {
        boolean hasStars() {
            return stars >= FEWEST_STARS;
        }
    }

    private record Yardstick(double hfrPx, double stars, double skyAdu, double starFluxAdu) {}

    private final Map<String, List<Measured>> series = new HashMap<>();
    private final Map<String, Verdict> given = new HashMap<>();

    /** A judge who knows the subs of a night that was stopped. */
    static SubJudge of(NightState state) {
        SubJudge judge = new SubJudge();
        for (SubTaken taken : state.subs()) {
            SubMeasures m = taken.measures();
            if (m.starFluxAdu().isPresent()) {
                Measured sub = new Measured(
                        set(taken.target(), taken.filter(), taken.seconds(), m.widthPx()),
                        taken.file(),
                        m.stars(),
                        m.hfrPx().orElse(0),
                        m.eccentricity().orElse(0),
                        m.skyAdu().orElse(1),
                        m.starFluxAdu().getAsDouble());
                judge.series.computeIfAbsent(sub.set(), s -> new ArrayList<>()).add(sub);
                judge.given.put(sub.file(), taken.verdict());
            }
        }
        return judge;
    }

    /** The name of a series. */
    static String set(String target, String filter, double seconds, int widthPx) {
        return target + "\n" + filter + "\n" + seconds + "\n" + widthPx;
    }

    /**
     * What a sub shows.
     *
     * @param offsetAdu level of an unexposed pixel
     */
    static Measured measured(String set, String file, StarField field, double offsetAdu) {
        boolean starry = field.stars().size() >= FEWEST_STARS;
        return new Measured(
                set,
                file,
                field.stars().size(),
                field.medianHalfFluxRadiusPx().orElse(0),
                field.medianEccentricity().orElse(0),
                Math.max(1, field.backgroundAdu() - offsetAdu),
                starry ? brightFlux(field) : 0);
    }

    /** Takes a sub into its series and judges it. */
    Verdict judge(Measured sub) {
        List<Measured> all = series.computeIfAbsent(sub.set(), s -> new ArrayList<>());
        all.add(sub);
        Verdict verdict = verdict(sub, yardstick(all));
        given.put(sub.file(), verdict);
        return verdict;
    }

    /** The earlier subs of a series whose verdict is another now that more are known. */
    List<Regraded> regraded(String set) {
        List<Regraded> changed = new ArrayList<>();
        List<Measured> all = series.getOrDefault(set, List.of());
        Optional<Yardstick> best = yardstick(all);
        for (Measured sub : all) {
            Verdict now = verdict(sub, best);
            Verdict before = given.put(sub.file(), now);
            if (before != null && before.keep() != now.keep()) {
                changed.add(new Regraded(sub, now));
            }
        }
        return changed;
    }

    private static Verdict verdict(Measured sub, Optional<Yardstick> yardstick) {
        if (!sub.hasStars()) {
            return new Verdict(false, "only " + sub.stars() + " stars: cloud, cap or focus");
        }
        if (sub.eccentricity() > SubLimits.TRAILED_ECCENTRICITY) {
            return new Verdict(
                    false,
                    String.format(
                            Locale.ROOT, "trailed, eccentricity %.2f: guiding, wind or a cable", sub.eccentricity()));
        }
        if (yardstick.isEmpty()) {
            return new Verdict(true, "first of its set");
        }
        Yardstick best = yardstick.get();
        if (sub.hfrPx() > SubLimits.SOFT_FACTOR * best.hfrPx()) {
            return new Verdict(
                    false,
                    String.format(Locale.ROOT, "soft, %.2f px against %.2f: focus or dew", sub.hfrPx(), best.hfrPx()));
        }
        if (sub.stars() < SubLimits.FEW_STARS_SHARE * best.stars()) {
            return new Verdict(false, "stars down to " + sub.stars() + " from " + Math.round(best.stars()) + ": cloud");
        }
        double light = sub.starFluxAdu() / best.starFluxAdu();
        if (light < DIMMED_SHARE) {
            return new Verdict(false, String.format(Locale.ROOT, "stars dimmed to %.0f %%: cloud or dew", 100 * light));
        }
        if (sub.skyAdu() > BRIGHT_FACTOR * best.skyAdu()) {
            return new Verdict(
                    false,
                    String.format(
                            Locale.ROOT,
                            "sky %.0f ADU against %.0f: Moon, dawn or light",
                            sub.skyAdu(),
                            best.skyAdu()));
        }
        return new Verdict(true, "good");
    }

    /** What the better subs of a series show; empty while there are no two sound ones. */
    private static Optional<Yardstick> yardstick(List<Measured> all) {
        List<Measured> sound = all.stream()
                .filter(s -> s.hasStars() && s.eccentricity() <= SubLimits.TRAILED_ECCENTRICITY)
                .toList();
        return sound.size() < 2 ? Optional.empty() : Optional.of(best(sound));
    }

    private static Yardstick best(List<Measured> sound) {
        return new Yardstick(
                better(sound.stream().mapToDouble(s -> -s.hfrPx()).toArray()) * -1,
                better(sound.stream().mapToDouble(Measured::stars).toArray()),
                better(sound.stream().mapToDouble(s -> -s.skyAdu()).toArray()) * -1,
                better(sound.stream().mapToDouble(Measured::starFluxAdu).toArray()));
    }

    /** The largest of a few values, the fourth fifth of many. */
    private static double better(double[] values) {
        double[] sorted = values.clone();
        java.util.Arrays.sort(sorted);
        int last = sorted.length - 1;
        return sorted[sorted.length < MANY ? last : (int) Math.round(BETTER_SHARE * last)];
    }

    /** Median flux of the bright stars, by which thin cloud shows long before stars go missing. */
    private static double brightFlux(StarField field) {
        int from = Math.min(RANK_FROM, field.stars().size() - 1);
        int to = Math.min(RANK_TO, field.stars().size());
        return Statistics.median(field.stars().subList(from, to).stream()
                .mapToDouble(Star::fluxAdu)
                .toArray());
    }
}
