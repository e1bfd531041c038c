package app.ironside.desk.station;

import app.ironside.desk.night.RunGlance;
import app.ironside.journal.NightEvent;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The glance of Run: figures that can be read at arm's length, and what is wrong above everything else. */
final class RunGlancePane extends VBox {
    private static final PseudoClass WAKES = PseudoClass.getPseudoClass("wakes");

    private final HBox figures = new HBox(6);
    private final Label headline = styled("trouble-headline");
    private final Label certainty = styled("dim");
    private final Label seen = styled("trouble-text");
    private final Label doing = styled("trouble-text");
    private final Label hands = styled("trouble-hands");
    private final Button evidence = new Button("Show the first sub of it");
    private final VBox banner;
    private final Consumer<NightEvent> onEvent;
    private RunGlance shown;

    RunGlancePane(Consumer<NightEvent> onEvent) {
        super(8);
        this.onEvent = onEvent;
        for (Label label : new Label[] {seen, doing, hands}) {
            label.setWrapText(true);
            label.setMinHeight(Region.USE_PREF_SIZE);
        }
        evidence.setId("trouble-evidence");
        evidence.setMinWidth(Region.USE_PREF_SIZE);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox top = new HBox(10, headline, certainty, gap, evidence);
        top.setAlignment(Pos.BASELINE_LEFT);
        certainty.setMinWidth(Region.USE_PREF_SIZE);
        banner = new VBox(3, top, seen, doing, hands);
        banner.setId("trouble");
        banner.getStyleClass().add("trouble");
        figures.setId("glance");
        getChildren().addAll(banner, figures);
    }

    private static Label styled(String style) {
        Label label = new Label();
        label.getStyleClass().add(style);
        return label;
    }

    void show(RunGlance next) {
        if (next.equals(shown)) {
            return;
        }
        shown = next;
        banner.setVisible(next.trouble().isPresent());
        banner.setManaged(next.trouble().isPresent());
        next.trouble().ifPresent(this::fill);
        figures.getChildren()
                .setAll(next.figures().stream().map(RunGlancePane::figure).toList());
    }

    private void fill(RunGlance.Banner b) {
        banner.pseudoClassStateChanged(WAKES, b.wakes());
        headline.setText((b.wakes() ? "▲ " : "● ") + b.headline());
        certainty.setText(b.certainty());
        seen.setText(b.rivals().isEmpty() ? b.seen() : b.seen() + " " + b.rivals());
        doing.setText(b.doing());
        hands.setText("You: " + b.hands());
        evidence.setVisible(b.evidence().isPresent());
        evidence.setManaged(b.evidence().isPresent());
        evidence.setOnAction(e -> b.evidence().ifPresent(onEvent));
    }

    private static VBox figure(RunGlance.Figure f) {
        Label value = styled("glance-value");
        value.setText(f.value());
        Label name = styled("dim");
        name.setText(f.name());
        name.setWrapText(true);
        name.setMinHeight(Region.USE_PREF_SIZE);
        VBox box = new VBox(value, name);
        if (!f.more().isEmpty()) {
            Tooltip.install(box, new Tooltip(f.more()));
        }
        box.getStyleClass().add("glance");
        box.setPrefWidth(100);
        HBox.setHgrow(box, Priority.ALWAYS);
        return box;
    }
}
