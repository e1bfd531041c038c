package app.ironside.desk;

import app.ironside.BadInputException;
import app.ironside.document.FirstNight;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.DatePicker;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** Asks somebody new where they are and what they own, in one page; everything else has a usual value. */
final class FirstNightPane extends StackPane {
    /** The sky at the zenith, as people know it. */
    private static final Map<String, Double> SKIES = skies();

    private final TextField place = field("place", "My garden");
    private final TextField latitude = field("latitude", "");
    private final TextField longitude = field("longitude", "");
    private final TextField elevation = field("elevation", "100");
    private final TextField zone = field("zone", ZoneId.systemDefault().getId());
    private final ComboBox<String> sky = new ComboBox<>();
    private final DatePicker date = new DatePicker();
    private final TextField kit = field("kit", "My telescope");
    private final TextField focalLength = field("focal-length", "");
    private final TextField aperture = field("aperture", "");
    private final TextField width = field("width", "");
    private final TextField height = field("height", "");
    private final TextField pixel = field("pixel", "");
    private final CheckBox cooled = new CheckBox("cooled");
    private final CheckBox colour = new CheckBox("in colour (a mosaic of filters)");
    private final CheckBox goTo = new CheckBox("finds targets by itself");
    private final CheckBox guided = new CheckBox("is guided");
    private final CheckBox motor = new CheckBox("focus has a motor");
    private final Label fault = new Label();
    private final GridPane grid = new GridPane();
    private final List<Label> rows = new ArrayList<>();

    /**
     * @param tonight the date of the coming or present night
     * @param ready is given the answers
     * @param back takes this pane away
     */
    FirstNightPane(LocalDate tonight, BiConsumer<FirstNight, LocalDate> ready, Runnable back) {
        setId("first-night");
        Label title = new Label("Where are you, and what do you own?");
        title.getStyleClass().add("verdict");
        Label text = new Label(
                "Nothing is sent anywhere. What is not asked here has a usual value, to be changed at Site and kit.");
        text.getStyleClass().add("sentence");
        text.setWrapText(true);
        sky.getItems().setAll(SKIES.keySet());
        sky.setValue(sky.getItems().get(1));
        date.setValue(tonight);
        goTo.setSelected(true);
        guided.setSelected(true);
        motor.setSelected(true);
        grid.setHgap(10);
        grid.setVgap(6);
        row("place", place, "");
        row("latitude", latitude, "such as 44.05 or 44° 03′ N");
        row("longitude", longitude, "east positive, or with E and W");
        row("height", elevation, "m");
        row("time zone", zone, "");
        row("sky", sky, "at the zenith, without Moon");
        row("night of", date, "");
        row("kit", kit, "");
        row("focal length", focalLength, "mm");
        row("aperture", aperture, "mm");
        row("sensor", new HBox(6, width, height, pixel), "px wide, px high, µm a pixel");
        row("camera", new HBox(12, cooled, colour), "");
        row("mount", new HBox(12, goTo, guided, motor), "");
        for (TextField narrow : List.of(width, height, pixel)) {
            narrow.setPrefWidth(74);
        }
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.setId("first-fault");
        Button cancel = new Button("Back");
        cancel.setId("first-back");
        cancel.setOnAction(e -> back.run());
        Button go = new Button("Plan my night");
        go.setId("first-go");
        go.getStyleClass().add("chief");
        go.setDefaultButton(true);
        go.setOnAction(e -> {
            try {
                fault.setText("");
                ready.accept(answers(), date.getValue());
            } catch (BadInputException | IllegalArgumentException problem) {
                fault.setText(problem.getMessage() + ".");
            }
        });
        HBox buttons = new HBox(8, cancel, go);
        buttons.setAlignment(Pos.CENTER_RIGHT);
        VBox box = new VBox(10, title, text, grid, fault, buttons);
        box.getStyleClass().addAll("keys", "files");
        box.setMaxHeight(Region.USE_PREF_SIZE);
        getChildren().add(box);
    }

    private static Map<String, Double> skies() {
        Map<String, Double> skies = new LinkedHashMap<>();
        skies.put("city", 18.3);
        skies.put("suburb", 19.6);
        skies.put("village", 20.8);
        skies.put("far from any light", 21.7);
        return skies;
    }

    private static TextField field(String id, String value) {
        TextField field = new TextField(value);
        field.setId("first-" + id);
        field.setPrefWidth(240);
        return field;
    }

    private void row(String name, Node node, String unit) {
        Label label = new Label(name);
        label.getStyleClass().add("dim");
        Label after = new Label(unit);
        after.getStyleClass().add("dim");
        grid.addRow(rows.size(), label, node, after);
        rows.add(label);
    }

    private FirstNight answers() {
        return new FirstNight(
                place.getText().strip(),
                FirstNight.angleDeg(latitude.getText(), "latitude"),
                FirstNight.angleDeg(longitude.getText(), "longitude"),
                number(elevation, "height", "m"),
                zone(),
                SKIES.get(sky.getValue()),
                kit.getText().strip(),
                number(focalLength, "focal length", "mm"),
                number(aperture, "aperture", "mm"),
                (int) number(width, "width of the sensor", "px"),
                (int) number(height, "height of the sensor", "px"),
                number(pixel, "pixel", "µm"),
                cooled.isSelected(),
                colour.isSelected(),
                goTo.isSelected(),
                guided.isSelected(),
                motor.isSelected());
    }

    private ZoneId zone() {
        try {
            return ZoneId.of(zone.getText().strip());
        } catch (DateTimeException e) {
            throw new BadInputException(
                    "time zone", "\"" + zone.getText() + "\" is not known", "a name like \"Europe/Rome\"");
        }
    }

    private static double number(TextField field, String what, String unit) {
        try {
            return Double.parseDouble(field.getText().strip().replace(',', '.'));
        } catch (NumberFormatException e) {
            throw new BadInputException(what, "\"" + field.getText() + "\" is not a number", unit);
        }
    }
}
