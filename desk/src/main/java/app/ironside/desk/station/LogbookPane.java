package app.ironside.desk.station;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.parts.Words;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightEvent;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The logbook's bench: the nights, and everything that happened in the one on screen. */
public final class LogbookPane implements Bench {
    private final ListView<NightEntry> nights = new ListView<>();
    private final ListView<NightEvent> events = new ListView<>();
    private final HBox box;
    private ZoneId zone = ZoneId.of("UTC");
    private boolean filling;

    public LogbookPane(Consumer<NightEntry> onNight, Consumer<NightEvent> onEvent) {
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
        box = new HBox(
                8,
                column("Nights", nights, 270),
                column("What happened (double click shows the evidence)", events, 400));
        HBox.setHgrow(box.getChildren().get(1), Priority.ALWAYS);
    }

    private static VBox column(String title, ListView<?> list, double width) {
        Label label = new Label(title);
        label.getStyleClass().add("bench-title");
        list.setPrefWidth(width);
        list.setMinWidth(200);
        VBox.setVgrow(list, Priority.ALWAYS);
        return new VBox(6, label, list);
    }

    public void setNights(List<NightEntry> all, Optional<NightEntry> shown) {
        filling = true;
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
        if (events.getItems().size() != look.moment().events().size()) {
            events.getItems().setAll(look.moment().events());
            events.scrollTo(Math.max(0, events.getItems().size() - 1));
        }
    }
}
