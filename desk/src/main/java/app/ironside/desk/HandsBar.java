package app.ironside.desk;

import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/** What the night waits for hands to do, at whatever station; Ready has its own list. */
final class HandsBar extends HBox {
    private final Label what = new Label();

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
        HBox.setHgrow(what, Priority.ALWAYS);
        what.setMaxWidth(Double.MAX_VALUE);
        Button button = new Button("Done");
        button.setId("hands-done");
        button.getStyleClass().add("chief");
        button.setMinHeight(44);
        button.setOnAction(e -> done.run());
        getChildren().addAll(what, button);
        show("");
    }

    /** Empty if nothing is waited for. */
    void show(String asked) {
        what.setText(asked);
        setVisible(!asked.isEmpty());
        setManaged(!asked.isEmpty());
    }
}
