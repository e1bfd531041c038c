package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.document.NightFile;
import app.ironside.journal.AxisDoubted;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Stage;
import app.ironside.kit.PolarTolerance;
import app.ironside.plan.PolarBy;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** Words what the station Polar has found out about the axis. Pure. */
final class PolarReckoner {
    private final NightFile file;
    private final double dark;

    /**
     * @param darkHours of the night
     */
    PolarReckoner(NightFile file, double darkHours) {
        this.file = file;
        this.dark = darkHours;
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<AxisMeasured> measured = moment.evidence(chosen, AxisMeasured.class);
        double sub = file.program().longestSubSeconds();
        Optional<AxisDoubted> doubt = moment.night()
                .last(AxisDoubted.class)
                .filter(d -> chosen.filter(AxisMeasured.class::isInstance).isEmpty()
                        && measured.filter(m -> m.time().isAfter(d.time())).isEmpty());
        if (doubt.isPresent()) {
            return doubted(doubt.get(), measured);
        }
        if (measured.isEmpty()) {
            // Set by the reticle, it is told by its gate.
            return moment.night()
                    .gate(Stage.POLAR)
                    .map(gate -> new ReckoningState(
                            gate.gate().passed() ? "Set, not measured." : "Not set.",
                            gate.text(),
                            !gate.gate().passed(),
                            List.of(),
                            "",
                            schools()))
                    .orElseGet(() -> ReckoningState.waiting(
                            "Not measured yet.",
                            Words.capital(file.program().setUp().polarBy().how()) + "."));
        }
        AxisMeasured e = measured.get();
        double total = e.totalErrorArcmin();
        double altitude = e.altitudeErrorArcmin();
        double azimuth = e.azimuthErrorArcmin();
        double limit = moment.night()
                .gate(Stage.POLAR)
                .map(g -> g.gate().limit())
                .orElse(file.program().polarLimit(file.kit()).arcmin());
        boolean good = total + e.uncertaintyArcmin() <= limit;
        String verdict = good
                ? Words.format("%.2f′ off: good enough.", total)
                : (Math.abs(altitude) > Math.abs(azimuth)
                        ? (altitude > 0 ? "Lower the axis." : "Raise the axis.")
                        : (azimuth > 0 ? "Move the axis west." : "Move the axis east."));
        boolean guided = file.kit().guideOptics().isPresent();
        List<Row> rows = new ArrayList<>(List.of(
                new Row(
                        "altitude",
                        Words.format("%.2f′ %s", Math.abs(altitude), altitude > 0 ? "too high" : "too low")),
                new Row(
                        "azimuth",
                        Words.format("%.2f′ %s", Math.abs(azimuth), azimuth > 0 ? "too far east" : "too far west")),
                new Row("uncertainty", Words.format("± %.2f′", e.uncertaintyArcmin())),
                new Row("limit in force", Words.format("%.2f′, %s", limit, guided ? "guided" : "unguided")),
                limitRow(
                        "guided",
                        PolarTolerance.guided(file.kit(), file.program().polarNight())),
                limitRow(
                        "unguided",
                        PolarTolerance.unguided(file.kit(), file.program().polarNight())),
                new Row(
                        "drift in a sub",
                        Words.format(
                                "%.2f″, half a pixel is %.2f″",
                                PolarTolerance.driftArcsecPerMinute(total) * sub / 60,
                                file.kit().arcsecPerPixel() / 2)),
                new Row(
                        "drift in the night",
                        Words.format("%.1f′ unguided", PolarTolerance.driftArcsecPerMinute(total) * dark)),
                new Row(
                        "turn at the corner, a sub",
                        Words.format(
                                "%.2f px",
                                total
                                        * PolarTolerance.turnPx(
                                                file.kit(), file.program().polarNight(), sub)))));
        SetDown.row(moment.night(), Stage.POLAR).ifPresent(rows::add);
        if (!good) {
            // Once the axis is good the turns left are noise, and so is a tilt learned from them.
            // Before a knob was turned nobody knows what a turn does.
            if (e.adjustment() > 0
                    && e.altitudeTurns().isPresent()
                    && e.azimuthTurns().isPresent()) {
                rows.add(new Row(
                        "knobs",
                        Words.format(
                                "altitude %+.2f, azimuth %+.2f turn",
                                e.altitudeTurns().getAsDouble(),
                                e.azimuthTurns().getAsDouble())));
            }
            e.tiltDeg().ifPresent(tilt -> rows.add(new Row("base tilted by about", Words.format("%.0f°", tilt))));
        }
        return new ReckoningState(
                verdict,
                good
                        ? Words.format("Your subs allow %.2f′: more turning would not show in them.", limit)
                        : total <= limit
                                ? Words.format(
                                        "%.2f′ off, give or take %.2f′: not sure to be inside the %.2f′ that your subs allow.",
                                        total, e.uncertaintyArcmin(), limit)
                                : Words.format(
                                        // What is told apart must not look alike.
                                        total - limit < 0.01
                                                ? "%.3f′ from the pole; your subs allow %.3f′."
                                                : "%.2f′ from the pole; your subs allow %.2f′.",
                                        total,
                                        limit),
                !good,
                rows,
                Words.format(
                        "Worst drift is 0.26″ a minute for each arcminute of error. In a sub of %.0f s it may reach half a "
                                + "pixel, and the turn of the field half a pixel at the corner (Hook 1989). Guiding takes the drift "
                                + "out, not the turn.",
                        sub),
                schools());
    }

    /** The axis is no longer where it was measured, or set. */
    private ReckoningState doubted(AxisDoubted d, Optional<AxisMeasured> measured) {
        List<Row> rows = new ArrayList<>();
        measured.ifPresent(m -> rows.add(
                new Row("measured", Words.format("%.2f′ ± %.2f′", m.totalErrorArcmin(), m.uncertaintyArcmin()))));
        rows.add(new Row("drift seen", Words.format("%+.1f″ a minute, north positive", d.driftArcsecPerMinute())));
        measured.ifPresent(m ->
                rows.add(new Row("drift by that axis", Words.format("%+.1f″ a minute", d.expectedArcsecPerMinute()))));
        rows.add(new Row("since", file.site().clock(d.since())));
        return new ReckoningState(
                Words.format(
                        measured.isPresent()
                                ? "Measure again: %.0f′ or more from there."
                                : "At least %.0f′ off: measure it.",
                        d.leastArcmin()),
                d.text(),
                true,
                rows,
                "What guiding took out of declination in each sub, or how the field crept, is held against what the axis would give"
                        + " (Hook 1989). One star tells one part of the error: it may be more.",
                schools());
    }

    private List<School> schools() {
        PolarBy used = file.program().setUp().polarBy();
        return Arrays.stream(PolarBy.values())
                .map(by -> new School(
                        Words.capital(by.words()),
                        Words.format("About %d min: %s. Chosen at Plan, Rules.", by.minutes(), by.how()),
                        by == used))
                .toList();
    }

    private static Row limitRow(String how, PolarTolerance.Limit limit) {
        return new Row(how + ", by", Words.format("%.2f′: %s", limit.arcmin(), limit.because()));
    }
}
