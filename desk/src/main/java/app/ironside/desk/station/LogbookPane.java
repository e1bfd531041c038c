package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The logbook's bench: the nights, and everything that happened in the one on screen. */
public final class LogbookPane implements Bench, AutoCloseable {
    private final ListView<NightEntry> nights = new ListView<>();
    private final ListView<NightEvent> events = new ListView<>();
    private final TextField find = new TextField();
    private final Label count = new Label();
    private final TextField note = new TextField();
    private final ToggleButton thisNight = new ToggleButton("This night");
    private final ToggleButton allNights = new ToggleButton("All nights");
    private final ToggleButton gathered = new ToggleButton("Pictures");
    private final ToggleButton gear = new ToggleButton("Gear");
    private final ToggleButton practise = new ToggleButton("Practise");
    private final AllNightsPane all;
    private final Supplier<NightState> whole;
    private final TrainerPane trainer;
    private final GearPane changes;
    private final PicturesPane pictures;
    private final ReportTools.OfNight report = new ReportTools.OfNight();
    private Optional<NightEntry> entry = Optional.empty();
    private final VBox box;
    private ZoneId zone = ZoneId.of("UTC");
    private boolean filling;
    private NightState shown = NightState.EMPTY;

    /**
     * @param logbook with all nights
     * @param wiring by which exercises are nights
     * @param plan the night whose kit, site and target an exercise takes; empty while none is on the desk
     * @param whole the night on the desk as far as it went, whatever moment of it is looked at
     * @param play begins an exercise
     * @param walk takes a newcomer through a night
     * @param onNight shows a night
     * @param onRemove takes a night out of the logbook
     * @param onEvent shows the evidence of an event
     * @param onNote keeps a person's words with the night on the desk
     */
    public LogbookPane(
            Logbook logbook,
            Wiring wiring,
            Supplier<Optional<NightFile>> plan,
            Supplier<NightState> whole,
            Consumer<NightFile> play,
            Consumer<NightFile> walk,
            Consumer<NightEntry> onNight,
            Consumer<NightEntry> onRemove,
            Consumer<NightEvent> onEvent,
            Consumer<String> onNote) {
        Path data = logbook.folder();
        LongConsumer open = id -> nights.getItems().stream()
                .filter(n -> n.id() == id)
                .findFirst()
                .ifPresent(n -> {
                    thisNight.fire();
                    onNight.accept(n);
                });
        all = new AllNightsPane(logbook.search(), data, open);
        pictures = new PicturesPane(logbook, wiring.objects(), plan, open);
        this.whole = whole;
        trainer = new TrainerPane(wiring, data, plan, play, walk);
        changes = new GearPane(data, () -> plan.get().map(f -> f.kit().name()));
        nights.setId("nights");
        events.setId("events");
        SentenceCell.of(nights, NightEntry::title);
        SentenceCell.of(events, event -> Words.clock(event.time(), zone) + "   " + event.text());
        nights.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> {
            if (is != null && !filling) {
                onNight.accept(is);
            }
        });
        events.setOnMouseClicked(e -> {
            NightEvent picked = events.getSelectionModel().getSelectedItem();
            if (picked != null && e.getClickCount() == 2) {
                onEvent.accept(picked);
            }
        });
        Button remove = new Button("Take out of the logbook");
        remove.setId("remove-night");
        remove.getStyleClass().add("quiet");
        remove.disableProperty()
                .bind(nights.getSelectionModel().selectedItemProperty().isNull());
        remove.setOnAction(e -> onRemove.accept(nights.getSelectionModel().getSelectedItem()));
        VBox left = column("Nights", nights, 270);
        left.getChildren().add(remove);
        find.setId("find-events");
        find.setPromptText("find by words: cloud, focus, NGC 2403");
        find.textProperty().addListener((o, was, is) -> fill());
        count.getStyleClass().add("dim");
        count.setId("found-events");
        count.setMinWidth(Region.USE_PREF_SIZE);
        HBox.setHgrow(find, Priority.ALWAYS);
        HBox asking = new HBox(8, find, count);
        asking.setAlignment(Pos.CENTER_LEFT);
        VBox right = column("What happened (double click shows the evidence)", events, 400);
        right.getChildren().add(1, asking);
        note.setId("night-note");
        note.setPromptText("a note on this night: what was tried, what it was (Enter keeps it)");
        note.setOnAction(e -> {
            if (!note.getText().isBlank()) {
                onNote.accept(note.getText());
                note.clear();
            }
        });
        right.getChildren().addAll(note, report);
        HBox one = new HBox(8, left, right);
        HBox.setHgrow(right, Priority.ALWAYS);
        ToggleGroup group = new ToggleGroup();
        for (ToggleButton b : new ToggleButton[] {thisNight, allNights, gathered, gear, practise}) {
            b.setToggleGroup(group);
            b.setOnAction(e -> {
                b.setSelected(true);
                turn(one);
            });
        }
        thisNight.setId("this-night");
        allNights.setId("all-nights");
        gathered.setId("all-pictures");
        gear.setId("gear");
        practise.setId("practise");
        thisNight.setSelected(true);
        box = new VBox(8, new HBox(3, thisNight, allNights, gathered, gear, practise), one);
        turn(one);
    }

    private void turn(Node one) {
        Node shows = allNights.isSelected()
                ? all.node()
                : gathered.isSelected()
                        ? pictures
                        : gear.isSelected() ? changes : practise.isSelected() ? trainer.node() : one;
        box.getChildren().set(1, shows);
        VBox.setVgrow(shows, Priority.ALWAYS);
        if (allNights.isSelected()) {
            all.renew();
        }
        if (gathered.isSelected()) {
            pictures.renew();
        }
        if (gear.isSelected()) {
            changes.renew();
        }
        if (practise.isSelected()) {
            trainer.renew();
        }
    }

    /** The night that is on the desk. */
    public void setFile(NightFile night) {
        trainer.setFile(night);
        report.setFile(night);
    }

    /** Whether what was asked of all nights is there. */
    public boolean isReady() {
        return all.isReady() && pictures.isReady() && changes.isReady();
    }

    @Override
    public void close() {
        all.close();
        trainer.close();
        changes.close();
        pictures.close();
        report.close();
    }

    private static VBox column(String title, ListView<?> list, double width) {
        Label label = new Label(title);
        label.getStyleClass().add("bench-title");
        list.setPrefWidth(width);
        list.setMinWidth(200);
        VBox.setVgrow(list, Priority.ALWAYS);
        return new VBox(6, label, list);
    }

    /** How many nights are listed. */
    public int count() {
        return nights.getItems().size();
    }

    public void setNights(List<NightEntry> all, Optional<NightEntry> shown) {
        filling = true;
        entry = shown;
        note.setDisable(shown.isEmpty());
        nights.getItems().setAll(all);
        shown.ifPresentOrElse(night -> nights.getSelectionModel().select(night), () -> nights.getSelectionModel()
                .clearSelection());
        filling = false;
    }

    @Override
    public Node node() {
        return box;
    }

    @Override
    public void show(Look look) {
        zone = look.ribbon().zone();
        trainer.show(whole.get(), zone);
        report.show(whole.get(), entry.map(NightEntry::folder));
        if (look.moment().night() != shown) {
            shown = look.moment().night();
            fill();
        }
    }

    /** Events that hold every word that was typed, whatever its case. */
    private void fill() {
        List<String> words = Stream.of(find.getText().toLowerCase(Locale.ROOT).split("\\s+"))
                .filter(w -> !w.isEmpty())
                .toList();
        List<NightEvent> all = shown.events();
        List<NightEvent> found = words.isEmpty()
                ? all
                : all.stream()
                        .filter(e -> words.stream().allMatch(e.text().toLowerCase(Locale.ROOT)::contains))
                        .toList();
        events.getItems().setAll(found);
        events.scrollTo(Math.max(0, found.size() - 1));
        count.setText(words.isEmpty() ? all.size() + " events" : found.size() + " of " + all.size());
    }
}
