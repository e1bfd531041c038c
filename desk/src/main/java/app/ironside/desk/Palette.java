package app.ironside.desk;

import javafx.scene.Scene;

/** The three looks of the desk; each is one stylesheet of looked-up colours. */
public enum Palette {
    DUSK("Dusk", "dusk.css"),
    RED("Red", "red.css"),
    PAPER("Paper", "paper.css");

    private final String title;
    private final String file;

    Palette(String title, String file) {
        this.title = title;
        this.file = file;
    }

    public String title() {
        return title;
    }

    /** Puts a whole scene, with what pops up over it, into this look. */
    void dress(Scene scene) {
        scene.getStylesheets().setAll(stylesheet("desk.css"), stylesheet(file));
    }

    private static String stylesheet(String file) {
        return Palette.class.getResource(file).toExternalForm();
    }

    Palette next() {
        return values()[(ordinal() + 1) % values().length];
    }
}
