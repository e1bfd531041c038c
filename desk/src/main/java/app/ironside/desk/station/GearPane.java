package app.ironside.desk.station;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.gear.GearBook;
import app.ironside.gear.GearChange;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/** What was done to the gear between nights, entered and listed with what it makes void. */
final class GearPane extends VBox implements AutoCloseable {
    private final GearBook book;
    private final Supplier<Optional<String>> kitOnDesk;
    private final BackgroundWork work = new BackgroundWork("gear");
    private final Label headline = new Label();
    private final TextField on = new TextField();
    private final TextField kit = new TextField();
    private final ComboBox<GearChange.Kind> kind = new ComboBox<>();
    private final TextField note = new TextField();
    private final Label effect = new Label();
    private final Label said = new Label();
    private final ListView<GearChange> list = new ListView<>();

    /**
     * @param data the user's folder
     * @param kitOnDesk the kit of the plan, which is proposed
     */
    GearPane(Path data, Supplier<Optional<String>> kitOnDesk) {
        super(8);
        this.book = new GearBook(data);
        this.kitOnDesk = kitOnDesk;
        setId("gear-changes");
        headline.getStyleClass().add("verdict");
        headline.setId("gear-headline");
        headline.setMinHeight(Region.USE_PREF_SIZE);
        on.setId("gear-on");
        on.setText(LocalDate.now().toString());
        on.setPromptText("2026-11-14");
        on.setPrefWidth(120);
        kit.setId("gear-kit");
        kit.setPromptText("kit");
        kit.setPrefWidth(140);
        kind.setId("gear-kind");
        kind.getItems().setAll(GearChange.Kind.values());
        kind.setConverter(new StringConverter<>() {
            @Override
            public String toString(GearChange.Kind of) {
                return of == null ? "" : of.words();
            }

            @Override
            public GearChange.Kind fromString(String text) {
                throw new UnsupportedOperationException("changes are chosen, not typed");
            }
        });
        kind.valueProperty().addListener((o, was, is) -> effect.setText("This " + is.effect() + "."));
        kind.setValue(GearChange.Kind.CLEANED);
        note.setId("gear-note");
        note.setPromptText("in your own words");
        note.setPrefWidth(260);
        Button add = new Button("Write it down");
        add.setId("gear-add");
        add.getStyleClass().add("chief");
        add.setOnAction(e -> add());
        note.setOnAction(e -> add());
        FlowPane form = new FlowPane(8, 6, on, kit, kind, note, add);
        form.setAlignment(Pos.CENTER_LEFT);
        effect.setId("gear-effect");
        effect.getStyleClass().add("dim");
        effect.setMinHeight(Region.USE_PREF_SIZE);
        said.getStyleClass().add("warning");
        said.setId("gear-said");
        said.setWrapText(true);
        list.setId("gear-list");
        SentenceCell.of(list, c -> c.words() + ". It " + c.kind().effect() + ".");
        VBox.setVgrow(list, Priority.ALWAYS);
        Button remove = new Button("It was not so: take it out");
        remove.setId("gear-remove");
        remove.getStyleClass().add("quiet");
        remove.disableProperty()
                .bind(list.getSelectionModel().selectedItemProperty().isNull());
        remove.setOnAction(e -> {
            GearChange wrong = list.getSelectionModel().getSelectedItem();
            ask(() -> book.remove(wrong), () -> {});
        });
        getChildren().addAll(headline, form, effect, said, list, remove);
    }

    /** Reads the book again. */
    void renew() {
        if (kit.getText().isBlank()) {
            kitOnDesk.get().ifPresent(kit::setText);
        }
        ask(() -> {}, () -> {});
    }

    private void add() {
        try {
            GearChange change = new GearChange(date(), kit.getText().strip(), kind.getValue(), note.getText());
            ask(() -> book.add(change), note::clear);
        } catch (IllegalArgumentException e) {
            said.setText(e.getMessage() + ".");
        }
    }

    private LocalDate date() {
        try {
            return LocalDate.parse(on.getText().strip());
        } catch (DateTimeParseException e) {
            throw new IllegalArgumentException(
                    "\"" + on.getText() + "\" is no date; write it as " + LocalDate.now(), e);
        }
    }

    /**
     * Does something with the book, and reads it again.
     *
     * @param done once that went well: what was typed stays until then
     */
    private void ask(Runnable first, Runnable done) {
        work.ask(progress -> {
                    first.run();
                    List<GearChange> newest = new ArrayList<>(book.changes());
                    Collections.reverse(newest);
                    return newest;
                })
                .failed(said::setText)
                .then(changes -> {
                    said.setText("");
                    done.run();
                    list.getItems().setAll(changes);
                    headline.setText(
                            changes.isEmpty()
                                    ? "Nothing was changed so far."
                                    : "Last changed on " + changes.get(0).on() + ": "
                                            + changes.get(0).kind().words() + ".");
                });
    }

    /** Whether nothing is on its way. */
    boolean isReady() {
        return work.isIdle();
    }

    @Override
    public void close() {
        work.close();
    }
}
