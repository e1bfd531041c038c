package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.device.Mount;
import app.ironside.document.NightFile;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.LengthsTried;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubTaken;
import app.ironside.judge.MoonCost;
import app.ironside.judge.SubLook;
import app.ironside.judge.SubLooks;
import app.ironside.kit.Exposure;
import app.ironside.plan.NightPlan;
import app.ironside.sky.Observer;
import app.ironside.star.TrailCause;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Words what the subs are like: light, stars, guiding, and why one is out. Of one night; not to be shared between threads. */
final class RunReckoner {
    private final NightFile file;
    private final NightPlan plan;
    private final ZoneId zone;
    private final SubLooks looks;

    /** By file: where the Moon stood is reckoned once for each sub. */
    private final Map<String, SubLook> looked = new HashMap<>();

    RunReckoner(NightFile file, NightPlan plan) {
        this.file = file;
        this.plan = plan;
        this.zone = file.site().zone();
        this.looks = new SubLooks(Observer.at(file.site()));
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<SubTaken> sub = moment.evidence(chosen, SubTaken.class);
        if (sub.isEmpty()) {
            return ReckoningState.waiting("No light yet.", "The first sub is the test, and it counts when it is good.");
        }
        SubTaken e = sub.get();
        String target = e.target();
        NightState night = moment.night();
        double light = night.lightSeconds(target);
        List<Row> rows = new ArrayList<>(List.of(
                new Row("kept", night.kept() + " of " + night.subs().size()),
                new Row("light on " + target, Words.span(Duration.ofSeconds(Math.round(light)))),
                new Row(
                        "star size",
                        e.measures().hfrPx().isPresent()
                                ? Words.format("%.2f px", e.measures().hfrPx().getAsDouble())
                                : "no stars"),
                new Row("stars", Words.format("%,d", e.measures().stars())),
                new Row("guiding", guiding(e)),
                new Row("sky over read noise", Words.format("%.1f ×", skyOverReadNoise(e))),
                new Row(
                        "altitude",
                        e.circumstances().altitudeDeg().isPresent()
                                ? Words.format(
                                        "%.0f°", e.circumstances().altitudeDeg().getAsDouble())
                                : "not known")));
        nextFlip(e, target)
                .ifPresent(flip -> rows.add(new Row(
                        "flip",
                        flip.isAfter(moment.time())
                                ? "about " + Words.clock(flip, zone) + ", in "
                                        + Words.span(Duration.between(moment.time(), flip))
                                : "due, after this sub")));
        e.circumstances().cooling().ifPresent(c -> rows.add(new Row("sensor", cooling(c))));
        night.last(AirMeasured.class)
                .ifPresent(a -> rows.add(new Row("air at " + Words.clock(a.time(), zone), a.words())));
        e.measures()
                .field()
                .ifPresent(f -> rows.add(new Row(
                        "longer than wide",
                        Words.format("%.0f %% at %.0f°", 100 * f.trailing(), f.trailingAngleDeg()))));
        moonCost(night, e).ifPresent(cost -> rows.add(new Row("Moon", cost.words())));
        if (!e.overruled().isEmpty()) {
            rows.add(new Row(
                    "gone on from",
                    e.overruled().stream()
                            .sorted()
                            .map(s -> s.title() + " not passed")
                            .collect(Collectors.joining(", "))));
        }
        boolean out = !e.kept();
        double ratio = skyOverReadNoise(e);
        Optional<TrailCause.Evidence> cause = trailing(night.subs(), target);
        boolean over = chosen.isEmpty() && night.ended();
        return new ReckoningState(
                over
                        ? night.kept() + " of " + night.subs().size() + " subs kept."
                        : (chosen.isPresent() ? "This sub is " : "The last sub is ") + (out ? "out." : "kept."),
                over
                        ? "The last one: " + e.verdict().reason() + "."
                        : out
                                ? "Reason: " + e.verdict().reason() + ". It is marked, never deleted."
                                : cause.isPresent()
                                        ? cause.get().sentence()
                                                + cause.get()
                                                        .at()
                                                        .map(t -> " Worst at " + Words.clock(t, zone) + ".")
                                                        .orElse("")
                                        : Words.format(
                                                "The sky's noise is %.1f times the read noise, so reading raises the noise by %.1f %%, which longer subs would save.",
                                                ratio, 100 * readCost(ratio)),
                !over && (out || cause.isPresent()),
                rows,
                chosen.filter(SubTaken.class::isInstance).isPresent() ? acts(e) : List.of(),
                "One sub's noise is √(sky + read²): with sky noise k times the read noise, reading raises it by √(1 + 1/k²) − 1"
                        + " (CCD equation, Howell 2006).",
                lengths(e, night));
    }

    /** What the Moon cost the series of a sub, where some of it was taken under it and some not. */
    private Optional<MoonCost> moonCost(NightState night, SubTaken sub) {
        String series = look(sub).series();
        return MoonCost.of(night.subs().stream()
                .filter(SubTaken::kept)
                .filter(s -> s.target().equals(sub.target()) && s.filter().equals(sub.filter()))
                .map(this::look)
                .filter(l -> l.series().equals(series))
                .toList());
    }

    private SubLook look(SubTaken sub) {
        return looked.computeIfAbsent(sub.file(), f -> looks.of(sub));
    }

    /** The length in use and others, each with what reading costs and what is lost with a sub, by how many were lost tonight. */
    private List<School> lengths(SubTaken sub, NightState night) {
        List<SubTaken> alike = night.subs().stream()
                .filter(s -> s.target().equals(sub.target()) && s.seconds() == sub.seconds())
                .toList();
        long lost = alike.stream().filter(s -> !s.kept()).count();
        String ofThese = Words.format("%d of %d were lost", lost, alike.size());
        Optional<LengthsTried> tried =
                night.last(LengthsTried.class).filter(t -> t.target().equals(sub.target()));
        return Stream.of(1.0, 2.0, 0.5)
                .map(times -> length(sub, times, ofThese, tried))
                .toList();
    }

    private static double readCost(double skyOverRead) {
        return Exposure.readNoiseCost(1, skyOverRead * skyOverRead, 1);
    }

    /** What stars of this length were like when lengths were tried. */
    private static String tried(LengthsTried t, double seconds) {
        return t.rungs().stream()
                .filter(r -> Math.abs(r.seconds() - seconds) < 0.5)
                .findFirst()
                .map(r -> r.eccentricity().isPresent()
                        ? Words.format(
                                " Tried: stars of %.2f px, eccentricity %.2f, %s.",
                                r.fwhmPx().orElse(0),
                                r.eccentricity().getAsDouble(),
                                LengthsTried.isRound(t.rungs(), r) ? "round" : "not round")
                        : " Tried: no stars.")
                .orElse("");
    }

    private static String cooling(SubCircumstances.Cooling c) {
        return Words.format("%.1f °C", c.sensorC())
                + (c.holds() ? "" : Words.format(", should be %.0f", c.wantedC()))
                + (c.power().isPresent()
                        ? Words.format(", cooler %.0f %%", 100 * c.power().getAsDouble())
                        : "");
    }

    /** The sky's share of the noise grows with the length, that of reading does not. */
    private School length(SubTaken sub, double times, String lost, Optional<LengthsTried> tried) {
        double seconds = sub.seconds() * times;
        boolean planned = plan.blocks().stream().anyMatch(b -> b.target().name().equals(sub.target()));
        String costs = Words.format(
                "Reading raises the noise by %.1f %%, a lost sub is %s of light.",
                100 * readCost(skyOverReadNoise(sub) * Math.sqrt(times)),
                Words.countdown(Duration.ofSeconds(Math.round(seconds))));
        return new School(
                Words.format("%.0f s", seconds),
                (times == 1 ? costs + " Here " + lost + "." : costs)
                        + tried.map(t -> tried(t, seconds)).orElse(""),
                times == 1,
                times != 1 && planned && !sub.endedEarly()
                        ? Optional.of(new Intent.SubLengthOf(sub.target(), seconds))
                        : Optional.empty());
    }

    /** What a person may say of a sub that they look at. */
    private static List<Action> acts(SubTaken sub) {
        List<Action> acts = new ArrayList<>();
        acts.add(new Action(
                "mark-sub",
                sub.kept() ? "Leave it out" : "Keep it",
                false,
                true,
                new Intent.MarkSub(sub, !sub.kept())));
        acts.add(new Action("cut-from", "Cut from here", false, true, new Intent.CutFrom(sub)));
        if (sub.verdict().by().isPresent()) {
            acts.add(new Action("take-back-marks", "Take back", false, true, new Intent.TakeBackMarks()));
        }
        return acts;
    }

    /** What the latest subs of a target on one side of the pier speak for, if their stars trail. */
    private Optional<TrailCause.Evidence> trailing(List<SubTaken> subs, String target) {
        Optional<Mount.PierSide> side =
                subs.get(subs.size() - 1).circumstances().pierSide();
        List<TrailCause.SubShape> shapes = subs.stream()
                .filter(s -> s.measures().field().isPresent()
                        && s.target().equals(target)
                        && s.circumstances().pierSide().equals(side))
                .map(s -> new TrailCause.SubShape(
                        s.exposed().from().plus(s.exposed().duration().dividedBy(2)),
                        s.measures().field().get().trailing(),
                        s.measures().field().get().trailingAngleDeg(),
                        s.measures().hfrPx().orElse(0),
                        s.circumstances().hourAngleDeg().orElse(0)))
                .toList();
        // A kit that tells of no gear error does not know its gear's period either.
        boolean known = file.kit().equipment().periodicErrorArcsec() > 0;
        OptionalDouble worm = known ? OptionalDouble.of(file.kit().equipment().wormSeconds()) : OptionalDouble.empty();
        return TrailCause.of(shapes, worm).stream().findFirst();
    }

    private double skyOverReadNoise(SubTaken sub) {
        double sky = Math.max(
                0,
                (sub.measures().backgroundAdu() - file.kit().sensor().offsetAdu())
                        * file.kit().sensor().gainElectronsPerAdu());
        return Math.max(0.1, Math.sqrt(sky) / Math.max(0.1, file.kit().sensor().readNoiseElectrons()));
    }

    /** The flip that is still to come: due as long as the telescope stands on the side before it. */
    private Optional<Instant> nextFlip(SubTaken sub, String target) {
        return plan.blocks().stream()
                .filter(b -> b.target().name().equals(target) && b.span().contains(sub.time()))
                .filter(b -> sub.circumstances()
                        .pierSide()
                        .filter(s -> s == Mount.PierSide.WEST)
                        .isPresent())
                .flatMap(b -> b.flip().stream())
                .findFirst();
    }

    private static String guiding(SubTaken sub) {
        int lost = sub.guiding().lost();
        String times = lost > 0 ? Words.format(", star lost %d times", lost) : "";
        return sub.guiding().rmsTotalArcsec().isPresent()
                ? Words.format("%.2f″", sub.guiding().rmsTotalArcsec().getAsDouble()) + times
                : lost > 0 ? "star not seen" : "none";
    }
}
