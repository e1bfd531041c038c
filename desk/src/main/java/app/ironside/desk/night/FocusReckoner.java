package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.document.NightFile;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusSample;
import app.ironside.focus.FocusVerdict;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.NightEvent;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.journal.SubTaken;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.NightPlan;
import app.ironside.plan.Overheads;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Words the verdict of Focus: where it holds, how four schools read the same sweep, what has changed since. Pure. */
final class FocusReckoner {
    private static final int FEWEST_TO_READ = 3;

    private final NightFile file;
    private final NightPlan plan;
    private final double zoneSteps;

    FocusReckoner(NightFile file, NightPlan plan) {
        this.file = file;
        this.plan = plan;
        this.zoneSteps = file.kit().criticalFocusSteps();
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
        expected(moment, e, rows);
        e.zones()
                .ifPresent(z -> rows.add(
                        new Row("corners", z.sentence(file.kit().focuser().stepUm(), zoneSteps))));
        List<Action> actions = new ArrayList<>();
        measured(moment, rows, actions);
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
                actions,
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

    /** What the kit's other nights say of tonight, and whether a compensation can be had. */
    private void expected(Moment moment, FocusSwept run, List<Row> rows) {
        moment.night().last(FocusExpected.class).ifPresent(x -> {
            rows.add(new Row("expected", Words.format("%.0f ± %.1f, by %d runs", x.steps(), x.sigma(), x.runs())));
            rows.add(new Row(
                    "by the tube", Words.format("%+.2f ± %.2f steps a °C", x.stepsPerDegree(), x.slopeSigma())));
            rows.add(new Row(
                    "to follow it",
                    x.supportedSince()
                            .map(t -> "carried by the record since "
                                    + t.atZone(file.site().zone()).toLocalDate())
                            .orElse("not yet: " + x.lacks())));
        });
    }

    /** What filters in turns cost tonight, with offsets that are known and without; empty where no target has two. */
    private Optional<Row> inTurns() {
        int changes = plan.blocks().stream()
                .filter(b -> b.byFilter().size() > 1)
                .mapToInt(b -> b.subs() / Math.max(1, b.target().subsPerFilter()))
                .sum();
        if (changes == 0) {
            return Optional.empty();
        }
        double minutes = changes * Overheads.of(file.kit()).perFocus() / 60;
        String without = Words.format("%d runs, %.0f min", changes, minutes);
        return Optional.of(new Row(
                "filters in turns, tonight",
                file.program().focus().onFilter()
                        ? without + ": focus at each filter is switched on"
                        : "no run with these offsets; without them " + without));
    }

    /** What was measured tonight of filters and focuser, and what can be done with it. */
    private void measured(Moment moment, List<Row> rows, List<Action> actions) {
        moment.night().last(OffsetsMeasured.class).ifPresent(m -> {
            m.offsets().forEach(o -> rows.add(new Row(o.filter(), o.sentence(m.reference(), m.zoneSteps()))));
            inTurns().ifPresent(rows::add);
            actions.add(new Action(
                    "take-offsets",
                    "Put these offsets into the kit",
                    true,
                    true,
                    new Intent.FilterSteps(file.kit().name(), m.reference(), m.offsets())));
        });
        moment.night().last(FocuserMeasured.class).ifPresent(m -> {
            rows.add(new Row(
                    "step that serves",
                    Words.format(
                            "%d, for %d points: %.1f times as large %d steps out",
                            m.stepSteps(), m.points(), m.grown(), m.outSteps())));
            m.backlashSteps().ifPresent(slack -> {
                rows.add(new Row(
                        "slack",
                        Words.format(
                                "%.1f ± %.1f steps", slack, m.backlashSigma().orElse(0))));
                actions.add(new Action(
                        "take-slack",
                        Words.format("Put %.0f steps of slack into the kit", Math.ceil(slack)),
                        false,
                        true,
                        new Intent.FocuserSlack(file.kit().name(), (int) Math.ceil(slack))));
            });
        });
    }

    /** Cards that are switches: each that is in use can be left, each other taken; temperature always holds. */
    private List<School> schools() {
        FocusTriggers t = file.program().focus();
        return List.of(
                new School(
                        "By temperature",
                        Words.format(
                                "Refocus when the tube changed by %.1f °C; the step is set at Plan, Rules.",
                                file.program().refocusAfterC()),
                        !t.compensate(),
                        Optional.of(new Intent.FocusBy(t.withCompensate(false)))),
                new School(
                        "The focuser follows the tube",
                        "No runs for temperature; only once the record of this kit carries it.",
                        t.compensate(),
                        Optional.of(new Intent.FocusBy(t.withCompensate(true)))),
                new School(
                        "After 20 subs",
                        "Simple; pays for runs that find nothing.",
                        t.everySubs().isPresent(),
                        Optional.of(new Intent.FocusBy(
                                t.withEverySubs(t.everySubs().isPresent() ? Optional.empty() : Optional.of(20))))),
                new School(
                        "When stars grow by 15 %",
                        "No idle runs; some soft subs come first.",
                        t.growth().isPresent(),
                        Optional.of(new Intent.FocusBy(
                                t.withGrowth(t.growth().isPresent() ? Optional.empty() : Optional.of(0.15))))),
                new School(
                        "At each filter",
                        "For filters that are not parfocal; one whose offset is unknown is focused anyway.",
                        t.onFilter(),
                        Optional.of(new Intent.FocusBy(t.withOnFilter(!t.onFilter())))));
    }
}
