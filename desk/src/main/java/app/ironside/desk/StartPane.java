package app.ironside.desk;

import java.util.ArrayList;
import java.util.List;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What to do first: a question over the desk with a few large answers. */
final class StartPane extends StackPane {
    /** An answer; the first of several is the usual one. */
    record Choice(String id, String text, Runnable action) {}

    private final List<Button> buttons = new ArrayList<>();

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
            buttons.add(button);
            box.getChildren().add(button);
        }
        box.setMaxHeight(Region.USE_PREF_SIZE);
        getChildren().add(box);
        setId("start");
        // What lies behind waits: Tab and the arrows stay among the answers.
        addEventFilter(KeyEvent.KEY_PRESSED, e -> {
            int way =
                    switch (e.getCode()) {
                        case TAB -> e.isShiftDown() ? -1 : 1;
                        case DOWN, RIGHT -> 1;
                        case UP, LEFT -> -1;
                        default -> 0;
                    };
            if (way != 0) {
                step(way);
                e.consume();
            }
        });
        // It has the focus itself, so that a Space meant for what lies behind chooses nothing.
        setFocusTraversable(true);
        sceneProperty().addListener((o, was, is) -> {
            if (is != null) {
                Platform.runLater(this::requestFocus);
            }
        });
    }

    private void step(int way) {
        int at = way > 0 ? -1 : 0;
        for (int i = 0; i < buttons.size(); i++) {
            at = buttons.get(i).isFocused() ? i : at;
        }
        buttons.get(Math.floorMod(at + way, buttons.size())).requestFocus();
    }
}
