package app.ironside.desk;

import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What to do first: a question over the desk with a few large answers. */
final class StartPane extends StackPane {
    /** An answer; the first of several is the usual one. */
    record Choice(String id, String text, Runnable action) {}

    StartPane(String heading, String explanation, List<Choice> choices) {
        Label title = new Label(heading);
        title.getStyleClass().add("verdict");
        Label text = new Label(explanation);
        text.getStyleClass().add("sentence");
        text.setWrapText(true);
        text.setMaxWidth(440);
        VBox box = new VBox(title, text);
        box.getStyleClass().add("keys");
        box.setAlignment(Pos.CENTER_LEFT);
        for (int i = 0; i < choices.size(); i++) {
            Choice choice = choices.get(i);
            Button button = new Button(choice.text());
            button.setId(choice.id());
            button.setMaxWidth(Double.MAX_VALUE);
            button.setMinHeight(44);
            if (i == 0) {
                button.getStyleClass().add("chief");
                button.setDefaultButton(true);
            }
            button.setOnAction(e -> choice.action().run());
            box.getChildren().add(button);
        }
        box.setMaxHeight(javafx.scene.layout.Region.USE_PREF_SIZE);
        getChildren().add(box);
        setId("start");
    }
}
