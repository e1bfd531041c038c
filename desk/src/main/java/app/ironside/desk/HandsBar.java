package app.ironside.desk;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/** What the night waits for hands to do, at whatever station. */
final class HandsBar extends HBox {
    private final Label what = new Label();
    private final Button button = new Button("Done, Space");

    /**
     * @param done the person says that it is
     */
    HandsBar(Runnable done) {
        super(12);
        setId("hands");
        getStyleClass().add("command-bar");
        setAlignment(Pos.CENTER_LEFT);
        what.getStyleClass().add("verdict");
        what.setWrapText(true);
        // As many lines as the words need, and the button whole beside them.
        what.setPrefWidth(100);
        what.setMinHeight(USE_PREF_SIZE);
        HBox.setHgrow(what, Priority.ALWAYS);
        what.setMaxWidth(Double.MAX_VALUE);
        button.setId("hands-done");
        button.getStyleClass().add("chief");
        button.setMinHeight(44);
        button.setMinWidth(USE_PREF_SIZE);
        button.setOnAction(e -> done.run());
        getChildren().addAll(what, button);
        show("", "");
    }

    /**
     * @param asked what waits for a word; empty if nothing does
     * @param wanted what is noticed by itself when it is done; empty if nothing is
     */
    void show(String asked, String wanted) {
        String text = asked.isEmpty() ? wanted : asked;
        what.setText(text);
        button.setVisible(!asked.isEmpty());
        button.setManaged(!asked.isEmpty());
        setVisible(!text.isEmpty());
        setManaged(!text.isEmpty());
    }
}
