package app.ironside.focus;

/** The schools of reading best focus from a sweep. */
public enum FocusMethod {
    /** Fits size² = a² + b²(x − c)²: what geometry predicts for a cone of light with a smallest disc. */
    HYPERBOLA("hyperbola"),
    /** Fits a parabola: good close to focus only. */
    PARABOLA("parabola"),
    /** Mean position of the three smallest sizes. */
    LOWEST_THREE("lowest-three"),
    /** Crossing of two straight lines through the arms. */
    TREND_LINES("trend-lines");

    private final String word;

    FocusMethod(String word) {
        this.word = word;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }
}
