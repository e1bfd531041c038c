package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.kit.Correction;
import app.ironside.kit.PolarTolerance;
import app.ironside.kit.Sampling;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.Stage;
import app.ironside.plan.NightPlan;
import app.ironside.point.FramingMatch;
import app.ironside.polar.PolarReticle;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.TrailCause;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/** Words the verdict of each station from the night up to a moment. Pure. */
public final class Reckoner {
    private static final double WORTH_TURNING_DEG = 1;

    private final NightFile file;
    private final NightPlan plan;
    private final ZoneId zone;
    private final PolarReticle reticle;
    private final double dark;
    private final Map<String, FramingMatch.Wanted> earlier;

    /**
     * @param stars for the reticle of a polar scope
     * @param earlier how targets were framed on earlier nights
     */
    public Reckoner(NightFile file, NightPlan plan, StarCatalogue stars, Map<String, FramingMatch.Wanted> earlier) {
        this.file = file;
        this.plan = plan;
        this.zone = file.site().zone();
        this.reticle = new PolarReticle(Observer.at(file.site()), stars);
        this.dark = plan.times().darkHours();
        this.earlier = Map.copyOf(earlier);
    }

    /** The reckoning of a station. */
    public ReckoningState of(Stage stage, Moment moment, Optional<NightEvent> chosen) {
        return switch (stage) {
            case PLAN -> throw new IllegalArgumentException("the plan reckons for itself");
            case READY -> ready(moment);
            case POLAR -> polar(moment, chosen);
            case POINT -> point(moment, chosen);
            case FOCUS -> focus(moment, chosen);
            case GUIDE -> guide(moment, chosen);
            case RUN -> run(moment, chosen);
            case CALIBRATE -> calibrate(moment);
            case STACK -> stack(moment, chosen);
            case LOGBOOK -> logbook(moment);
        };
    }

    private static Optional<NightEvent> evidence(Moment moment, Optional<NightEvent> chosen, EventKind kind) {
        return chosen.filter(e -> e.kind() == kind).or(() -> moment.last(kind));
    }

    private ReckoningState ready(Moment moment) {
        List<NightEvent> steps = moment.of(EventKind.DEVICE);
        if (steps.isEmpty()) {
            return ReckoningState.waiting("Not begun.", "Each device is brought up alone and proven before the next.");
        }
        long failed = steps.stream().filter(e -> !e.isTrue("proven")).count();
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("proven", (steps.size() - failed) + " of " + steps.size()));
        steps.stream()
                .filter(e -> !e.isTrue("proven"))
                .forEach(e -> rows.add(new Row(e.text("device").orElse(""), "not proven")));
        moment.lastGate(Stage.READY).ifPresent(g -> rows.add(new Row("done at", Words.clock(g.time(), zone))));
        return new ReckoningState(
                failed == 0 ? "Every device is proven." : failed + " not proven.",
                failed == 0
                        ? "A commanded motion was seen, frames arrive, the sensor is cold."
                        : "Mend what is marked, then go on.",
                failed > 0,
                rows,
                "",
                List.of(
                        new School("One at a time, each proven", "A fault has one possible cause.", true),
                        new School("All at once", "Quicker when nothing ever fails.", false)));
    }

    private ReckoningState polar(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> measured = evidence(moment, chosen, EventKind.POLAR);
        double sub = file.program().longestSubSeconds();
        if (measured.isEmpty()) {
            return ReckoningState.waiting(
                    "Not measured yet.",
                    "Three exposures, turned about the right-ascension axis, show where it points.");
        }
        NightEvent e = measured.get();
        double total = e.number("totalErrorArcmin").orElse(0);
        double altitude = e.number("altitudeErrorArcmin").orElse(0);
        double azimuth = e.number("azimuthErrorArcmin").orElse(0);
        double limit = moment.lastGate(Stage.POLAR)
                .flatMap(g -> g.number("limit").stream().boxed().findFirst())
                .orElse(PolarTolerance.limitArcmin(file.kit(), sub, 60));
        boolean good = total <= limit;
        String verdict = good
                ? Words.format("%.2f′ off: good enough.", total)
                : (Math.abs(altitude) > Math.abs(azimuth)
                        ? (altitude > 0 ? "Lower the axis." : "Raise the axis.")
                        : (azimuth > 0 ? "Move the axis west." : "Move the axis east."));
        return new ReckoningState(
                verdict,
                good
                        ? "More turning would not show in the picture."
                        : Words.format("%.2f′ from the pole; your subs allow %.2f′.", total, limit),
                !good,
                List.of(
                        new Row(
                                "altitude",
                                Words.format("%.2f′ %s", Math.abs(altitude), altitude > 0 ? "too high" : "too low")),
                        new Row(
                                "azimuth",
                                Words.format(
                                        "%.2f′ %s", Math.abs(azimuth), azimuth > 0 ? "too far east" : "too far west")),
                        new Row(
                                "uncertainty",
                                Words.format(
                                        "± %.2f′", e.number("uncertaintyArcmin").orElse(0))),
                        new Row("limit for your subs", Words.format("%.2f′", limit)),
                        new Row(
                                "knobs",
                                Words.format(
                                        "altitude %+.2f, azimuth %+.2f turn",
                                        e.number("altitudeTurns").orElse(0),
                                        e.number("azimuthTurns").orElse(0))),
                        new Row(
                                "base tilted by about",
                                Words.format("%.0f°", e.number("tiltDeg").orElse(0))),
                        new Row(
                                "drift in a sub",
                                Words.format(
                                        "%.2f″, half a pixel is %.2f″",
                                        PolarTolerance.driftArcsecPerMinute(total) * sub / 60,
                                        file.kit().arcsecPerPixel() / 2)),
                        new Row(
                                "drift in the night",
                                Words.format("%.1f′ unguided", PolarTolerance.driftArcsecPerMinute(total) * dark)),
                        new Row("turn at the corner, a sub", Words.format("%.2f px", cornerTurnPx(total, sub))),
                        new Row("pole star in the reticle", reticle(e.time()))),
                Words.format(
                        "Worst drift is 0.26″ a minute for each arcminute of error. In a sub of %.0f s it may reach half a "
                                + "pixel, and the turn of the field half a pixel at the corner (Hook 1989). Guiding takes the drift "
                                + "out, not the turn.",
                        sub),
                List.of(
                        new School("Images", "2 min, then 1 min for each turn of the knobs. Needs focus first.", true),
                        new School("Reticle, then images", "3 min more; the first frames are nearer.", false),
                        new School("Reticle alone", "3 min, no computer; 5′ to 10′ is usual.", false),
                        new School("Drift", "20 min or more; works with the pole blocked.", false)));
    }

    private double cornerTurnPx(double errorArcmin, double seconds) {
        double declination = file.program().targets().stream()
                .mapToDouble(t -> Math.abs(t.position().decDeg()))
                .max()
                .orElse(0);
        double corner =
                Math.hypot(file.kit().sensor().widthPx(), file.kit().sensor().heightPx()) / 2;
        return corner
                * Math.toRadians(PolarTolerance.fieldRotationDeg(errorArcmin, Math.min(80, declination), seconds));
    }

    private String reticle(Instant time) {
        return reticle.at(time, false).stream()
                .findFirst()
                .map(s -> Words.format("%s o'clock, %.0f′ off the cross", s.clock(), s.distanceArcmin()))
                .orElse("");
    }

    private ReckoningState point(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> solved = evidence(moment, chosen, EventKind.SOLVE);
        if (solved.isEmpty()) {
            return ReckoningState.waiting(
                    "Nothing to point at yet.", "The first frame of a target is solved as it arrives.");
        }
        NightEvent e = solved.get();
        double offset = e.number("offsetArcsec").orElse(0);
        boolean centred = offset <= file.program().centreWithinArcsec();
        String target = e.text("target").orElse("The target");
        Optional<String> turn = centred ? turnCamera(e, target) : Optional.empty();
        boolean told = file.kit().mount().correction().orElse(Correction.SYNC) == Correction.SYNC;
        return new ReckoningState(
                centred ? target + " is centred." : Words.format("%s is %.1f′ off.", target, offset / 60),
                turn.orElse(
                        centred
                                ? Words.format(
                                        "%.0f″ from the middle; %.0f″ are allowed.",
                                        offset, file.program().centreWithinArcsec())
                                : told
                                        ? "The mount is told the truth and slews again."
                                        : "The mount is asked for a place shifted by what it missed."),
                turn.isPresent(),
                List.of(
                        new Row(
                                "middle of frame",
                                Words.place(
                                        e.number("raDeg").orElse(0),
                                        e.number("decDeg").orElse(0))),
                        new Row("off", Words.format("%.0f″", offset)),
                        new Row("camera angle", cameraAngle(e, target)),
                        new Row(
                                "scale",
                                Words.format(
                                        "%.3f″ a pixel",
                                        e.number("scaleArcsecPerPixel").orElse(0))),
                        new Row(
                                "stars matched",
                                Words.format("%.0f", e.number("matchedStars").orElse(0))),
                        new Row(
                                "residual",
                                Words.format("%.2f″", e.number("rmsArcsec").orElse(0))),
                        new Row(
                                "by hand",
                                centred ? "nothing" : e.text("byHand").orElse("")),
                        new Row("as on an earlier night", asBefore(e, target))),
                Words.format(
                        "Patterns of four stars are looked up in the catalogue. The odds that these matches are chance are "
                                + "1 in 10 to the %.0f; worse than 1 in a billion is refused.",
                        -e.number("log10FalseOdds").orElse(0)),
                List.of());
    }

    /** Whether the frame is that of an earlier night. */
    private String asBefore(NightEvent e, String target) {
        return Optional.ofNullable(earlier.get(target))
                .map(wanted -> match(e, wanted))
                .map(m -> m.same()
                        ? Words.format("yes, %.1f° and %.0f″ off", Math.abs(m.turnDeg()), m.offsetArcsec())
                        : m.sentence())
                .orElse("first night");
    }

    /** The camera's angle, and what to do where the plan wants another. */
    private String cameraAngle(NightEvent e, String target) {
        double angle = e.number("rotationDeg").orElse(0);
        return planned(target)
                .filter(m -> Math.abs(match(e, m).turnDeg()) > WORTH_TURNING_DEG)
                .map(m -> Words.format("%.1f°, the plan has %.0f°", angle, m.angleDeg()))
                .orElse(Words.format("%.1f°", angle));
    }

    /** What the plan wants to be done to the camera, in a sentence; empty if it stands as planned or nothing is planned. */
    private Optional<String> turnCamera(NightEvent e, String target) {
        return planned(target)
                .map(wanted -> match(e, wanted))
                .filter(m -> !m.same() && Math.abs(m.turnDeg()) > WORTH_TURNING_DEG)
                .map(FramingMatch::sentence);
    }

    private Optional<FramingMatch.Wanted> planned(String target) {
        return file.program().targets().stream()
                .filter(t -> t.name().equals(target) && t.angleDeg().isPresent())
                .map(t -> new FramingMatch.Wanted(t.position(), t.angleDeg().orElseThrow(), FramingMatch.USUAL_CROP))
                .findFirst();
    }

    private FramingMatch match(NightEvent e, FramingMatch.Wanted wanted) {
        Equatorial centre = new Equatorial(
                e.number("raDeg").orElse(wanted.centre().raDeg()),
                e.number("decDeg").orElse(wanted.centre().decDeg()));
        return FramingMatch.of(
                centre,
                e.number("rotationDeg").orElse(0),
                file.kit().fieldWidthDeg(),
                file.kit().fieldHeightDeg(),
                wanted);
    }

    private ReckoningState focus(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> run = evidence(moment, chosen, EventKind.FOCUS);
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
        double ra = e.number(sub ? "guideRmsRaArcsec" : "rmsRaArcsec").orElse(0);
        double dec = e.number(sub ? "guideRmsDecArcsec" : "rmsDecArcsec").orElse(0);
        double total = Math.hypot(ra, dec);
        double half = file.kit().arcsecPerPixel() / 2;
        boolean good = total <= half && total > 0;
        return new ReckoningState(
                Words.format("%.2f″ RMS%s", total, good ? ": invisible." : ": it shows."),
                Words.format("Half a pixel of the main camera is %.2f″.", half),
                !good,
                List.of(
                        new Row("right ascension", Words.format("%.2f″", ra)),
                        new Row("declination", Words.format("%.2f″", dec)),
                        new Row(
                                "in pixels",
                                Words.format("%.2f", total / file.kit().arcsecPerPixel())),
                        new Row(
                                "dithers",
                                Words.format("%d", moment.of(EventKind.DITHER).size()))),
                "RMS about the lock position, both axes added in squares. A figure without its statistic says nothing: RMS and "
                        + "the 80th percentile are not comparable.",
                List.of(
                        new School("RMS", "Comparable between nights and with the pixel.", true),
                        new School("80th percentile", "Less moved by one gust.", false)));
    }

    private ReckoningState run(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> sub = evidence(moment, chosen, EventKind.SUB);
        if (sub.isEmpty()) {
            return ReckoningState.waiting("No light yet.", "The first sub is the test, and it counts when it is good.");
        }
        NightEvent e = sub.get();
        String target = e.text("target").orElse("");
        List<NightEvent> subs = moment.of(EventKind.SUB);
        double light = subs.stream()
                .filter(s -> s.isTrue("keep") && s.text("target").orElse("").equals(target))
                .mapToDouble(s -> s.number("seconds").orElse(0))
                .sum();
        List<Row> rows = new ArrayList<>(List.of(
                new Row("kept", moment.kept() + " of " + moment.subs()),
                new Row("light on " + target, Words.span(Duration.ofSeconds(Math.round(light)))),
                new Row("star size", Words.format("%.2f px", e.number("hfrPx").orElse(0))),
                new Row("stars", Words.format("%,.0f", e.number("stars").orElse(0))),
                new Row(
                        "guiding",
                        Words.format("%.2f″", e.number("guideRmsArcsec").orElse(0))),
                new Row("sky over read noise", Words.format("%.1f ×", skyOverReadNoise(e))),
                new Row(
                        "altitude",
                        Words.format("%.0f°", e.number("altitudeDeg").orElse(0)))));
        nextFlip(moment.time(), target)
                .ifPresent(flip -> rows.add(new Row(
                        "flip",
                        Words.clock(flip, zone) + ", in " + Words.span(Duration.between(moment.time(), flip)))));
        if (e.number("trailing").isPresent()) {
            rows.add(new Row(
                    "longer than wide",
                    Words.format(
                            "%.0f %% at %.0f°",
                            100 * e.number("trailing").orElse(0),
                            e.number("trailingAngleDeg").orElse(0))));
        }
        boolean out = !e.isTrue("keep");
        double ratio = skyOverReadNoise(e);
        Optional<TrailCause.Evidence> cause = trailing(subs, target);
        return new ReckoningState(
                out
                        ? "This sub is out."
                        : Words.format("Go on with %.0f s.", e.number("seconds").orElse(0)),
                out
                        ? "Reason: " + e.text("reason").orElse("") + ". It is marked, never deleted."
                        : cause.isPresent()
                                ? cause.get().sentence()
                                : Words.format(
                                        "The sky's noise is %.1f times the read noise, so longer subs would gain %.1f %%.",
                                        ratio, 100 * (Math.sqrt(1 + 1 / (ratio * ratio)) - 1)),
                out || cause.isPresent(),
                rows,
                "One sub's noise is √(sky + read²). With sky noise k times the read noise, perfect reading would lower it by "
                        + "1 − 1/√(1 + 1/k²) (CCD equation, Howell 2006).",
                List.of(
                        new School(
                                Words.format("%.0f s", e.number("seconds").orElse(0)),
                                "A gust costs one short sub.",
                                true),
                        new School(
                                Words.format("%.0f s", e.number("seconds").orElse(0) * 2),
                                "Half the files, a little less read noise; a gust costs twice as much.",
                                false)));
    }

    /** What the latest subs of a target on one side of the pier speak for, if their stars trail. */
    private static Optional<TrailCause.Evidence> trailing(List<NightEvent> subs, String target) {
        String side = subs.get(subs.size() - 1).text("pierSide").orElse("");
        List<TrailCause.SubShape> shapes = subs.stream()
                .filter(s -> s.number("trailing").isPresent()
                        && s.text("target").orElse("").equals(target)
                        && s.text("pierSide").orElse("").equals(side))
                .map(s -> new TrailCause.SubShape(
                        s.time(),
                        s.number("trailing").orElse(0),
                        s.number("trailingAngleDeg").orElse(0),
                        s.number("hfrPx").orElse(0),
                        s.number("hourAngleDeg").orElse(0)))
                .toList();
        return TrailCause.of(shapes, OptionalDouble.empty()).stream().findFirst();
    }

    private double skyOverReadNoise(NightEvent sub) {
        double sky = Math.max(
                0,
                (sub.number("backgroundAdu").orElse(0) - file.kit().sensor().offsetAdu())
                        * file.kit().sensor().gainElectronsPerAdu());
        return Math.max(0.1, Math.sqrt(sky) / Math.max(0.1, file.kit().sensor().readNoiseElectrons()));
    }

    private Optional<Instant> nextFlip(Instant now, String target) {
        return plan.blocks().stream()
                .filter(b -> b.target().name().equals(target))
                .flatMap(b -> b.flip().stream())
                .filter(f -> f.isAfter(now))
                .findFirst();
    }

    private static ReckoningState calibrate(Moment moment) {
        List<NightEvent> masters = moment.of(EventKind.MASTER);
        if (moment.of(EventKind.CALIBRATION).isEmpty()) {
            return ReckoningState.waiting(
                    "After the last light.", "Flats, bias and darks follow while the sensor is still cold.");
        }
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
                "Darks have the lights' own exposure and temperature; none is scaled.",
                false,
                rows,
                "Mean of each pixel over the set without values beyond 3.5 sigma. A flat is divided by its own level first, so "
                        + "that a fading panel does not matter.",
                List.of(
                        new School("Matched darks", "The glow of the amplifier is not linear in time.", true),
                        new School("Scaled darks", "One set for all exposures, on sensors without glow.", false)));
    }

    private static ReckoningState stack(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> stack = evidence(moment, chosen, EventKind.STACK);
        if (stack.isEmpty()) {
            return ReckoningState.waiting("After the calibration.", "Each set is stacked with its own masters.");
        }
        NightEvent e = stack.get();
        double kept = e.number("kept").orElse(0);
        double gain = e.number("snrGain").orElse(0);
        return new ReckoningState(
                Words.format("%.1f times quieter.", gain),
                Words.format(
                        "%.0f subs of %s in %s; √%.0f is %.1f.",
                        kept, e.text("target").orElse(""), e.text("filter").orElse(""), kept, Math.sqrt(kept)),
                false,
                List.of(
                        new Row(
                                "light",
                                Words.span(Duration.ofSeconds(
                                        Math.round(e.number("seconds").orElse(0))))),
                        new Row(
                                "noise of a sub",
                                Words.format("%.2f ADU", e.number("subNoiseAdu").orElse(0))),
                        new Row(
                                "noise of the stack",
                                Words.format("%.2f ADU", e.number("noiseAdu").orElse(0))),
                        new Row(
                                "star size",
                                Words.format("%.2f px", e.number("hfrPx").orElse(0))),
                        new Row(
                                "in the subs",
                                Words.format("%.2f px", e.number("subHfrPx").orElse(0))),
                        new Row(
                                "values left out",
                                Words.format(
                                        "%.2f %%",
                                        100 * e.number("rejectedPixelFraction").orElse(0)))),
                "Aligned by stars, resampled with Lanczos-3, levelled to the reference's background, mean without values beyond "
                        + "3 sigma. Resampling smooths a little, so the gain may exceed √N.",
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
