package app.ironside.desk.night;

import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Plot.Curve;
import app.ironside.desk.parts.Plot.Ink;
import app.ironside.desk.parts.Plot.Mark;
import app.ironside.desk.parts.Plot.Style;
import app.ironside.desk.parts.Words;
import app.ironside.focus.FocusCurve;
import app.ironside.focus.FocusSample;
import app.ironside.guide.Excursion;
import app.ironside.guide.GuideAnalysis;
import app.ironside.guide.GuideLog;
import app.ironside.guide.GuideSample;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusPoint;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.NightEvent;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Kit;
import app.ironside.kit.RoundRecord;
import app.ironside.plan.Projects;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleUnaryOperator;

/** Makes plots from events. Pure. */
public final class PlotStates {
    private static final int FEWEST_TO_FIT = 5;

    /** Of a size whose error nobody told, as a share of it. */
    private static final double USUAL_ERROR = 0.03;

    private static final double SHORTEST_UNGUIDED = 5;
    private static final double LONGEST_UNGUIDED = 240;

    private PlotStates() {}

    /** Local time in hours; after midnight 24 is added, so that a night is one stretch. */
    public static double hours(Instant time, ZoneId zone) {
        double hour = time.atZone(zone).toLocalTime().toSecondOfDay() / 3600.0;
        return hour < 12 ? hour + 24 : hour;
    }

    /** A sweep's points with the hyperbola through them. */
    public static Plot.State focus(Optional<FocusSwept> run) {
        if (run.isEmpty()) {
            return Plot.State.EMPTY;
        }
        FocusSwept e = run.get();
        List<double[]> points = e.points().stream()
                .map(p -> new double[] {p.position(), p.size()})
                .toList();
        List<Curve> curves = new ArrayList<>();
        band(samples(e), points).ifPresent(curves::add);
        curves.add(new Curve("hyperbola", fitted(points, e.curve()::sizeAt), Ink.COOL, Style.LINE));
        curves.add(new Curve("measured", points, Ink.ACCENT, Style.DOTS));
        return new Plot.State(
                e.why(),
                "focuser position, steps",
                "half-flux radius, px",
                curves,
                List.of(new Mark(
                        e.verdict().bestPosition(),
                        Words.format("%.0f", e.verdict().bestPosition()))),
                true);
    }

    private static List<FocusSample> samples(FocusSwept e) {
        return e.points().stream()
                .map(p -> new FocusSample(p.position(), p.size(), p.sigma().orElse(USUAL_ERROR * p.size())))
                .toList();
    }

    /** Two of the fit's standard errors to either side; empty where it has none. */
    private static Optional<Curve> band(List<FocusSample> samples, List<double[]> points) {
        return FocusCurve.sigma(samples).map(sigma -> {
            double[] abc = FocusCurve.fitHyperbola(samples);
            List<double[]> edges =
                    new ArrayList<>(fitted(points, x -> FocusCurve.hyperbolaSize(abc, x) + 2 * sigma.applyAsDouble(x)));
            edges.add(new double[] {edges.get(edges.size() - 1)[0], Double.NaN});
            edges.addAll(fitted(points, x -> FocusCurve.hyperbolaSize(abc, x) - 2 * sigma.applyAsDouble(x)));
            return new Curve("where it lies, 95 %", edges, Ink.DIM, Style.LINE);
        });
    }

    /** A curve from the first to the last of some positions. */
    private static List<double[]> fitted(List<double[]> points, DoubleUnaryOperator sizeAt) {
        double low = points.stream().mapToDouble(p -> p[0]).min().orElse(0);
        double high = points.stream().mapToDouble(p -> p[0]).max().orElse(1);
        List<double[]> fit = new ArrayList<>();
        for (int i = 0; i <= 80; i++) {
            double position = low + (high - low) * i / 80;
            fit.add(new double[] {position, sizeAt.applyAsDouble(position)});
        }
        return fit;
    }

    /** The frames of a sweep that goes on: those since the last one was read, with their curve once there are enough. */
    public static Optional<Plot.State> growing(Moment moment) {
        Instant read =
                moment.night().last(FocusSwept.class).map(FocusSwept::time).orElse(Instant.MIN);
        List<FocusPoint> since = moment.night().all(FocusPoint.class).stream()
                .filter(p -> p.time().isAfter(read) && p.sizePx().isPresent())
                .toList();
        // The frame that proves where a sweep ended comes after it and is no new one.
        if (since.size() < 2 || !moment.live()) {
            return Optional.empty();
        }
        List<double[]> points = since.stream()
                .map(p -> new double[] {p.position(), p.sizePx().getAsDouble()})
                .toList();
        List<Curve> curves = new ArrayList<>();
        if (since.size() >= FEWEST_TO_FIT) {
            List<FocusSample> samples = since.stream()
                    .map(p -> new FocusSample(
                            p.position(),
                            p.sizePx().getAsDouble(),
                            USUAL_ERROR * p.sizePx().getAsDouble()))
                    .toList();
            band(samples, points).ifPresent(curves::add);
            double[] abc = FocusCurve.fitHyperbola(samples);
            List<double[]> fit = fitted(points, position -> FocusCurve.hyperbolaSize(abc, position));
            curves.add(new Curve("hyperbola", fit, Ink.COOL, Style.LINE));
        }
        curves.add(new Curve("measured", points, Ink.ACCENT, Style.DOTS));
        return Optional.of(new Plot.State(
                Words.format("A sweep goes on, %d frames", since.size()),
                "focuser position, steps",
                "half-flux radius, px",
                curves,
                List.of(),
                true));
    }

    /**
     * Best positions of the night against the tube's temperature.
     *
     * @param expected what the kit's other nights say; its slope is drawn through tonight's runs
     */
    public static Plot.State focusAgainstTemperature(Moment moment, Optional<FocusExpected> expected) {
        List<FocusSwept> runs = moment.night().all(FocusSwept.class).stream()
                .filter(e -> e.verdict().accepted())
                .toList();
        String last = runs.isEmpty() ? "" : runs.get(runs.size() - 1).filter();
        boolean known = runs.stream().allMatch(e -> e.filterOffsetSteps().isPresent());
        // Filters differ in focus by more than the tube moves it: their offsets are taken out, or one filter is shown
        // alone.
        List<double[]> points = runs.stream()
                .filter(e -> known || e.filter().equals(last))
                .map(e -> new double[] {
                    e.temperatureC(),
                    e.verdict().bestPosition() - e.filterOffsetSteps().orElse(0)
                })
                .toList();
        return new Plot.State(
                "Focus by temperature",
                "tube, °C",
                known ? "steps less offset" : "steps in " + last,
                curves(points, expected),
                List.of(),
                false);
    }

    private static List<Curve> curves(List<double[]> points, Optional<FocusExpected> expected) {
        Curve tonight = new Curve("tonight", points, Ink.GOOD, Style.DOTS);
        if (expected.isEmpty() || points.size() < 2) {
            return List.of(tonight);
        }
        double slope = expected.get().stepsPerDegree();
        double t = points.stream().mapToDouble(p -> p[0]).average().orElseThrow();
        double y = points.stream().mapToDouble(p -> p[1]).average().orElseThrow();
        List<double[]> line = new ArrayList<>();
        for (double end : new double[] {
            points.stream().mapToDouble(p -> p[0]).min().orElseThrow(),
            points.stream().mapToDouble(p -> p[0]).max().orElseThrow()
        }) {
            line.add(new double[] {end, y + slope * (end - t)});
        }
        return List.of(tonight, new Curve("other nights", line, Ink.COOL, Style.LINE));
    }

    /** The stretch of guiding that an event tells of, with its name; empty if it tells of none. */
    public static Optional<Stretch> stretch(NightEvent event) {
        if (event instanceof SubTaken sub) {
            return Optional.of(new Stretch("Guiding during " + sub.name(), sub.exposed()));
        }
        return event instanceof GuidingProven proven
                ? Optional.of(new Stretch("Guiding, the minute of proof", proven.span()))
                : Optional.empty();
    }

    /** A stretch of guiding. */
    public record Stretch(String title, Interval span) {}

    /** When something struck the guide star in a stretch that is long enough to tell. */
    public static List<Excursion> excursions(List<GuideSample> samples) {
        return samples.size() < GuideLog.FEWEST
                ? List.of()
                : GuideAnalysis.excursions(GuideLog.of(samples, OptionalDouble.empty()));
    }

    /**
     * How right ascension swings at each period where nothing corrected it.
     *
     * @param spectrum period, s, and swing to either side, arcseconds
     */
    public static Plot.State periods(List<double[]> spectrum, String target) {
        return new Plot.State(
                spectrum.isEmpty()
                        ? "Some minutes unguided (E) show the gear's periods"
                        : "Right ascension left to itself, near " + target,
                "period, s",
                "swing to either side, arcseconds",
                List.of(new Curve("", spectrum, Ink.COOL, Style.LINE)),
                List.of(),
                true);
    }

    /** Share of subs that gear and axis let be round, by length. */
    public static Plot.State roundShares(Kit kit, Site site) {
        List<double[]> points = new ArrayList<>();
        for (double seconds = SHORTEST_UNGUIDED; seconds <= LONGEST_UNGUIDED; seconds += SHORTEST_UNGUIDED) {
            points.add(new double[] {seconds, 100 * Projects.roundShare(kit, site, RoundRecord.NONE, seconds)});
        }
        return new Plot.State(
                "Round subs without guiding, expected",
                "length of a sub, s",
                "% of the subs",
                List.of(new Curve("", points, Ink.GOOD, Style.LINE)),
                List.of(),
                true);
    }

    /** RMS of guiding sub by sub. */
    public static Plot.State guidingBySub(Moment moment) {
        List<double[]> points = new ArrayList<>();
        for (SubTaken e : moment.night().subs()) {
            points.add(new double[] {
                points.size() + 1.0, e.guiding().rmsTotalArcsec().orElse(Double.NaN)
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
        for (FrameSolved e : moment.night().all(FrameSolved.class)) {
            points.add(new double[] {points.size() + 1.0, Math.log10(Math.max(0.5, e.offsetArcsec()))});
        }
        return new Plot.State(
                "Distance from the middle, each solve",
                "solve",
                Plot.State.LOG_ARCSEC,
                List.of(new Curve("", points, Ink.ACCENT, Style.BOTH)),
                List.of(),
                false);
    }
}
