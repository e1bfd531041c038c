package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningState.Action;
import app.ironside.desk.reckon.ReckoningState.Row;
import app.ironside.desk.reckon.ReckoningState.School;
import app.ironside.kit.Kit;
import app.ironside.plan.Framing;
import app.ironside.plan.GuideOptics;
import app.ironside.plan.Projects;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.StarSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Words and numbers of Plan, Framing: what the frame holds, panels, guide stars, sampling. */
final class FramingReckoner {
    /** Where nobody has told how unsteady the air of a site is. */
    static final double USUAL_SEEING_ARCSEC = 4;

    private static final double PANEL_OVERLAP = 0.15;

    private final PlanDesk plan;

    FramingReckoner(PlanDesk plan) {
        this.plan = plan;
    }

    /**
     * @param actions what can be done with the plan
     */
    ReckoningState of(List<Action> actions) {
        if (plan.looked().isEmpty()) {
            return ReckoningState.waiting("No target yet.", "Choose one under Tonight.");
        }
        DeepSkyObject o = plan.looked().get();
        Framing f = plan.framings().of(o);
        Kit kit = plan.file().kit();
        double share = o.longAxisArcmin() / 60 / Math.min(kit.fieldWidthDeg(), kit.fieldHeightDeg());
        Framing.Cover here = f.coverOf(o, PANEL_OVERLAP);
        Framing.Cover fewest = f.fewestPanels(o, PANEL_OVERLAP);
        double off = o.position().separationDeg(f.centre()) * 60;
        boolean outside = !f.contains(o.position(), 0.05);
        List<Row> rows = new ArrayList<>(List.of(
                new Row("field", Words.format("%.2f° × %.2f°", kit.fieldWidthDeg(), kit.fieldHeightDeg())),
                new Row("scale", Words.format("%.2f″ a pixel", kit.arcsecPerPixel())),
                new Row("camera angle", Words.format("%.0f°", f.angleDeg())),
                new Row(
                        "target's long axis",
                        Words.format("%.0f′, %.0f %% of the field", o.longAxisArcmin(), 100 * share)),
                new Row("off the middle", Words.format("%.0f′", off)),
                new Row(
                        "centre",
                        Sexagesimal.text(f.centre().raDeg(), f.centre().decDeg()))));
        rows.addAll(guideRows(f));
        String verdict =
                outside ? o.id() + " leaves the field." : here.panels() > 1 ? panels(here, fewest) : o.id() + " fits.";
        return new ReckoningState(
                verdict,
                plan.framings().isFramed(o)
                        ? Words.format(
                                "Use angle %.0f° again on every later night: the same framing within the crop margin, and the same flats.",
                                f.angleDeg())
                        : "No angle is planned: the camera stays as it is. Turn the frame to plan one.",
                outside,
                rows,
                actions,
                "Field = 2 atan(size / 2f). A twentieth of each side is left for the edges that registration costs. Turning the "
                        + "camera voids the flats and may upset the balance.",
                Stream.concat(samplingSchools().stream(), guideSchools(f).stream())
                        .toList());
    }

    /** A prism at the telescope's edge, or a telescope beside it: what each sees with this kit, in this frame. */
    private List<School> guideSchools(Framing f) {
        Kit now = plan.file().kit();
        StarSource known = FieldStates.known(plan.wiring());
        double sky = plan.file().site().skyMagPerArcsec2();
        List<School> schools = new ArrayList<>();
        for (GuideOptics way : GuideOptics.of(now)) {
            double faintest = Framing.guideLimitMagnitude(way.kit(), FramingPane.GUIDE_SECONDS, sky);
            String sees = Words.format(
                    "%.2f″ a pixel, so that a star is placed to %.2f of a main pixel.",
                    way.arcsecPerPixel(), way.seenInMainPixels());
            String field = way.offAxis()
                    ? " Nothing bends between. In this frame: "
                            + stars(new Framing(way.kit(), f.centre(), f.angleDeg()).guideField(known, faintest)) + "."
                    : Words.format(
                            " A field of %.1f°, no clearance to mind; what bends between the two telescopes is not seen.",
                            way.arcsecPerPixel() * way.kit().guider().widthPx() / 3600);
            schools.add(new School(
                    way.offAxis() ? "Guide off-axis" : "Guide by a telescope beside",
                    sees + field,
                    way.offAxis() == now.equipment().offAxis().isPresent(),
                    Optional.of(new Intent.GuideBy(way))));
        }
        return schools;
    }

    private static String panels(Framing.Cover here, Framing.Cover fewest) {
        return fewest.panels() < here.panels()
                ? Words.format(
                        "%d panels hold all of it at %.0f°, %d at this angle.",
                        fewest.panels(), fewest.angleDeg(), here.panels())
                : Words.format("%d panels hold all of it.", here.panels());
    }

    /** Guide stars that are known, off-axis on both sides of the meridian; how deep what is known goes; whether the prism shades the sensor. */
    private List<Row> guideRows(Framing f) {
        Kit kit = plan.file().kit();
        if (kit.guideOptics().isEmpty()) {
            return List.of();
        }
        double limit = FramingPane.guideLimit(plan);
        List<Row> rows = new ArrayList<>();
        rows.add(new Row("guide stars to", Words.format("%.1f mag in 2 s", limit)));
        StarSource known = FieldStates.known(plan.wiring());
        if (kit.equipment().offAxis().isPresent()) {
            rows.add(new Row("before the flip", stars(f.guideField(known, limit))));
            rows.add(new Row("after it", stars(f.flipped().guideField(known, limit))));
            Framing.prismClearanceMm(kit)
                    .ifPresent(mm -> rows.add(new Row(
                            Framing.prismAtLongSide(kit) ? "prism, at the long side" : "prism, at the short side",
                            mm >= 0
                                    ? Words.format("%.1f mm clear of the sensor", mm)
                                    : Words.format("shades the sensor by %.1f mm: move it out", -mm))));
        }
        rows.add(new Row(
                "the catalogue here ends at", Words.format("%.1f mag", FieldStates.depth(plan.wiring(), f.centre()))));
        return rows;
    }

    private static String stars(Optional<Framing.GuideField> field) {
        int count = field.map(f -> f.stars().size()).orElse(0);
        return count == 0
                ? "none that is known"
                : Words.format(
                        "%d, brightest %.1f mag",
                        count, field.orElseThrow().stars().get(0).magnitude());
    }

    /** Pixels across a star's width, by the site's own seeing where somebody has said it. */
    private List<School> samplingSchools() {
        Kit kit = plan.file().kit();
        Optional<Double> said = plan.file().site().seeingArcsec();
        double star = Math.hypot(
                said.orElse(Projects.COMMON_SEEING_ARCSEC), kit.optics().blurFwhmArcsec());
        double across = star / kit.arcsecPerPixel();
        String by = Words.format(
                "%.1f pixels across a star of %.1f″ (%s).",
                across,
                star,
                said.isPresent()
                        ? "this site's seeing and the optics"
                        : Words.format("%.0f″ of seeing, as is common, and the optics", Projects.COMMON_SEEING_ARCSEC));
        return List.of(
                new School(
                        "Two to three pixels across a star",
                        "All that the air leaves is seen. " + by,
                        across >= 1.8 && across <= 3.5),
                new School(
                        "Fewer: a wide field",
                        "Small round stars lose shape; each pixel gathers more sky. " + by,
                        across < 1.8),
                new School(
                        "More: for steady air",
                        "Light is spread over more pixels, each with its read noise. " + by,
                        across > 3.5));
    }
}
