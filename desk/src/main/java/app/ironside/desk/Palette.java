package app.ironside.desk;

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

    String stylesheet() {
        return Palette.class.getResource(file).toExternalForm();
    }

    Palette next() {
        return values()[(ordinal() + 1) % values().length];
    }
}
