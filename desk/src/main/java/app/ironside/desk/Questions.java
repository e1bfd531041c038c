package app.ironside.desk;

import app.ironside.desk.parts.FilePane;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** What is asked over the desk; what lies behind waits. One question at a time. */
final class Questions {
    private final StackPane over;

    Questions(StackPane over) {
        this.over = over;
    }

    void ask(String heading, String explanation, List<StartPane.Choice> choices) {
        show(new StartPane(heading, explanation, choices));
    }

    /** A page of its own. */
    void show(FirstNightPane page) {
        show((Node) page);
    }

    /** How the night tells a person. */
    void show(TellingPane page) {
        show((Node) page);
    }

    private void show(Node page) {
        dismiss();
        over.getChildren().add(page);
    }

    void dismiss() {
        over.getChildren()
                .removeIf(node ->
                        node instanceof StartPane || node instanceof FirstNightPane || node instanceof TellingPane);
        over.requestFocus();
    }

    boolean isAsking() {
        return over.getChildren().stream()
                .anyMatch(node -> node instanceof StartPane
                        || node instanceof FilePane
                        || node instanceof FirstNightPane
                        || node instanceof TellingPane);
    }
}
