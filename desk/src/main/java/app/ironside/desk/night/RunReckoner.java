package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.plan.NightPlan;
import app.ironside.star.TrailCause;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/** Words what the subs are like: light, stars, guiding, and why one is out. Pure. */
final class RunReckoner {
    private final NightFile file;
    private final NightPlan plan;
    private final ZoneId zone;

    RunReckoner(NightFile file, NightPlan plan) {
        this.file = file;
        this.plan = plan;
        this.zone = file.site().zone();
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<NightEvent> sub = moment.evidence(chosen, EventKind.SUB);
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
                new Row("guiding", guiding(e)),
                new Row("sky over read noise", Words.format("%.1f ×", skyOverReadNoise(e))),
                new Row(
                        "altitude",
                        Words.format("%.0f°", e.number("altitudeDeg").orElse(0)))));
        nextFlip(e, target)
                .ifPresent(flip -> rows.add(new Row(
                        "flip",
                        flip.isAfter(moment.time())
                                ? "about " + Words.clock(flip, zone) + ", in "
                                        + Words.span(Duration.between(moment.time(), flip))
                                : "due, after this sub")));
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
        boolean over = chosen.isEmpty() && moment.last(EventKind.NIGHT_ENDED).isPresent();
        return new ReckoningState(
                over
                        ? moment.kept() + " of " + moment.subs() + " subs kept."
                        : out
                                ? "This sub is out."
                                : Words.format(
                                        "Go on with %.0f s.",
                                        e.number("seconds").orElse(0)),
                over
                        ? "The last one: " + e.text("reason").orElse("") + "."
                        : out
                                ? "Reason: " + e.text("reason").orElse("") + ". It is marked, never deleted."
                                : cause.isPresent()
                                        ? cause.get().sentence()
                                                + cause.get()
                                                        .at()
                                                        .map(t -> " Worst at " + Words.clock(t, zone) + ".")
                                                        .orElse("")
                                        : Words.format(
                                                "The sky's noise is %.1f times the read noise, so reading costs %.1f %% of the noise, which longer subs would save.",
                                                ratio, 100 * (1 - 1 / Math.sqrt(1 + 1 / (ratio * ratio)))),
                !over && (out || cause.isPresent()),
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
    private Optional<TrailCause.Evidence> trailing(List<NightEvent> subs, String target) {
        String side = subs.get(subs.size() - 1).text("pierSide").orElse("");
        List<TrailCause.SubShape> shapes = subs.stream()
                .filter(s -> s.number("trailing").isPresent()
                        && s.text("target").orElse("").equals(target)
                        && s.text("pierSide").orElse("").equals(side))
                .map(s -> new TrailCause.SubShape(
                        s.time()
                                .minusMillis(
                                        Math.round(500 * s.number("seconds").orElse(0))),
                        s.number("trailing").orElse(0),
                        s.number("trailingAngleDeg").orElse(0),
                        s.number("hfrPx").orElse(0),
                        s.number("hourAngleDeg").orElse(0)))
                .toList();
        // A kit that tells of no gear error does not know its gear's period either.
        boolean known = file.kit().equipment().periodicErrorArcsec() > 0;
        OptionalDouble worm = known ? OptionalDouble.of(file.kit().equipment().wormSeconds()) : OptionalDouble.empty();
        return TrailCause.of(shapes, worm).stream().findFirst();
    }

    private double skyOverReadNoise(NightEvent sub) {
        double sky = Math.max(
                0,
                (sub.number("backgroundAdu").orElse(0) - file.kit().sensor().offsetAdu())
                        * file.kit().sensor().gainElectronsPerAdu());
        return Math.max(0.1, Math.sqrt(sky) / Math.max(0.1, file.kit().sensor().readNoiseElectrons()));
    }

    /** The flip that is still to come: due as long as the telescope stands on the side before it. */
    private Optional<Instant> nextFlip(NightEvent sub, String target) {
        return plan.blocks().stream()
                .filter(b -> b.target().name().equals(target) && b.span().contains(sub.time()))
                .filter(b -> sub.text("pierSide").orElse("").equals("WEST"))
                .flatMap(b -> b.flip().stream())
                .findFirst();
    }

    private static String guiding(NightEvent sub) {
        double lost = sub.number("guideLost").orElse(0);
        String times = lost > 0 ? Words.format(", star lost %.0f times", lost) : "";
        return sub.number("guideRmsArcsec").isPresent()
                ? Words.format("%.2f″", sub.number("guideRmsArcsec").orElse(0)) + times
                : lost > 0 ? "star not seen" : "none";
    }
}
