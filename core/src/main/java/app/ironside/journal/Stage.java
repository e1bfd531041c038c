package app.ironside.journal;

/** The stages of the work, in their order. */
public enum Stage {
    PLAN("Plan"),
    READY("Ready"),
    POLAR("Polar"),
    POINT("Point"),
    FOCUS("Focus"),
    GUIDE("Guide"),
    RUN("Run"),
    CALIBRATE("Calibrate"),
    STACK("Stack"),
    LOGBOOK("Logbook");

    private final String title;

    Stage(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }
}
