package app.ironside.desk;

import app.ironside.journal.Stage;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import javafx.geometry.Insets;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What a station is for, over the desk. The same words stand in docs/GUIDE.md. */
final class HelpPane extends VBox {
    private static final double WIDTH = 640;
    private static final double HEIGHT = 480;

    private final VBox text = new VBox(10);
    private final Label away = new Label();

    HelpPane() {
        setId("help");
        getStyleClass().addAll("keys", "help");
        setMaxHeight(Region.USE_PREF_SIZE);
        setMinHeight(0);
        text.setPrefWidth(WIDTH - 60);
        text.setPadding(new Insets(0, 16, 0, 0));
        ScrollPane scroll = new ScrollPane(text);
        scroll.setFitToWidth(true);
        scroll.setPrefViewportHeight(HEIGHT);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        away.getStyleClass().add("dim");
        getChildren().addAll(scroll, away);
        setVisible(false);
    }

    void show(Stage station) {
        show(station, "F1 or Esc: away with it. ? lists the keys.");
    }

    /**
     * Shows the words of a station.
     *
     * @param foot how one goes on from there
     */
    void show(Stage station, String foot) {
        away.setText(foot);
        text.getChildren().clear();
        for (String paragraph : words(station).strip().split("\n\n|\n(?=- )")) {
            text.getChildren().add(label(paragraph.strip()));
        }
        setVisible(true);
    }

    private static Label label(String paragraph) {
        boolean title = paragraph.startsWith("# ");
        Label label = new Label(
                title
                        ? paragraph.substring(2)
                        : paragraph.startsWith("- ") ? "•  " + paragraph.substring(2) : paragraph);
        label.setWrapText(true);
        label.setMinHeight(Region.USE_PREF_SIZE);
        if (title) {
            label.getStyleClass().add("verdict");
        }
        return label;
    }

    /** A station's text, in Markdown. */
    static String words(Stage station) {
        String name = "help/" + station.name().toLowerCase(Locale.ROOT) + ".md";
        try (InputStream in = HelpPane.class.getResourceAsStream(name)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException("the help inside the application cannot be read", e);
        }
    }
}
