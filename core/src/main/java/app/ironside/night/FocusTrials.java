package app.ironside.night;

import app.ironside.focus.FilterOffsets;
import app.ironside.focus.FocusRun;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.kit.FilterSpec;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.stream.Collectors;

/** Measures the focuser and the filters by sweeps of their own, when a person asks for it. */
final class FocusTrials {
    private final NightContext night;
    private final Focusing focusing;

    FocusTrials(NightContext night, Focusing focusing) {
        this.night = night;
        this.focusing = focusing;
    }

    /** Sweeps each filter, the first of the wheel before, between and after, and puts the one back that was in. */
    String offsets() throws InterruptedException {
        List<FilterSpec> filters = night.kit().filters();
        if (filters.size() < 2) {
            return "the kit has one filter only: there is nothing to compare";
        }
        String was = filters.get(night.devices().wheel().slot()).name();
        String reference = filters.get(0).name();
        List<FilterOffsets.Sweep> sweeps = new ArrayList<>();
        Instant began = night.clock().now();
        List<String> order = new ArrayList<>();
        for (FilterSpec filter : filters) {
            order.add(filter.name());
        }
        // The reference once more in the middle of many, and at the end: what drifts meanwhile is not the filters.
        if (order.size() > 4) {
            order.add(order.size() / 2 + 1, reference);
        }
        order.add(reference);
        for (String name : order) {
            focusing.change(name);
            FocusRun.Result result = focusing.swept("to measure " + name);
            if (result.verdict().accepted()) {
                sweeps.add(new FilterOffsets.Sweep(
                        name,
                        Duration.between(began, night.clock().now()).toSeconds() / 3600.0,
                        result.verdict().bestPosition(),
                        Math.max(0.05, result.verdict().positionSigma())));
            }
        }
        focusing.change(was);
        if (sweeps.isEmpty() || !sweeps.get(0).filter().equals(reference)) {
            return "the first sweep in " + reference + " was not believed: nothing to count from";
        }
        if (sweeps.stream().map(FilterOffsets.Sweep::filter).distinct().count() < 2) {
            return "of the other filters no sweep was believed";
        }
        FilterOffsets found = FilterOffsets.of(sweeps);
        double zone = focusing.zoneSteps();
        String told =
                found.offsets().stream().map(o -> o.sentence(reference, zone)).collect(Collectors.joining(" "));
        night.record()
                .tell(new OffsetsMeasured(
                        night.record().now(),
                        "Filters measured. " + told,
                        reference,
                        zone,
                        found.drift(),
                        found.offsets()));
        return found.offsets().size() + " filters were measured against " + reference;
    }

    /** From focus outward until stars are three times as large; then a sweep each way. */
    String focuser() throws InterruptedException {
        FocusRun.Result inward = focusing.swept("to measure the focuser");
        if (!inward.verdict().accepted()) {
            return "the sweep was not believed: " + inward.verdict().reason();
        }
        FocusRun.Outward outward = focusing.outward(inward);
        int points = night.program().focus().points();
        double[] slack = focusing.slack(inward).orElse(null);
        String told = String.format(
                Locale.ROOT,
                "Stars are %.1f times as large %d steps from focus: %d points want %d steps between them. ",
                outward.grown(),
                outward.outSteps(),
                points,
                outward.stepSteps());
        String turning = slack == null
                ? "The slack could not be measured: the sweep outward was not believed."
                : String.format(
                        Locale.ROOT,
                        "A sweep outward finds focus %+.1f ± %.1f steps from one inward: %s",
                        slack[0],
                        slack[1],
                        slack[0] > 2 * slack[1] ? "that is the slack of the gear." : "no slack to be seen.");
        night.record()
                .tell(new FocuserMeasured(
                        night.record().now(),
                        told + turning,
                        outward.outSteps(),
                        outward.grown(),
                        points,
                        outward.stepSteps(),
                        slack == null ? OptionalDouble.empty() : OptionalDouble.of(Math.max(0, slack[0])),
                        slack == null ? OptionalDouble.empty() : OptionalDouble.of(slack[1])));
        return "a step of " + outward.stepSteps() + " serves a sweep of " + points + " points";
    }
}
