package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.document.NightFile;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusSample;
import app.ironside.focus.FocusVerdict;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Sampling;
import app.ironside.plan.FocusTriggers;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Words the verdict of Focus: where it holds, how four schools read the same sweep, what has changed since. Pure. */
final class FocusReckoner {
    private static final int FEWEST_TO_READ = 3;

    private final NightFile file;
    private final double zoneSteps;

    FocusReckoner(NightFile file) {
        this.file = file;
        this.zoneSteps = Sampling.criticalFocusUm(file.kit().optics().focalRatio())
                / file.kit().focuser().stepUm();
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<FocusSwept> run = moment.evidence(chosen, FocusSwept.class);
        if (run.isEmpty()) {
            return ReckoningState.waiting("Not focused yet.", "A coarse sweep comes first: solving needs star images.");
        }
        FocusSwept e = run.get();
        FocusVerdict v = e.verdict();
        List<Row> rows = new ArrayList<>(List.of(
                new Row("star size", Words.format("%.2f px", v.bestSize())),
                new Row("position", Words.format("%.0f ± %.1f", v.bestPosition(), v.positionSigma())),
                new Row("critical zone", Words.format("± %.0f steps", zoneSteps)),
                new Row("R²", Words.format("%.4f", v.rSquared())),
                new Row("filter", e.filter()),
                new Row("tube", tube(moment, e)),
                new Row("next", next())));
        readings(e, rows);
        rows.add(new Row("took", Words.format("%d s", e.took().toSeconds())));
        spent(moment).ifPresent(rows::add);
        boolean sure = v.accepted() && v.positionSigma() <= zoneSteps;
        return new ReckoningState(
                sure
                        ? Words.format("Focus holds at %.0f.", v.bestPosition())
                        : v.accepted() ? "Focus is only roughly known." : "Curve not believed.",
                v.accepted() && !sure
                        ? Words.format(
                                "Known to ± %.0f steps; the critical zone is ± %.0f.", v.positionSigma(), zoneSteps)
                        : v.reason(),
                !sure,
                rows,
                "Size² = a² + b²(x − c)²: a cone of light with a smallest disc. The zone is 2λN² on either side, a quarter "
                        + "wave (Born and Wolf, 8.8). After each sweep one more frame must show what the curve foretells.",
                schools());
    }

    /** At the run, and by how much it has changed as the last sub tells. */
    private static String tube(Moment moment, FocusSwept e) {
        return moment.night().subs().stream()
                .filter(s -> s.time().isAfter(e.time()))
                .reduce((a, b) -> b)
                .filter(s -> s.circumstances().temperatureC().isPresent())
                .map(s -> Words.format(
                        "%.1f °C, since then %+.1f °C",
                        e.temperatureC(), s.circumstances().temperatureC().getAsDouble() - e.temperatureC()))
                .orElseGet(() -> Words.format("%.1f °C", e.temperatureC()));
    }

    private String next() {
        FocusTriggers t = file.program().focus();
        List<String> when = new ArrayList<>(
                List.of(Words.format("after %.1f °C", file.program().refocusAfterC())));
        t.growth().ifPresent(g -> when.add(Words.format("when stars are %.0f %% larger", 100 * g)));
        t.everySubs().ifPresent(n -> when.add(Words.format("after %d subs", n)));
        t.everyMinutes().ifPresent(n -> when.add(Words.format("after %d min", n)));
        if (t.onFilter()) {
            when.add("at each filter");
        }
        if (t.afterFlip()) {
            when.add("after a flip");
        }
        return String.join(", ", when);
    }

    /** The same sweep as four schools read it, and how far they lie from the one that was taken. */
    private void readings(FocusSwept e, List<Row> rows) {
        List<FocusSample> samples = e.points().stream()
                .filter(p -> p.size() > 0)
                .map(p -> new FocusSample(p.position(), p.size(), p.sigma().orElse(0.03 * p.size())))
                .toList();
        if (samples.size() < FEWEST_TO_READ) {
            return;
        }
        for (FocusMethod method : FocusMethod.values()) {
            FocusVerdict read = FocusCurve.judge(samples, method);
            double off = (read.bestPosition() - e.verdict().bestPosition()) / zoneSteps;
            rows.add(new Row(
                    "by " + method.word().replace('-', ' '),
                    read.accepted() ? Words.format("%.0f, %+.2f zones", read.bestPosition(), off) : "no answer"));
        }
    }

    /** What focusing has cost so far, against the time subs took. */
    private static Optional<Row> spent(Moment moment) {
        List<FocusSwept> runs = moment.night().all(FocusSwept.class);
        double minutes = runs.stream()
                        .map(FocusSwept::took)
                        .mapToDouble(Duration::toSeconds)
                        .sum()
                / 60;
        double light =
                moment.night().subs().stream().mapToDouble(SubTaken::seconds).sum() / 60;
        return light <= 0
                ? Optional.empty()
                : Optional.of(new Row(
                        "spent so far",
                        Words.format("%.0f min in %d runs, %.0f min of light", minutes, runs.size(), light)));
    }

    private List<School> schools() {
        FocusTriggers t = file.program().focus();
        return List.of(
                new School(
                        "By temperature",
                        Words.format(
                                "Refocus when the tube changed by %.1f °C. The others are switched at Plan, Rules, each with its price.",
                                file.program().refocusAfterC()),
                        true),
                new School(
                        "Every N subs, or minutes",
                        "Simple; pays for runs that find nothing.",
                        t.everySubs().isPresent() || t.everyMinutes().isPresent()),
                new School(
                        "When stars grow",
                        "No idle runs; some soft subs come first.",
                        t.growth().isPresent()),
                new School("At each filter", "For filters that are not parfocal.", t.onFilter()));
    }
}
