package app.ironside.desk.night;

import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Plot.Curve;
import app.ironside.desk.parts.Plot.Ink;
import app.ironside.desk.parts.Plot.Mark;
import app.ironside.desk.parts.Plot.Style;
import app.ironside.desk.parts.Words;
import app.ironside.focus.FocusCurve;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Makes plots from events. Pure. */
public final class PlotStates {
    private PlotStates() {}

    /** Local time in hours; after midnight 24 is added, so that a night is one stretch. */
    public static double hours(Instant time, ZoneId zone) {
        double hour = time.atZone(zone).toLocalTime().toSecondOfDay() / 3600.0;
        return hour < 12 ? hour + 24 : hour;
    }

    /** A sweep's points with the hyperbola through them. */
    public static Plot.State focus(Optional<NightEvent> run) {
        if (run.isEmpty()) {
            return Plot.State.EMPTY;
        }
        NightEvent e = run.get();
        List<double[]> points = pairs(e.facts().get("points"), "position", "size");
        double[] abc = {
            e.number("a").orElse(1), e.number("b").orElse(0), e.number("c").orElse(0)
        };
        double low = points.stream().mapToDouble(p -> p[0]).min().orElse(0);
        double high = points.stream().mapToDouble(p -> p[0]).max().orElse(1);
        List<double[]> fit = new ArrayList<>();
        for (int i = 0; i <= 80; i++) {
            double position = low + (high - low) * i / 80;
            fit.add(new double[] {position, FocusCurve.hyperbolaSize(abc, position)});
        }
        return new Plot.State(
                e.text("why").orElse("Focus"),
                "focuser position, steps",
                "half-flux radius, px",
                List.of(
                        new Curve("hyperbola", fit, Ink.COOL, Style.LINE),
                        new Curve("measured", points, Ink.ACCENT, Style.DOTS)),
                List.of(new Mark(
                        e.number("bestPosition").orElse(0),
                        Words.format("%.0f", e.number("bestPosition").orElse(0)))),
                true);
    }

    /** Best positions of the night against the tube's temperature. */
    public static Plot.State focusAgainstTemperature(Moment moment) {
        List<NightEvent> runs = moment.of(EventKind.FOCUS).stream()
                .filter(e -> e.isTrue("accepted"))
                .toList();
        String last =
                runs.isEmpty() ? "" : runs.get(runs.size() - 1).text("filter").orElse("");
        boolean known =
                runs.stream().allMatch(e -> e.number("filterOffsetSteps").isPresent());
        // Filters differ in focus by more than the tube moves it: their offsets are taken out, or one filter is shown
        // alone.
        List<double[]> points = runs.stream()
                .filter(e -> known || e.text("filter").orElse("").equals(last))
                .map(e -> new double[] {
                    e.number("temperatureC").orElse(0),
                    e.number("bestPosition").orElse(0)
                            - e.number("filterOffsetSteps").orElse(0)
                })
                .toList();
        return new Plot.State(
                "Focus by temperature",
                "tube, °C",
                known ? "steps less offset" : "steps in " + last,
                List.of(new Curve("", points, Ink.GOOD, Style.DOTS)),
                List.of(),
                false);
    }

    /** The guide star's displacement in both axes through a stretch. */
    public static Plot.State guiding(Optional<NightEvent> event) {
        if (event.isEmpty()) {
            return Plot.State.EMPTY;
        }
        Object trace = event.get().facts().get("trace");
        String title = event.get().kind() == EventKind.SUB
                ? "Guiding during " + event.get().text().replaceFirst(" (kept|out).*", "")
                : "Guiding, the minute of proof";
        return new Plot.State(
                title,
                "seconds",
                "arcseconds",
                List.of(
                        new Curve("right ascension", pairs(trace, "t", "ra"), Ink.COOL, Style.LINE),
                        new Curve("declination", pairs(trace, "t", "dec"), Ink.ACCENT, Style.LINE)),
                List.of(),
                true);
    }

    /** RMS of guiding sub by sub. */
    public static Plot.State guidingBySub(Moment moment) {
        List<double[]> points = new ArrayList<>();
        for (NightEvent e : moment.of(EventKind.SUB)) {
            points.add(new double[] {
                points.size() + 1.0, e.number("guideRmsArcsec").orElse(Double.NaN)
            });
        }
        return new Plot.State(
                "RMS of each sub",
                "sub",
                "arcseconds, both axes",
                List.of(new Curve("", points, Ink.GOOD, Style.LINE)),
                List.of(),
                true);
    }

    /** How the target came to the middle. */
    public static Plot.State approach(Moment moment) {
        List<double[]> points = new ArrayList<>();
        for (NightEvent e : moment.of(EventKind.SOLVE)) {
            double offset = e.number("offsetArcsec").orElse(Double.NaN);
            points.add(new double[] {points.size() + 1.0, Math.log10(Math.max(0.5, offset))});
        }
        return new Plot.State(
                "Distance from the middle, each solve",
                "solve",
                Plot.State.LOG_ARCSEC,
                List.of(new Curve("", points, Ink.ACCENT, Style.BOTH)),
                List.of(),
                false);
    }

    private static List<double[]> pairs(Object list, String x, String y) {
        List<double[]> points = new ArrayList<>();
        if (list instanceof List<?> items) {
            for (Object item : items) {
                if (item instanceof Map<?, ?> map && map.get(x) instanceof Number a && map.get(y) instanceof Number b) {
                    points.add(new double[] {a.doubleValue(), b.doubleValue()});
                }
            }
        }
        return points;
    }
}
