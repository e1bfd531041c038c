package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.plan.Candidate;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Schedule;
import app.ironside.plan.TargetLight;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Interval;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Words and numbers of Plan, Tonight: what fits, under which sky, and what is looked at. */
final class TonightReckoner {
    /** A night is moonless, clear or narrow as far as this share of it is. */
    private static final double MOST_OF = 0.8;

    private final PlanDesk plan;

    TonightReckoner(PlanDesk plan) {
        this.plan = plan;
    }

    /**
     * @param standing what can be done with any plan
     */
    ReckoningState of(NightBudget budget, List<Action> standing) {
        NightPlan p = plan.draft().plan();
        double light =
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
        boolean trouble = !budget.warnings().isEmpty();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row(
                "dark",
                Words.format(
                        "%.1f h, %.1f without Moon",
                        p.times().darkHours(), p.times().moonlessDarkHours())));
        rows.add(new Row("Moon", Words.format("%.0f %% lit", 100 * p.times().moonIlluminatedFraction())));
        rows.add(new Row("light", Words.format("%.1f h in %d subs", light, p.subs())));
        rows.add(new Row(
                "flips",
                Words.format(
                        "%d",
                        p.blocks().stream().filter(b -> b.flip().isPresent()).count())));
        rows.add(new Row("last light", Words.clock(budget.lightUntil(), zone())));
        rows.add(new Row("bed", CostsPane.bedtime(budget, zone())));
        List<TargetPlan> unplaced = plan.draft().unplaced();
        List<Action> actions = new ArrayList<>(standing);
        if (!unplaced.isEmpty()) {
            rows.add(new Row(
                    "no time",
                    unplaced.stream().map(TargetPlan::name).distinct().collect(Collectors.joining(", "))));
            if (!plan.model().isProposed() && p.subs() > 0) {
                actions.add(
                        new Action("drop-unplaced", "Drop what has no time", false, true, new Intent.DropUnplaced()));
            }
        }
        chosenRows(rows);
        Optional<String> weather = foreseen(p);
        String sentence = trouble ? budget.warnings().get(0) : weather.orElseGet(() -> calmSentence(p, budget));
        plan.arranging().before().ifPresent(before -> {
            rows.add(new Row("before arranging", laidOut(before.plan())));
            rows.add(new Row(plan.model().isProposed() ? "arranged, as shown" : "now", laidOut(p)));
        });
        return new ReckoningState(
                p.subs() == 0 ? "Nothing is up." : Words.format("%d subs fit.", p.subs()),
                sentence,
                trouble,
                rows,
                actions,
                "An hour is worth (S/S₀)² · (B₀ + n)/(B + n): extinction dims the target, airmass, Moon and town brighten the sky, "
                        + "compared with the zenith without Moon (Krisciunas and Schaefer 1991; CCD equation, Howell 2006). "
                        + "Arranging is exact on pieces of five minutes, by dynamic programming over sets of stretches.",
                schools());
    }

    private String calmSentence(NightPlan p, NightBudget budget) {
        if (plan.arranging().schedule().isPresent()) {
            return loss(plan.arranging().schedule().get());
        }
        if (!budget.reminders().isEmpty()) {
            return budget.reminders().get(0);
        }
        return p.blocks().isEmpty() ? "" : bestLine(p.blocks().get(0));
    }

    /** A plan in one row: its light, and when each target has its turn. */
    private String laidOut(NightPlan p) {
        return Words.format(
                "%.1f h: %s",
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum(),
                p.blocks().stream()
                        .map(b -> b.target().name() + " " + Words.clock(b.span().from(), zone()) + " to "
                                + Words.clock(b.span().until(), zone()))
                        .collect(Collectors.joining(", ")));
    }

    /** What the forecast says of the targets, and of a rare night; empty without one. */
    private Optional<String> foreseen(NightPlan p) {
        List<String> said = new ArrayList<>();
        p.blocks().stream()
                .findFirst()
                .flatMap(b ->
                        plan.forecasts().verdict(b.target().name(), b.window().usable(), plan.draft()))
                .ifPresent(said::add);
        if (said.isEmpty()) {
            return Optional.empty();
        }
        p.blocks().stream()
                .flatMap(b -> plan.forecasts().clouded(b, plan.draft()).stream())
                .forEach(said::add);
        rareNight(p).ifPresent(rare -> said.add(0, rare));
        return Optional.of(String.join(" ", said));
    }

    /** Clear and moonless coincide seldom: broad light is what such a night is for. */
    private Optional<String> rareNight(NightPlan p) {
        double dark = p.times().darkHours();
        double clear = p.times().dark().stream()
                .flatMap(d -> plan.clouds().usable(d).stream())
                .mapToDouble(Interval::hours)
                .sum();
        double light =
                p.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
        double narrow = p.blocks().stream()
                .flatMap(b -> b.target().goals().stream()
                        .filter(g -> plan.file().kit().filter(g.filter()).narrow())
                        .map(g -> b.byFilter().getOrDefault(g.filter(), 0) * g.subSeconds() / 3600))
                .mapToDouble(Double::doubleValue)
                .sum();
        boolean rare = dark > 0
                && p.times().moonlessDarkHours() >= MOST_OF * dark
                && clear >= MOST_OF * dark
                && narrow > light / 2;
        return rare
                ? Optional.of(Words.format(
                        "A rare night: %.1f h without Moon and clear, and the plan spends %.1f h of it on narrow filters, which a moonlit"
                                + " night serves as well: broad light first.",
                        Math.min(clear, p.times().moonlessDarkHours()), narrow))
                : Optional.empty();
    }

    private String bestLine(PlannedBlock b) {
        return Words.format(
                "%s is highest at %s, %.0f° up; %.1f effective hours of %.1f.",
                b.target().name(),
                Words.clock(b.window().transit(), zone()),
                b.window().transitAltitudeDeg(),
                b.window().effectiveHours(),
                b.window().usableHours());
    }

    private static String loss(Schedule s) {
        return s.blocks().stream()
                .filter(b -> b.alternative().isPresent())
                .findFirst()
                .map(b -> b.why() + " Without it "
                        + b.alternative()
                                .get()
                                .instead()
                                .map(n -> n + " would have the time and ")
                                .orElse("the time would stay free and ")
                        + Words.format(
                                "the night would lose %.1f.",
                                b.alternative().get().loss()))
                .orElse("");
    }

    private void chosenRows(List<Row> rows) {
        plan.looked().ifPresent(o -> {
            Optional<Candidate> c = plan.targets().candidates().stream()
                    .filter(x -> x.object() == o)
                    .findFirst();
            rows.add(new Row("looking at", o.id() + (o.name().isEmpty() ? "" : ", " + o.name())));
            c.ifPresent(x -> {
                rows.add(new Row("worth", Words.format("%.1f of %.1f h", x.effectiveHours(), x.usableHours())));
                rows.add(new Row("transit", Words.clock(x.transit(), zone())));
                rows.add(new Row("light", TargetLight.of(o.kind()).words()));
                x.surfaceBrightness()
                        .ifPresent(mu -> rows.add(new Row("surface", Words.format("%.1f mag/arcsec²", mu))));
            });
            if (!plan.lightIsSeen(o)) {
                rows.add(new Row("camera", "cuts most of its red"));
            }
        });
    }

    private List<School> schools() {
        return List.of(
                new School(
                        "Filters in turns",
                        "A night cut short is still balanced.",
                        plan.arranging().interleave(),
                        Optional.of(new Intent.FiltersInTurns(true))),
                new School(
                        "Filters in blocks",
                        "Each filter has its best hour; focus is not paid at each change.",
                        !plan.arranging().interleave(),
                        Optional.of(new Intent.FiltersInTurns(false))),
                new School(
                        "Broad light only without Moon",
                        "Narrow filters meanwhile.",
                        !plan.arranging().broadUnderMoon(),
                        Optional.of(new Intent.BroadUnderMoon(false))),
                new School(
                        "Bright targets at any time",
                        "More hours, each worth less under the Moon.",
                        plan.arranging().broadUnderMoon(),
                        Optional.of(new Intent.BroadUnderMoon(true))));
    }

    private ZoneId zone() {
        return plan.file().site().zone();
    }
}
