package app.ironside.desk;

import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What the window shows while catalogues and logbook are read, in the palette that the eyes are used to. */
final class Splash extends StackPane {
    private final Label what = new Label();
    private final ProgressBar bar = new ProgressBar(ProgressBar.INDETERMINATE_PROGRESS);

    Splash(Palette look, String doing) {
        sceneProperty().addListener((o, was, is) -> {
            if (is != null) {
                look.dress(is);
            }
        });
        getStyleClass().add("root");
        Label brand = new Label("Ironside");
        brand.getStyleClass().addAll("brand", "clock");
        what.setText(doing + "…");
        what.getStyleClass().add("sentence");
        what.setWrapText(true);
        what.setMaxWidth(560);
        bar.setPrefWidth(260);
        VBox box = new VBox(14, brand, what, bar);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setMaxSize(VBox.USE_PREF_SIZE, VBox.USE_PREF_SIZE);
        getChildren().add(box);
        setId("splash");
    }

    /** Nothing can be opened: says why, and stays. */
    void fail(String why) {
        what.setText(why + ". Close this window, mend it, and start again.");
        what.getStyleClass().add("warning");
        bar.setVisible(false);
    }
}
