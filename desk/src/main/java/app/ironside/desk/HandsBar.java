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
    private final Button no = new Button("It is not so, X");

    /**
     * @param done the person says that it is
     * @param denied the person says that it is not
     */
    HandsBar(Runnable done, Runnable denied) {
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
        no.setId("hands-no");
        no.setMinHeight(44);
        no.setMinWidth(USE_PREF_SIZE);
        no.setOnAction(e -> denied.run());
        getChildren().addAll(what, no, button);
        show("", false, "");
    }

    /**
     * @param asked what waits for a word; empty if nothing does
     * @param question whether it can be denied too
     * @param wanted what is noticed by itself when it is done; empty if nothing is
     */
    void show(String asked, boolean question, String wanted) {
        String text = asked.isEmpty() ? wanted : asked;
        what.setText(text);
        button.setVisible(!asked.isEmpty());
        button.setManaged(!asked.isEmpty());
        button.setText(question ? "It is so, Space" : "Done, Space");
        no.setVisible(question && !asked.isEmpty());
        no.setManaged(no.isVisible());
        setVisible(!text.isEmpty());
        setManaged(!text.isEmpty());
    }
}
