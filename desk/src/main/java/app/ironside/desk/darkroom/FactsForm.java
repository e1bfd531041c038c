package app.ironside.desk.darkroom;

import app.ironside.library.FactBook;
import app.ironside.library.FrameKind;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/** Says what is true of many frames at once, where their headers are wrong or silent. */
final class FactsForm extends VBox {
    private static final String AS_TOLD = "as the files say";

    private final Label title = new Label();
    private final ComboBox<Optional<FrameKind>> kind = new ComboBox<>();
    private final TextField target = field("facts-target");
    private final TextField filter = field("facts-filter");
    private final TextField exposure = field("facts-exposure");
    private final TextField gain = field("facts-gain");
    private final TextField offset = field("facts-offset");
    private final TextField temperature = field("facts-temperature");
    private final Label wrong = new Label();
    private final Consumer<FactBook.Correction> keep;
    private List<Path> files = List.of();

    /**
     * @param keep takes what is said of the frames; what says nothing takes earlier words back
     * @param away closes the form
     */
    FactsForm(Consumer<FactBook.Correction> keep, Runnable away) {
        super(10);
        this.keep = keep;
        setId("facts-form");
        getStyleClass().add("caption");
        setPadding(new Insets(16));
        setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
        title.getStyleClass().add("bench-title");
        title.setId("facts-title");
        kind.setId("facts-kind");
        kind.getItems().add(Optional.empty());
        for (FrameKind each : FrameKind.values()) {
            kind.getItems().add(Optional.of(each));
        }
        kind.setConverter(new StringConverter<>() {
            @Override
            public String toString(Optional<FrameKind> of) {
                return of == null || of.isEmpty() ? AS_TOLD : of.get().word();
            }

            @Override
            public Optional<FrameKind> fromString(String text) {
                throw new UnsupportedOperationException("kinds are chosen, not typed");
            }
        });
        GridPane grid = new GridPane();
        grid.setHgap(10);
        grid.setVgap(6);
        row(grid, 0, "kind", kind);
        row(grid, 1, "target", target);
        row(grid, 2, "filter", filter);
        row(grid, 3, "exposure, s", exposure);
        row(grid, 4, "gain, the camera's own number", gain);
        row(grid, 5, "offset, the camera's own number", offset);
        row(grid, 6, "sensor, °C", temperature);
        wrong.getStyleClass().add("warning");
        wrong.setId("facts-wrong");
        wrong.setWrapText(true);
        Label note = new Label("Kept in your own data: no file is changed. What is left empty stays as the files say.");
        note.getStyleClass().add("dim");
        note.setWrapText(true);
        note.setMaxWidth(420);
        Button take = new Button("Take over");
        take.setId("facts-take");
        take.getStyleClass().add("chief");
        take.setOnAction(e -> take());
        Button forget = new Button("All as the files say");
        forget.setId("facts-forget");
        forget.setOnAction(e -> {
            clear();
            take();
        });
        Button cancel = new Button("Leave it");
        cancel.setId("facts-cancel");
        cancel.setOnAction(e -> away.run());
        HBox below = new HBox(8, take, forget, cancel);
        below.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(title, grid, wrong, note, below);
        setVisible(false);
    }

    private static TextField field(String id) {
        TextField field = new TextField();
        field.setId(id);
        field.setPromptText(AS_TOLD);
        return field;
    }

    private static void row(GridPane grid, int row, String words, Region field) {
        Label label = new Label(words);
        label.setMinWidth(USE_PREF_SIZE);
        field.setPrefWidth(220);
        grid.addRow(row, label, field);
    }

    /** Asks about these frames. */
    void ask(List<Path> frames) {
        files = List.copyOf(frames);
        title.setText(
                frames.size() == 1
                        ? "What is true of " + frames.get(0).getFileName()
                        : "What is true of these " + frames.size() + " frames");
        clear();
        setVisible(true);
        kind.requestFocus();
    }

    private void clear() {
        kind.setValue(Optional.empty());
        for (TextField f : List.of(target, filter, exposure, gain, offset, temperature)) {
            f.clear();
        }
        wrong.setText("");
    }

    private void take() {
        try {
            FactBook.Correction said = new FactBook.Correction(
                    files.stream().map(Path::toString).toList(),
                    kind.getValue(),
                    text(target),
                    text(filter),
                    number(exposure, "the exposure"),
                    number(gain, "the gain"),
                    number(offset, "the offset"),
                    number(temperature, "the temperature"));
            setVisible(false);
            keep.accept(said);
        } catch (IllegalArgumentException e) {
            wrong.setText(e.getMessage() + ".");
        }
    }

    private static Optional<String> text(TextField field) {
        return Optional.of(field.getText().strip()).filter(t -> !t.isEmpty());
    }

    private static Optional<Double> number(TextField field, String what) {
        return text(field).map(t -> {
            try {
                return Double.valueOf(t.replace(',', '.'));
            } catch (NumberFormatException e) {
                throw new IllegalArgumentException(what + " \"" + t + "\" is no number", e);
            }
        });
    }
}
