package app.ironside.desk.night;

import app.ironside.journal.Stage;
import java.util.EnumMap;
import java.util.Map;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.scene.control.Button;
import javafx.scene.control.ContentDisplay;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The stations down the left edge: a checklist that fills itself in. */
public final class RailView extends VBox {
    private static final PseudoClass CHOSEN = PseudoClass.getPseudoClass("chosen");
    private static final PseudoClass ALERT = PseudoClass.getPseudoClass("alert");
    private static final PseudoClass WORKING = PseudoClass.getPseudoClass("working");

    private record Entry(Button button, StandingMark mark, Label value) {}

    private final Map<Stage, Entry> entries = new EnumMap<>(Stage.class);

    public RailView(Consumer<Stage> onChoice) {
        getStyleClass().add("rail");
        for (Stage stage : Stage.values()) {
            entries.put(stage, entry(stage, onChoice));
            getChildren().add(entries.get(stage).button());
        }
    }

    private static Entry entry(Stage stage, Consumer<Stage> onChoice) {
        Label title = new Label(stage.title());
        title.getStyleClass().add("station-title");
        Label value = new Label();
        value.getStyleClass().add("station-value");
        StandingMark mark = new StandingMark();
        HBox content = new HBox(9, mark, new VBox(0, title, value));
        content.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        Button button = new Button();
        button.setGraphic(content);
        button.setContentDisplay(ContentDisplay.GRAPHIC_ONLY);
        button.getStyleClass().setAll("station");
        button.setId("station-" + stage.name().toLowerCase(java.util.Locale.ROOT));
        button.setMaxWidth(Double.MAX_VALUE);
        button.setAccessibleText(stage.title());
        button.setOnAction(e -> onChoice.accept(stage));
        return new Entry(button, mark, value);
    }

    public void show(RailState state, Stage chosen) {
        for (RailState.Station station : state.stations()) {
            Entry entry = entries.get(station.stage());
            entry.value().setText(station.value());
            entry.mark().show(station.standing());
            entry.button().pseudoClassStateChanged(CHOSEN, station.stage() == chosen);
            entry.button().pseudoClassStateChanged(ALERT, station.standing() == RailState.Standing.FAILED);
            entry.button().pseudoClassStateChanged(WORKING, station.standing() == RailState.Standing.WORKING);
        }
    }
}
