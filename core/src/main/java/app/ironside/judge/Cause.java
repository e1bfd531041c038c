package app.ironside.judge;

/** The main thing that lowers a sub. */
public enum Cause {
    GOOD("good"),
    CLOUD("cloud"),
    DEW("dew"),
    FOCUS("focus"),
    SEEING("seeing"),
    TRAILED("trailed"),
    TWILIGHT("twilight"),
    MOONLIGHT("moonlight"),
    LOW("low"),
    WRONG_FIELD("wrong-field"),
    NO_STARS("no-stars");

    private final String word;

    Cause(String word) {
        this.word = word;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }
}
