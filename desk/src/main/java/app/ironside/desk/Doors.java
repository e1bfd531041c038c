package app.ironside.desk;

import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;

/** What lies over the desk or outside it, for hands that know no keys yet. */
final class Doors extends FlowPane {
    private static final double WIDTH = 190;

    /** What is behind them. */
    interface Doer {
        void chooseFrame();

        void showStars();

        void showDarkroom();

        void openFolder();

        void showTelling();

        void toggleKeys();

        void toggleHelp();
    }

    Doors(Doer doer) {
        super(2, 2);
        setPadding(new Insets(0, 2, 6, 8));
        setPrefWrapLength(WIDTH);
        getStyleClass().add("doors");
        getChildren()
                .addAll(
                        door(
                                "open-file",
                                "File",
                                "Look closely at a FITS, TIFF or JPEG file, whoever took it (O)",
                                doer::chooseFrame),
                        door("open-stars", "Sky", "The stars to go by: how many, and adding more (G)", doer::showStars),
                        door(
                                "open-darkroom",
                                "Develop",
                                "Folders of frames, whoever took them: what fits, what is missing, stacks of them (V)",
                                doer::showDarkroom),
                        door(
                                "open-telling",
                                "Alerts",
                                "How the night tells you: tone, notification, a program, a page for the telephone (Y)",
                                doer::showTelling),
                        door("open-folder", "Folder", "The frames of this night on the disk", doer::openFolder),
                        door("open-help", "Help", "What this station is for (F1)", doer::toggleHelp),
                        door("open-keys", "Keys", "What the keys do (?)", doer::toggleKeys));
    }

    private static Button door(String id, String label, String tip, Runnable action) {
        Button button = new Button(label);
        button.setId(id);
        button.getStyleClass().add("quiet");
        button.setTooltip(new Tooltip(tip));
        button.setOnAction(e -> action.run());
        return button;
    }
}
