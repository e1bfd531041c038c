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
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The sweep and its frames, focus by temperature, and where the corners are in focus. */
final class FocusBench implements Bench, AutoCloseable {
    private static final double GAP = 8;

    private final Plot curve = new Plot();
    private final ZonesView zones = new ZonesView();
    private final SweepFrames frames = new SweepFrames();
    private final ToggleButton blink = new ToggleButton("Blink");
    private final PicturePane picture = new PicturePane("The frames of the sweep will come here.");
    private final Plot drift = new Plot();
    private final StackPane upper = new StackPane(curve);
    private final VBox box;
    private Optional<NightFile> file = Optional.empty();
    private Optional<Path> folder = Optional.empty();

    FocusBench() {
        ToggleButton sweep = toggle("Sweep", "focus-sweep", curve);
        ToggleButton corners = toggle("Corners", "focus-corners", zones);
        ToggleButton stars = toggle("Frames", "focus-frames", frames);
        ToggleGroup group = new ToggleGroup();
        sweep.setToggleGroup(group);
        corners.setToggleGroup(group);
        stars.setToggleGroup(group);
        blink.setId("focus-blink");
        Button before = step("‹", "focus-frame-before", "the frame before", -1);
        Button after = step("›", "focus-frame-after", "the next frame", 1);
        HBox through = new HBox(3, before, blink, after);
        through.visibleProperty().bind(stars.selectedProperty());
        blink.setOnAction(e -> frames.blink(blink.isSelected()));
        // A frame that was clicked is held.
        frames.setOnHeld(() -> blink.setSelected(false));
        stars.selectedProperty().addListener((o, was, is) -> frames.blink(is && blink.isSelected()));
        sweep.setSelected(true);
        HBox below = new HBox(GAP, picture, drift);
        for (Region half : new Region[] {picture, drift}) {
            half.setPrefWidth(100);
            HBox.setHgrow(half, Priority.ALWAYS);
        }
        below.setPrefHeight(230);
        below.setMinHeight(200);
        VBox.setVgrow(upper, Priority.ALWAYS);
        box = new VBox(GAP, new HBox(3, sweep, stars, corners, through), upper, below);
    }

    private Button step(String words, String id, String name, int by) {
        Button button = new Button(words);
        button.setId(id);
        button.setAccessibleText(name);
        button.setOnAction(e -> frames.move(by));
        return button;
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

    /** @param where the night's frames lie, once it has any */
    void setFile(NightFile night, Optional<Path> where) {
        file = Optional.of(night);
        folder = where;
    }

    @Override
    public void close() {
        frames.close();
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
        frames.show(run, folder);
        Optional<SweepZones> seen = run.flatMap(FocusSwept::zones);
        file.map(NightFile::kit).ifPresent(kit -> zones.show(seen, kit.focuser().stepUm(), kit.criticalFocusSteps()));
        drift.show(PlotStates.focusAgainstTemperature(
                look.moment(), look.moment().night().last(FocusExpected.class)));
        picture.show(look.shown(), Optional.empty());
    }
}
