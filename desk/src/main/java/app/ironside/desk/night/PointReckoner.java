package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.document.NightFile;
import app.ironside.journal.FrameSolved;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.kit.Correction;
import app.ironside.kit.Kit;
import app.ironside.point.FramingMatch;
import app.ironside.sky.Sexagesimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Words where the telescope points, against the plan and against earlier nights. Pure. */
final class PointReckoner {
    private static final double WORTH_TURNING_DEG = 1;

    private final NightFile file;
    private final Map<String, FramingMatch.Wanted> earlier;

    /**
     * @param earlier how targets were framed on earlier nights
     */
    PointReckoner(NightFile file, Map<String, FramingMatch.Wanted> earlier) {
        this.file = file;
        this.earlier = Map.copyOf(earlier);
    }

    ReckoningState of(Moment moment, Optional<NightEvent> chosen) {
        Optional<FrameSolved> solved = moment.evidence(chosen, FrameSolved.class);
        if (solved.isEmpty()) {
            return ReckoningState.waiting(
                    "Nothing to point at yet.", "The first frame of a target is solved as it arrives.");
        }
        FrameSolved e = solved.get();
        double offset = e.offsetArcsec();
        boolean centred = offset <= file.program().centreWithinArcsec();
        String target = e.target();
        Optional<String> turn = centred ? turnCamera(e, target) : Optional.empty();
        Optional<Kit.FocalLengthSeen> focal = file.kit().otherFocalLength(e.scaleArcsecPerPixel());
        Optional<String> said = focal.map(
                        f -> f.sentence() + " Correct the kit: field, framing and guiding follow from it.")
                .or(() -> turn)
                .or(() -> centred || e.wrongHints().isEmpty()
                        ? Optional.empty()
                        : Optional.of(String.join(" ", e.wrongHints())));
        boolean told = file.kit().mount().correction().orElse(Correction.SYNC) == Correction.SYNC;
        return new ReckoningState(
                centred ? target + " is centred." : Words.format("%s is %.1f′ off.", target, offset / 60),
                said.orElse(
                        centred
                                ? Words.format(
                                        "%.0f″ from the middle; %.0f″ are allowed.",
                                        offset, file.program().centreWithinArcsec())
                                : told
                                        ? "The mount is told the truth and slews again."
                                        : "The mount is asked for a place shifted by what it missed."),
                focal.isPresent() || turn.isPresent(),
                rows(
                        moment.night(),
                        new Row(
                                "middle of frame",
                                Sexagesimal.text(e.centre().raDeg(), e.centre().decDeg())),
                        new Row("off", Words.format("%.0f″", offset)),
                        new Row("camera angle", cameraAngle(e, target)),
                        new Row("scale", Words.format("%.3f″ a pixel", e.scaleArcsecPerPixel())),
                        new Row(
                                "focal length",
                                focal.map(f -> Words.format("%.0f mm, the kit says %.0f", f.mm(), f.ofKitMm()))
                                        .orElse("as the kit says")),
                        new Row("stars matched", Words.format("%d", e.matchedStars())),
                        new Row("residual", Words.format("%.2f″", e.rmsArcsec())),
                        new Row("by hand", centred ? "nothing" : e.byHand()),
                        new Row("as on an earlier night", asBefore(e, target))),
                focal.map(f -> List.of(new Action(
                                "take-focal-length",
                                Words.format("Put %.0f mm into the kit", f.mm()),
                                true,
                                true,
                                new Intent.FocalLength(file.kit().name(), f.mm()))))
                        .orElse(List.of()),
                Words.format(
                        "Patterns of four stars are looked up in the catalogue. The odds that these matches are chance are "
                                + "1 in 10 to the %.0f; worse than 1 in a billion is refused.",
                        -e.log10FalseOdds()),
                List.of());
    }

    private static List<Row> rows(NightState night, Row... measured) {
        List<Row> rows = new ArrayList<>(List.of(measured));
        SetDown.row(night, Stage.POINT).ifPresent(rows::add);
        return rows;
    }

    /** Whether the frame is that of an earlier night. */
    private String asBefore(FrameSolved e, String target) {
        return Optional.ofNullable(earlier.get(target))
                .map(wanted -> match(e, wanted))
                .map(m -> m.same()
                        ? Words.format("yes, %.1f° and %.0f″ off", Math.abs(m.turnDeg()), m.offsetArcsec())
                        : m.sentence())
                .orElse("first night");
    }

    /** The camera's angle, and what to do where the plan wants another. */
    private String cameraAngle(FrameSolved e, String target) {
        double angle = e.rotationDeg();
        return planned(target)
                .filter(m -> Math.abs(match(e, m).turnDeg()) > WORTH_TURNING_DEG)
                .map(m -> Words.format("%.1f°, the plan has %.0f°", angle, m.angleDeg()))
                .orElse(Words.format("%.1f°", angle));
    }

    /** What the plan wants to be done to the camera, in a sentence; empty if it stands as planned or nothing is planned. */
    private Optional<String> turnCamera(FrameSolved e, String target) {
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

    private FramingMatch match(FrameSolved e, FramingMatch.Wanted wanted) {
        return FramingMatch.of(
                e.centre(),
                e.rotationDeg(),
                file.kit().fieldWidthDeg(),
                file.kit().fieldHeightDeg(),
                wanted);
    }
}
