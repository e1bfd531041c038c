package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.plan.Framing;
import app.ironside.sky.DeepSkyObject;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Slider;
import javafx.scene.control.Spinner;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The field over the sky at any angle, with neighbours, panels and guide fields. */
public final class FramingPane extends VBox {
    static final double GUIDE_SECONDS = 2;

    private final PlanDesk plan;
    private final FieldStates fields;
    private final FieldChart chart = new FieldChart();
    private final Slider angle = new Slider(-180, 180, 0);
    private final Label angleText = new Label();
    private final Spinner<Integer> columns = new Spinner<>(1, 6, 1);
    private final Spinner<Integer> rows = new Spinner<>(1, 6, 1);
    private final Spinner<Integer> overlap = new Spinner<>(5, 40, 15, 5);
    private final Button fewest = new Button("Fewest panels");
    private final Button take = new Button("Put the panels into the plan");
    private final Button last = new Button();
    private final HBox companions = new HBox(6);
    private String companionsOf = "";
    private boolean filling;

    FramingPane(PlanDesk plan, FieldStates fields) {
        super(8);
        this.plan = plan;
        this.fields = fields;
        VBox.setVgrow(chart, Priority.ALWAYS);
        chart.setOnFraming(this::set);
        chart.setId("field-chart");
        angle.setId("camera-angle");
        angle.setPrefWidth(150);
        angle.setMinWidth(100);
        angle.valueProperty().addListener((o, was, is) -> {
            if (!filling) {
                plan.looked().ifPresent(t -> {
                    Framing f = plan.framings().of(t);
                    set(new Framing(f.kit(), f.centre(), Math.round(is.doubleValue())));
                });
            }
        });
        for (Spinner<Integer> spinner : List.of(columns, rows, overlap)) {
            spinner.setPrefWidth(78);
            spinner.setMinWidth(78);
            spinner.valueProperty().addListener((o, was, is) -> refresh());
        }
        columns.setId("panel-columns");
        angleText.setMinWidth(44);
        Button middle = new Button("Centre");
        middle.setId("centre-target");
        middle.setOnAction(e -> plan.looked()
                .ifPresent(t -> set(new Framing(
                        plan.file().kit(), t.position(), plan.framings().of(t).angleDeg()))));
        middle.setMinWidth(Region.USE_PREF_SIZE);
        Button guide = new Button("Best guide angle");
        guide.setMinWidth(Region.USE_PREF_SIZE);
        guide.setId("guide-angle");
        guide.setOnAction(e -> bestGuideAngle());
        guide.managedProperty().bind(guide.visibleProperty());
        fewest.setId("fewest-panels");
        fewest.setMinWidth(Region.USE_PREF_SIZE);
        fewest.setTooltip(new Tooltip("As many panels as hold all of it, at the angle that needs the fewest"));
        fewest.setOnAction(e -> takeFewest());
        take.setId("take-panels");
        take.setMinWidth(Region.USE_PREF_SIZE);
        take.setTooltip(new Tooltip("Each panel becomes a target of its own, all at this angle"));
        take.setOnAction(e -> plan.looked().ifPresent(o -> plan.framings().takePanels(o, panels(o))));
        take.managedProperty().bind(take.visibleProperty());
        last.setId("last-angle");
        last.setMinWidth(Region.USE_PREF_SIZE);
        last.setOnAction(e -> plan.looked().ifPresent(o -> plan.framings()
                .lastAngle()
                .ifPresent(a ->
                        set(new Framing(plan.file().kit(), plan.framings().of(o).centre(), a)))));
        last.managedProperty().bind(last.visibleProperty());
        FlowPane tools = new FlowPane(
                8,
                6,
                together(dim("angle"), angle, angleText),
                middle,
                together(dim("panels"), columns, dim("×"), rows),
                together(dim("overlap %"), overlap),
                fewest,
                take,
                last,
                guide);
        tools.setAlignment(Pos.CENTER_LEFT);
        companions.setAlignment(Pos.CENTER_LEFT);
        companions.setMinHeight(38);
        getChildren().addAll(tools, chart, companions);
        guideButton = guide;
    }

    private final Button guideButton;

    private List<Framing> panels(DeepSkyObject o) {
        FieldStates.Mosaic m = mosaic();
        return plan.framings().of(o).mosaic(m.columns(), m.rows(), m.overlap());
    }

    private void takeFewest() {
        plan.looked().ifPresent(o -> {
            Framing f = plan.framings().of(o);
            Framing.Cover cover = f.fewestPanels(o, overlap.getValue() / 100.0);
            filling = true;
            columns.getValueFactory().setValue(cover.columns());
            rows.getValueFactory().setValue(cover.rows());
            filling = false;
            set(new Framing(f.kit(), o.position(), cover.angleDeg()));
            refresh();
        });
    }

    /** What stays beside one another when the row breaks. */
    private static HBox together(Node... nodes) {
        HBox box = new HBox(6, nodes);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private static Label dim(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("dim");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private void set(Framing framing) {
        plan.looked().ifPresent(o -> plan.framings().set(o, framing));
    }

    /** Limit of guide stars of the kit in two seconds; 0 if nothing guides. */
    static double guideLimit(PlanDesk plan) {
        return plan.file().kit().guideOptics().isEmpty()
                ? 0
                : Framing.guideLimitMagnitude(
                        plan.file().kit(), GUIDE_SECONDS, plan.file().site().skyMagPerArcsec2());
    }

    private void bestGuideAngle() {
        plan.looked().ifPresent(o -> plan.framings()
                .of(o)
                .bestGuideAngle(fields.known(), guideLimit(plan))
                .ifPresentOrElse(
                        this::set,
                        () -> plan.tell(
                                "No angle has a known guide star on both sides of the meridian: the catalogue here may"
                                        + " end too bright. Add a deeper table (G).")));
    }

    FieldStates.Mosaic mosaic() {
        return new FieldStates.Mosaic(columns.getValue(), rows.getValue(), overlap.getValue() / 100.0);
    }

    void refresh() {
        if (!plan.isOpen()) {
            return;
        }
        take.setVisible(columns.getValue() * rows.getValue() > 1);
        last.setVisible(plan.framings().lastAngle().isPresent());
        plan.framings().lastAngle().ifPresent(a -> last.setText(Words.format("As it stood: %.0f°", a)));
        guideButton.setVisible(plan.file().kit().equipment().offAxis().isPresent());
        Optional<DeepSkyObject> looked = plan.looked();
        chart.show(looked.map(o -> fields.of(o, plan.framings().of(o), mosaic(), guideLimit(plan))));
        looked.ifPresent(o -> {
            Framing f = plan.framings().of(o);
            filling = true;
            angle.setValue(f.angleDeg());
            filling = false;
            angleText.setText(Words.format("%.0f°", f.angleDeg()));
            showCompanions(o, f);
        });
    }

    private void showCompanions(DeepSkyObject o, Framing f) {
        if (companionsOf.equals(o.id() + f.angleDeg() + f.centre() + f.kit().name())) {
            return;
        }
        companionsOf = o.id() + f.angleDeg() + f.centre() + f.kit().name();
        List<Framing.Companion> found =
                f.companions(plan.wiring().objects(), 12.5).stream().limit(4).toList();
        companions.getChildren().clear();
        if (found.isEmpty()) {
            companions.getChildren().add(dim("Nothing brighter than 12.5, or large, would come in by a small shift."));
            return;
        }
        companions.getChildren().add(dim("Take in"));
        for (Framing.Companion c : found) {
            Button button = new Button(c.object().id()
                    + c.object()
                            .magnitude()
                            .map(m -> Words.format("  %.1f mag", m))
                            .orElse(""));
            button.setOnAction(e -> set(new Framing(f.kit(), c.centre(), f.angleDeg())));
            companions.getChildren().add(button);
        }
    }
}
