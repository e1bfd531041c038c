package app.ironside.desk.parts;

import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.Scene;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextInputControl;
import javafx.scene.layout.GridPane;

/**
 * What a screen reader says of a control: its own text, else what stands beside it, in it or about it. A control gets its name when it gets
 * the focus, so that those that are made anew have one too.
 */
public final class SpokenNames {
    private SpokenNames() {}

    /** Names whatever gets the focus. */
    public static void attach(Scene scene) {
        scene.focusOwnerProperty().addListener((o, was, is) -> {
            if (is instanceof Control control) {
                name(control);
            }
        });
    }

    /** Gives a control its name, unless it has one. */
    public static void name(Control control) {
        if (control.getAccessibleText() == null
                && !(control instanceof Labeled labeled
                        && labeled.getText() != null
                        && !labeled.getText().isBlank())) {
            of(control).ifPresent(control::setAccessibleText);
        }
    }

    /** What it is called: the label before it, its tooltip, what is written in it while it is empty, its own identity. */
    static Optional<String> of(Control control) {
        return beside(control)
                .or(() -> Optional.ofNullable(control.getTooltip()).map(t -> t.getText()))
                .or(() -> control instanceof TextInputControl text
                        ? Optional.ofNullable(text.getPromptText())
                        : Optional.empty())
                .filter(words -> !words.isBlank())
                .or(() -> Optional.ofNullable(control.getId()).map(id -> id.replace('-', ' ')));
    }

    /** The nearest label before it: in its row of a grid, else among those that stand with it. */
    private static Optional<String> beside(Node node) {
        Parent parent = node.getParent();
        if (parent == null) {
            return Optional.empty();
        }
        Integer row = GridPane.getRowIndex(node);
        Optional<String> found = Optional.empty();
        for (Node sibling : parent.getChildrenUnmodifiable()) {
            if (sibling == node) {
                break;
            }
            boolean sameRow = row == null || row.equals(GridPane.getRowIndex(sibling));
            if (sameRow && sibling instanceof Label label && !label.getText().isBlank()) {
                found = Optional.of(label.getText());
            }
        }
        return found;
    }
}
