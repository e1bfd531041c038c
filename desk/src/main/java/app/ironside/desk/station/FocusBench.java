package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.PlotStates;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.picture.PicturePane;
import app.ironside.document.NightFile;
import app.ironside.focus.SweepZones;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusSwept;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The sweep and its frames, focus by temperature, and where the corners are in focus. */
final class FocusBench implements Bench {
    private static final double GAP = 8;

    private final Plot curve = new Plot();
    private final ZonesView zones = new ZonesView();
    private final PicturePane picture = new PicturePane("The frames of the sweep will come here.");
    private final Plot drift = new Plot();
    private final StackPane upper = new StackPane(curve);
    private final VBox box;
    private Optional<NightFile> file = Optional.empty();

    FocusBench() {
        ToggleButton sweep = toggle("Sweep", "focus-sweep", curve);
        ToggleButton corners = toggle("Corners", "focus-corners", zones);
        ToggleGroup group = new ToggleGroup();
        sweep.setToggleGroup(group);
        corners.setToggleGroup(group);
        sweep.setSelected(true);
        HBox below = new HBox(GAP, picture, drift);
        for (Region half : new Region[] {picture, drift}) {
            half.setPrefWidth(100);
            HBox.setHgrow(half, Priority.ALWAYS);
        }
        below.setPrefHeight(230);
        below.setMinHeight(200);
        VBox.setVgrow(upper, Priority.ALWAYS);
        box = new VBox(GAP, new HBox(3, sweep, corners), upper, below);
    }

    private ToggleButton toggle(String words, String id, Node shown) {
        ToggleButton button = new ToggleButton(words);
        button.setId(id);
        button.setOnAction(e -> {
            button.setSelected(true);
            upper.getChildren().setAll(shown);
        });
        return button;
    }

    void setFile(NightFile night) {
        file = Optional.of(night);
    }

    @Override
    public Node node() {
        return box;
    }

    @Override
    public void show(Look look) {
        Optional<FocusSwept> run = look.moment().evidence(look.chosen(), FocusSwept.class);
        curve.show((look.chosen().isEmpty() ? PlotStates.growing(look.moment()) : Optional.<Plot.State>empty())
                .orElseGet(() -> PlotStates.focus(run)));
        Optional<SweepZones> seen = run.flatMap(FocusSwept::zones);
        file.map(NightFile::kit).ifPresent(kit -> zones.show(seen, kit.focuser().stepUm(), kit.criticalFocusSteps()));
        drift.show(PlotStates.focusAgainstTemperature(
                look.moment(), look.moment().night().last(FocusExpected.class)));
        picture.show(look.shown(), Optional.empty());
    }
}
