package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.kit.Sampling;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.ReadyList;
import app.ironside.night.ReadyStep;
import app.ironside.night.Stage;
import app.ironside.plan.NightPlan;
import app.ironside.point.FramingMatch;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words the verdict of each station from the night up to a moment. Pure. */
public final class Reckoner {
    private final NightFile file;
    private final ZoneId zone;
    private final PolarReckoner polar;
    private final PointReckoner point;
    private final RunReckoner run;

    /**
     * @param earlier how targets were framed on earlier nights
     */
    public Reckoner(NightFile file, NightPlan plan, Map<String, FramingMatch.Wanted> earlier) {
        this.file = file;
        this.zone = file.site().zone();
        this.polar = new PolarReckoner(file, plan.times().darkHours());
        this.point = new PointReckoner(file, earlier);
        this.run = new RunReckoner(file, plan);
    }

    /** The reckoning of a station. */
    public ReckoningState of(Stage stage, Moment moment, Optional<NightEvent> chosen) {
        return switch (stage) {
            case PLAN -> throw new IllegalArgumentException("the plan reckons for itself");
            case READY -> ready(moment);
            case POLAR -> polar.of(moment, chosen);
            case POINT -> point.of(moment, chosen);
            case FOCUS -> focus(moment, chosen);
            case GUIDE -> guide(moment, chosen);
            case RUN -> run.of(moment, chosen);
            case CALIBRATE -> calibrate(moment);
            case STACK -> stack(moment, chosen);
            case LOGBOOK -> logbook(moment);
        };
    }

    private ReckoningState ready(Moment moment) {
        List<NightEvent> steps = moment.of(EventKind.DEVICE);
        if (steps.isEmpty()) {
            return ReckoningState.waiting("Not begun.", "Each device is brought up alone and proven before the next.");
        }
        // A step that is told again counts once, as it stands now.
        Map<String, NightEvent> last = new LinkedHashMap<>();
        steps.forEach(e -> last.put(key(e), e));
        List<ReadyStep> list = ReadyList.of(file.site(), file.kit(), file.program(), file.lessons())
                .steps();
        List<String> open = list.stream()
                .filter(s -> !last.containsKey(s.subject() + "\n" + s.what()))
                .map(ReadyStep::subject)
                .distinct()
                .toList();
        List<NightEvent> failed =
                last.values().stream().filter(e -> !e.isTrue("proven")).toList();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("proven", (last.size() - failed.size()) + " of " + (last.size() + open.size())));
        failed.forEach(e -> rows.add(new Row(e.text("device").orElse(""), "not proven")));
        if (!open.isEmpty()) {
            rows.add(new Row("open", String.join(", ", open)));
        }
        moment.lastGate(Stage.READY).ifPresent(g -> rows.add(new Row("done at", Words.clock(g.time(), zone))));
        String measured = Stream.of("mount", "camera", "cooler")
                .flatMap(device -> last.values().stream()
                        .filter(e -> e.text("device").orElse("").equals(device) && e.isTrue("proven"))
                        .map(e -> device + " " + e.text("measured").orElse("")))
                .collect(Collectors.joining("; "));
        return new ReckoningState(
                !failed.isEmpty()
                        ? failed.size() + " not proven."
                        : open.isEmpty() ? "Every step is proven." : open.size() + " still open.",
                !failed.isEmpty()
                        ? "Mend what is marked, then go on."
                        : measured.isEmpty() ? "The first steps are for hands." : "Measured: " + measured + ".",
                !failed.isEmpty(),
                rows,
                "",
                List.of(
                        new School("One at a time, each proven", "A fault has one possible cause.", true),
                        new School("All at once", "Quicker when nothing ever fails.", false)));
    }

    private static String key(NightEvent step) {
        return step.text("device").orElse("") + "\n" + step.text("step").orElse("");
    }

    private ReckoningState focus(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> run = moment.evidence(chosen, EventKind.FOCUS);
        if (run.isEmpty()) {
            return ReckoningState.waiting("Not focused yet.", "A coarse sweep comes first: solving needs star images.");
        }
        NightEvent e = run.get();
        boolean accepted = e.isTrue("accepted");
        double zone1 = Sampling.criticalFocusUm(file.kit().optics().focalRatio())
                / file.kit().focuser().stepUm();
        return new ReckoningState(
                accepted
                        ? Words.format(
                                "Focus holds at %.0f.", e.number("bestPosition").orElse(0))
                        : "Curve not believed.",
                e.text("reason").orElse(""),
                !accepted,
                List.of(
                        new Row(
                                "star size",
                                Words.format("%.2f px", e.number("bestSize").orElse(0))),
                        new Row(
                                "position",
                                Words.format(
                                        "%.0f ± %.1f",
                                        e.number("bestPosition").orElse(0),
                                        e.number("positionSigma").orElse(0))),
                        new Row("critical zone", Words.format("± %.0f steps", zone1)),
                        new Row("R²", Words.format("%.4f", e.number("rSquared").orElse(0))),
                        new Row("filter", e.text("filter").orElse("")),
                        new Row(
                                "tube",
                                Words.format("%.1f °C", e.number("temperatureC").orElse(0))),
                        new Row(
                                "next",
                                Words.format("after %.1f °C", file.program().refocusAfterC())),
                        new Row(
                                "took",
                                Words.format("%.0f s", e.number("seconds").orElse(0)))),
                "Size² = a² + b²(x − c)²: a cone of light with a smallest disc. The zone is 2λN² on either side, a quarter "
                        + "wave (Born and Wolf, 8.8).",
                List.of(
                        new School(
                                "By temperature",
                                Words.format(
                                        "Refocus when the tube changed by %.1f °C.",
                                        file.program().refocusAfterC()),
                                true),
                        new School("Every N subs", "Simple; pays for runs that find nothing.", false),
                        new School("When stars grow", "No idle runs; soft subs come first.", false)));
    }

    private ReckoningState guide(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> latest = chosen.filter(
                        e -> e.kind() == EventKind.SUB || e.kind() == EventKind.GUIDE_SETTLED)
                .or(() -> moment.events().stream()
                        .filter(e -> e.kind() == EventKind.SUB || e.kind() == EventKind.GUIDE_SETTLED)
                        .reduce((a, b) -> b));
        if (latest.isEmpty()) {
            return ReckoningState.waiting("Not guiding yet.", "The guider calibrates on the first target.");
        }
        NightEvent e = latest.get();
        boolean sub = e.kind() == EventKind.SUB;
        double half = file.kit().arcsecPerPixel() / 2;
        if (e.number(sub ? "guideRmsRaArcsec" : "rmsRaArcsec").isEmpty()) {
            return new ReckoningState(
                    "The guide star was not seen.",
                    "Not once in this " + (sub ? "sub" : "minute of proof") + ": most often this is cloud.",
                    true,
                    List.of(new Row(
                            "exposures without it",
                            Words.format("%.0f", e.number("guideLost").orElse(0)))),
                    "",
                    List.of());
        }
        double ra = e.number(sub ? "guideRmsRaArcsec" : "rmsRaArcsec").orElse(0);
        double dec = e.number(sub ? "guideRmsDecArcsec" : "rmsDecArcsec").orElse(0);
        double total = Math.hypot(ra, dec);
        boolean good = total <= half;
        List<Row> rows = new ArrayList<>(List.of(
                new Row("right ascension", Words.format("%.2f″", ra)),
                new Row("declination", Words.format("%.2f″", dec)),
                new Row("in pixels", Words.format("%.2f", total / file.kit().arcsecPerPixel()))));
        e.number(sub ? "guideP80Arcsec" : "p80Arcsec")
                .ifPresent(p -> rows.add(new Row("four fifths within", Words.format("%.2f″", p))));
        double lost = e.number("guideLost").orElse(0);
        if (lost > 0) {
            rows.add(new Row("exposures without the star", Words.format("%.0f", lost)));
        }
        rows.add(new Row(
                "dithers", Words.format("%d", moment.of(EventKind.DITHER).size())));
        return new ReckoningState(
                Words.format("%.2f″ RMS%s", total, good ? ": invisible." : ": it shows."),
                Words.format("Half a pixel of the main camera is %.2f″.", half),
                !good,
                rows,
                "RMS about the lock position, both axes added in squares, of the exposures that showed the star. A figure without its "
                        + "statistic says nothing: RMS and the 80th percentile (four fifths within) are not comparable.",
                List.of(
                        new School("RMS", "Comparable between nights and with the pixel.", true),
                        new School("80th percentile", "Less moved by one gust; shown beside it.", false)));
    }

    private ReckoningState calibrate(Moment moment) {
        List<NightEvent> masters = moment.of(EventKind.MASTER);
        if (moment.of(EventKind.CALIBRATION).isEmpty()) {
            return ReckoningState.waiting(
                    "After the last light.", "Flats, bias and darks follow while the sensor is still cold.");
        }
        Optional<NightEvent> gate = moment.lastGate(Stage.CALIBRATE);
        List<Row> rows = masters.stream()
                .map(m -> new Row(
                        m.text("file")
                                .orElse("")
                                .replaceFirst(".*/", "")
                                .replace(".fits", "")
                                .replace('_', ' '),
                        Words.format("%.0f frames", m.number("frames").orElse(0))))
                .toList();
        return new ReckoningState(
                masters.size() + (masters.size() == 1 ? " master made." : " masters made."),
                darks(moment),
                gate.filter(g -> !g.isTrue("passed")).isPresent(),
                rows,
                "Mean of each pixel over the set without values beyond 3.5 sigma, or of all where there are fewer than five. A flat is "
                        + "divided by its own level first, so that a fading panel does not matter.",
                List.of(
                        new School("Matched darks", "The glow of the amplifier is not linear in time.", true),
                        new School(
                                "Scaled darks",
                                "One set for all exposures, on sensors without glow; not done here.",
                                false)));
    }

    /** What the darks were taken at, against the lights they are for. */
    private String darks(Moment moment) {
        List<NightEvent> taken = moment.of(EventKind.CALIBRATION).stream()
                .filter(e -> e.text("set").orElse("").startsWith("dark")
                        && e.number("sensorC").isPresent())
                .toList();
        if (taken.isEmpty()) {
            return moment.lastGate(Stage.CALIBRATE)
                    .map(NightEvent::text)
                    .orElse("Flats and bias first; darks follow, of the lights' own exposures.");
        }
        double coldest = taken.stream()
                .mapToDouble(e -> e.number("sensorC").orElse(0))
                .min()
                .orElse(0);
        double warmest = taken.stream()
                .mapToDouble(e -> e.number("sensorC").orElse(0))
                .max()
                .orElse(0);
        return Words.format(
                "Darks of the lights' own exposures, at %.1f to %.1f °C%s; none is scaled.",
                coldest,
                warmest,
                file.kit().sensor().cooled()
                        ? Words.format(" (set point %.0f)", file.program().coolToC())
                        : ": an uncooled sensor's lights were warmer or colder than that");
    }

    private static ReckoningState stack(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> stack = moment.evidence(chosen, EventKind.STACK);
        if (stack.isEmpty()) {
            return ReckoningState.waiting("After the calibration.", "Each set is stacked with its own masters.");
        }
        NightEvent e = stack.get();
        double kept = e.number("kept").orElse(0);
        double partial = e.number("partial").orElse(0);
        List<Row> rows = new ArrayList<>(List.of(
                new Row(
                        "light",
                        Words.span(Duration.ofSeconds(
                                Math.round(e.number("seconds").orElse(0))))),
                new Row(
                        "noise of a sub",
                        Words.format("%.2f ADU", e.number("subNoiseAdu").orElse(0))),
                new Row(
                        "of the stack, pixel to pixel",
                        Words.format("%.2f ADU", e.number("noiseAdu").orElse(0))),
                new Row("star size", Words.format("%.2f px", e.number("hfrPx").orElse(0))),
                new Row(
                        "in the subs",
                        Words.format("%.2f px", e.number("subHfrPx").orElse(0))),
                new Row(
                        "values left out",
                        Words.format(
                                "%.2f %%",
                                100 * e.number("rejectedPixelFraction").orElse(0)))));
        if (partial > 0) {
            rows.add(new Row("not stacked", Words.format("%.0f, read out in the middle only", partial)));
        }
        boolean measured = e.number("snrGainPossible").isPresent();
        String of = Words.format(
                "%.0f subs of %s in %s",
                kept, e.text("target").orElse(""), e.text("filter").orElse(""));
        return new ReckoningState(
                measured
                        ? Words.format(
                                "%.1f times better than one sub.",
                                e.number("snrGain").orElse(0))
                        : Words.format("%.0f subs stacked.", kept),
                measured
                        ? Words.format(
                                "%s; %.2f was possible with them. The measure is good to ± %.2f.",
                                of,
                                e.number("snrGainPossible").orElse(0),
                                e.number("snrGainError").orElse(0))
                        : of + "; what was gained was not measured in this night's time.",
                false,
                rows,
                "Aligned by stars, resampled with Lanczos-3, levelled to the reference's background, mean without values beyond "
                        + "3 sigma. Gain: the stars' light over the noise of blocks of 4 pixels, in the stack and in the median sub. "
                        + "From pixel to pixel the noise falls further, since resampling smooths: that is no gain. Possible: the root "
                        + "of the sum of each sub's (light / noise)².",
                List.of());
    }

    private static ReckoningState logbook(Moment moment) {
        Optional<NightEvent> end = moment.last(EventKind.NIGHT_ENDED);
        long faults = moment.of(EventKind.FAULT).size();
        return new ReckoningState(
                end.isPresent() ? moment.kept() + " of " + moment.subs() + " subs kept." : "The night is under way.",
                end.map(NightEvent::text).orElse("Everything that happens is written as it happens."),
                false,
                List.of(
                        new Row("events", Words.format("%d", moment.events().size())),
                        new Row(
                                "focus runs",
                                Words.format("%d", moment.of(EventKind.FOCUS).size())),
                        new Row(
                                "flips",
                                Words.format("%d", moment.of(EventKind.FLIP).size())),
                        new Row("faults", Words.format("%d", faults))),
                "",
                List.of());
    }
}
