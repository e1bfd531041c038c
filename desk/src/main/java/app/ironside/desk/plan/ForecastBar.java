package app.ironside.desk.plan;

import app.ironside.desk.parts.FilePane;
import app.ironside.plan.WeatherTable;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Tells the plan what is foreseen of the weather: a table, or five numbers. */
final class ForecastBar extends VBox {
    private final PlanDesk plan;
    private final Label source = new Label();
    private final Label fault = new Label();
    private final List<TextField> numbers = new ArrayList<>();

    ForecastBar(PlanDesk plan) {
        super(6);
        this.plan = plan;
        setId("forecast");
        source.getStyleClass().add("dim");
        source.setId("forecast-source");
        source.setWrapText(true);
        fault.getStyleClass().add("warning");
        fault.setWrapText(true);
        fault.setId("forecast-fault");
        fault.managedProperty().bind(fault.textProperty().isNotEmpty());
        FlowPane row = new FlowPane(8, 6);
        row.setAlignment(Pos.CENTER_LEFT);
        row.getChildren().add(number("cloud %", "forecast-cloud"));
        row.getChildren().add(number("°C at dusk", "forecast-dusk"));
        row.getChildren().add(number("at dawn", "forecast-dawn"));
        row.getChildren().add(number("humidity %", "forecast-humidity"));
        row.getChildren().add(number("wind m/s", "forecast-wind"));
        Button use = new Button("Use these");
        use.setId("use-forecast");
        use.setOnAction(e -> use());
        Button table = new Button("Open a table…");
        table.setId("open-forecast");
        table.setOnAction(e -> FilePane.ask(
                this,
                FilePane.Ask.open(FilePane.Kind.OPEN, "A table of the weather", ".csv", ".txt"),
                files -> plan.readForecast(files.get(0))));
        Button forget = new Button("Forget it");
        forget.setId("forget-forecast");
        forget.setOnAction(e -> plan.forgetForecast());
        row.getChildren().addAll(use, table, forget);
        getChildren().addAll(row, source, fault);
    }

    private HBox number(String name, String id) {
        Label label = new Label(name);
        label.getStyleClass().add("dim");
        TextField field = new TextField();
        field.setId(id);
        field.setPrefWidth(54);
        field.setOnAction(e -> use());
        numbers.add(field);
        HBox box = new HBox(4, label, field);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private double value(int i) {
        return Double.parseDouble(numbers.get(i).getText().strip().replace(',', '.'));
    }

    private Interval sunsetToSunrise() {
        NightTimes times = plan.draft().plan().times();
        return new Interval(
                times.sunset().orElse(times.night().from()),
                times.sunrise().orElse(times.night().until()));
    }

    private void use() {
        try {
            plan.takeForecast(WeatherTable.typed(
                    sunsetToSunrise(), value(0) / 100, value(1), value(2), value(3) / 100, value(4), Instant.now()));
            fault.setText("");
        } catch (NumberFormatException e) {
            fault.setText("Five numbers are wanted: cloud and humidity in percent, degrees at dusk and at dawn, wind in"
                    + " metres a second.");
        } catch (IllegalArgumentException e) {
            fault.setText(e.getMessage() + ".");
        }
    }

    void refresh() {
        source.setText(plan.forecasts().source(plan.draft(), Instant.now()));
    }
}
