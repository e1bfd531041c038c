package app.ironside.night;

import app.ironside.image.Statistics;
import app.ironside.journal.NightState;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Verdict;
import app.ironside.judge.Cause;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.sky.Observer;
import app.ironside.solve.LightMap;
import app.ironside.solve.Registration;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;

/**
 * Judges a night's subs as they come, by the rule book of all subs ({@link Grader}): each by its series, and earlier ones anew when better
 * ones show what they lack.
 */
final class SubJudge {

    /** Bright stars by rank: the first few may be saturated, the later ones come and go. */
    private static final int RANK_FROM = 5;

    private static final int RANK_TO = 45;

    /** A verdict that is another now. */
    record Regraded(SubLook sub, Verdict verdict) {}

    /** The first sub of a target that has stars. */
    private record Reference(StarField field, double flux) {}

    private final SubLooks looks;
    private final Map<String, List<SubLook>> series = new HashMap<>();
    private final Map<String, Reference> references = new HashMap<>();
    private final Map<String, Boolean> kept = new HashMap<>();

    /** By series, then by sub. */
    private final Map<String, Map<String, Regraded>> changed = new HashMap<>();

    /**
     * @param observer where the Sun and the Moon stand is told by
     */
    SubJudge(Observer observer) {
        this.looks = new SubLooks(observer);
    }

    /**
     * A judge who knows the subs of a night that was stopped.
     *
     * @param stars kept beside a sub, if they are: by them later subs are held against the same stars as those before the stop
     */
    static SubJudge of(NightState state, Observer observer, Function<SubTaken, Optional<StarField>> stars) {
        SubJudge judge = new SubJudge(observer);
        for (SubTaken taken : state.subs()) {
            SubMeasures m = taken.measures();
            if (m.starFluxAdu().isPresent()) {
                SubLook sub = judge.looks.of(taken);
                judge.series
                        .computeIfAbsent(sub.series(), s -> new ArrayList<>())
                        .add(sub);
                judge.kept.put(sub.name(), taken.verdict().keep());
                double flux = m.starFluxAdu().getAsDouble();
                if (flux > 0 && !judge.references.containsKey(sub.series())) {
                    stars.apply(taken)
                            .ifPresent(field -> judge.references.put(sub.series(), new Reference(field, flux)));
                }
            }
        }
        return judge;
    }

    /** What its subs show. */
    SubLooks looks() {
        return looks;
    }

    /** Takes a sub into its series and judges it, and the earlier ones anew. */
    Verdict judge(SubLook sub) {
        List<SubLook> all = series.computeIfAbsent(sub.series(), s -> new ArrayList<>());
        all.add(sub);
        List<Grade> grades = Grader.grade(all);
        for (Grade grade : grades.subList(0, grades.size() - 1)) {
            Boolean before = kept.put(grade.sub().name(), grade.keep());
            if (before != null && before != grade.keep()) {
                Map<String, Regraded> news = changed.computeIfAbsent(sub.series(), s -> new LinkedHashMap<>());
                // Twice another is as it was.
                if (news.remove(grade.sub().name()) == null) {
                    news.put(grade.sub().name(), new Regraded(grade.sub(), verdict(grade)));
                }
            }
        }
        Verdict verdict = verdict(grades.get(grades.size() - 1));
        kept.put(sub.name(), verdict.keep());
        return verdict;
    }

    /** The earlier subs of a series whose verdict became another since this was asked last. */
    List<Regraded> regraded(String set) {
        Map<String, Regraded> told = changed.remove(set);
        return told == null ? List.of() : List.copyOf(told.values());
    }

    static Verdict verdict(Grade grade) {
        return new Verdict(
                grade.keep(),
                grade.cause() == Cause.GOOD ? "good" : grade.reason(),
                grade.cause().word());
    }

    /**
     * How bright the stars of a sub are: by those in common with the target's first, where it is recognised; else by its own bright ones, of
     * which some come and go at the edge.
     *
     * @param target with the size of its frames: what may be held against each other
     */
    StarLight starLight(String target, StarField field) {
        double own = brightFlux(field);
        Reference first = own > 0 ? references.computeIfAbsent(target, t -> new Reference(field, own)) : null;
        if (first == null || first.field() == field) {
            return new StarLight(own, Optional.empty());
        }
        return Registration.of(first.field(), field)
                .map(r -> new StarLight(first.flux() * r.fluxRatio(), LightMap.of(first.field(), field, r.transform())))
                .orElse(new StarLight(own, Optional.empty()));
    }

    /**
     * How much of its light a sky that is looked at shortly has left, against the best sub of a series; empty if its stars cannot be told.
     *
     * @param longer how many times as long the series' subs were exposed
     */
    OptionalDouble clearness(String of, StarField field, double longer) {
        Reference first = references.get(of);
        double best = series.getOrDefault(of, List.of()).stream()
                .mapToDouble(s -> s.light().orElse(0))
                .max()
                .orElse(0);
        if (first == null || best <= 0) {
            return OptionalDouble.empty();
        }
        if (field.stars().size() < SubLooks.FEWEST_STARS) {
            return OptionalDouble.of(0);
        }
        return Registration.of(first.field(), field)
                .map(r -> OptionalDouble.of(Math.min(1, first.flux() * r.fluxRatio() * longer / best)))
                .orElse(OptionalDouble.empty());
    }

    /**
     * The light of a sub's stars.
     *
     * @param fluxAdu on the scale of {@link #brightFlux} of the first; 0 without stars
     * @param map how it lies over the sensor against the first's, where that can be told
     */
    record StarLight(double fluxAdu, Optional<LightMap> map) {}

    /** Median flux of the bright stars, by which thin cloud shows long before stars go missing; 0 without stars. */
    static double brightFlux(StarField field) {
        if (field.stars().size() < SubLooks.FEWEST_STARS) {
            return 0;
        }
        int from = Math.min(RANK_FROM, field.stars().size() - 1);
        int to = Math.min(RANK_TO, field.stars().size());
        return Statistics.median(field.stars().subList(from, to).stream()
                .mapToDouble(Star::fluxAdu)
                .toArray());
    }
}
