package app.ironside.desk.plan;

import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Plot.Curve;
import app.ironside.desk.parts.Plot.Ink;
import app.ironside.desk.parts.Plot.Style;
import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.document.NightFile;
import app.ironside.journal.FaultTold;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.sim.FaultTruth;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.wiring.ManyNights;
import app.ironside.wiring.Outcome;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What is said of rehearsals. */
final class RehearsalStates {
    private static final int MOST_BARS = 24;
    private static final int MOST_CAUSES = 4;

    private RehearsalStates() {}

    /** Hours of light, as so many nights have them. */
    static Plot.State histogram(Outcome outcome) {
        double[] hours = outcome.nights().stream()
                .mapToDouble(n -> n.lightSeconds() / 3600)
                .toArray();
        double most = 0;
        for (double h : hours) {
            most = Math.max(most, h);
        }
        double bar = Math.max(0.25, Math.ceil(most / MOST_BARS * 4) / 4);
        int[] counts = new int[(int) (most / bar) + 1];
        for (double h : hours) {
            counts[(int) (h / bar)]++;
        }
        List<double[]> outline = new ArrayList<>();
        outline.add(new double[] {0, 0});
        for (int i = 0; i < counts.length; i++) {
            outline.add(new double[] {i * bar, counts[i]});
            outline.add(new double[] {(i + 1) * bar, counts[i]});
        }
        outline.add(new double[] {counts.length * bar, 0});
        int highest = Arrays.stream(counts).max().orElse(0);
        Outcome.Percentiles light = outcome.lightSeconds();
        return new Plot.State(
                outcome.nights().size() + " nights",
                "hours of kept light",
                "nights",
                // A line of one point is not drawn; it leaves room above the bars for the names of the marks.
                List.of(
                        new Curve("", outline, Ink.ACCENT, Style.LINE),
                        new Curve("", List.of(new double[] {0, 1.3 * highest}), Ink.DIM, Style.LINE)),
                List.of(
                        new Plot.Mark(light.tenth() / 3600, "one in ten has less"),
                        new Plot.Mark(light.median() / 3600, "half")),
                true);
    }

    static String verdict(Outcome outcome) {
        return Words.format(
                "Half of the nights bring %.1f h.", outcome.lightSeconds().median() / 3600);
    }

    static String sentence(Outcome outcome) {
        List<Outcome.Cause> causes = outcome.causes();
        return Words.format(
                        "One in ten brings less than %.1f h, one in ten more than %.1f h. ",
                        outcome.lightSeconds().tenth() / 3600,
                        outcome.lightSeconds().ninetieth() / 3600)
                + (causes.isEmpty()
                        ? "Nothing that was drawn decides it."
                        : "What decides it most: " + causes.get(0).words() + ".");
    }

    static List<Row> rows(Outcome outcome) {
        List<Row> rows = new ArrayList<>();
        Outcome.Percentiles kept = outcome.subsKept();
        rows.add(new Row(
                "subs kept", Words.format("%.0f, mostly %.0f to %.0f", kept.median(), kept.tenth(), kept.ninetieth())));
        outcome.byTarget()
                .forEach((name, p) -> rows.add(
                        new Row(name, Words.format("%.0f subs, %.0f to %.0f", p.median(), p.tenth(), p.ninetieth()))));
        outcome.causes().stream()
                .limit(MOST_CAUSES)
                .forEach(c -> rows.add(new Row(
                        c.words(), Words.format("%d nights, %.0f %% less light", c.nights(), 100 * c.lossShare()))));
        for (Outcome.Group g : Stream.concat(outcome.byWeather().stream(), outcome.bySeeing().stream())
                .toList()) {
            rows.add(new Row(
                    g.words(),
                    Words.format(
                            "%.1f h, %.1f to %.1f",
                            g.light().median() / 3600,
                            g.light().tenth() / 3600,
                            g.light().ninetieth() / 3600)));
        }
        long broken =
                outcome.nights().stream().filter(n -> !n.reason().isEmpty()).count();
        if (broken > 0) {
            rows.add(new Row("ended before their end", Words.format("%d", broken)));
        }
        return rows;
    }

    /** What is set to go wrong, for the ribbon. */
    static List<RibbonState.Trouble> troubles(NightFile file, NightTimes times) {
        Instant sunset = times.sunset().orElse(times.night().from());
        return FaultTruth.of(Rehearsals.faults(file), file.site().zone(), sunset).stream()
                .map(f -> new RibbonState.Trouble(
                        new Interval(f.from(), f.until()), f.kind().sentence()))
                .toList();
    }

    /** The nights with least light, worst first, each in a line. */
    static List<String> worst(Outcome outcome, int most) {
        return outcome.nights().stream()
                .sorted(java.util.Comparator.comparingDouble(ManyNights.Night::lightSeconds))
                .limit(most)
                .map(n -> Words.format(
                        "%.1f h  seeing %.1f″%s%s%s",
                        n.lightSeconds() / 3600,
                        n.seeingArcsec(),
                        n.cloudedHours() >= 0.5 ? Words.format(", %.1f h of cloud", n.cloudedHours()) : "",
                        n.faults().isEmpty()
                                ? ""
                                : ", "
                                        + n.faults().stream()
                                                .map(f ->
                                                        f.at() + " " + f.kind().sentence())
                                                .collect(Collectors.joining(", ")),
                        n.reason().isEmpty() ? "" : ": " + n.reason()))
                .toList();
    }

    static String verdict(NightState night) {
        return night.kept() + " of " + night.subs().size() + " subs kept.";
    }

    static String sentence(NightState night) {
        int faults = night.all(FaultTold.class).size();
        int out = night.subs().size() - night.kept();
        return Words.format("%.1f h of light; %d subs were planned. ", night.lightSeconds() / 3600, night.subsPlanned())
                + (out == 0 && faults == 0
                        ? "Nothing went wrong."
                        : out + (out == 1 ? " sub is" : " subs are") + " out, and "
                                + (faults == 0 ? "nothing else was told" : faults + " faults were told")
                                + " of on the way.");
    }

    /** What was told of on the way, and what was not kept. */
    static List<String> told(NightState night, ZoneId zone) {
        List<String> lines = new ArrayList<>();
        night.events().forEach(e -> {
            boolean out = e instanceof SubTaken sub && !sub.kept();
            if (e instanceof FaultTold || out) {
                lines.add(Words.clock(e.time(), zone) + "  " + e.text());
            }
        });
        return lines;
    }
}
