package app.ironside.watch;

/** What can be seen in subs that something is wrong with. The words are those of the faults of a rehearsal, where there is one. */
public enum Trouble {
    CLOUD(
            "cloud",
            false,
            "Wait. If pointing elsewhere does not bring the stars back, it is dew or frost and not cloud."),
    DEW(
            "dew",
            true,
            "Heater up and look at the front glass; if pointing elsewhere brings the stars back, it is cloud."),
    FOCUS("focuser-slip", true, "Focus again now; if it comes back within the hour, lock the focuser."),
    SEEING("seeing", false, "Nothing to mend: the air. Longer focal lengths may wait, wider fields go on."),
    WIND("wind", false, "Shield the telescope from wind; shorter subs lose less to a gust."),
    CABLE("cable", true, "Look how the cables hang and what comes near the tripod before the next sub."),
    GEAR("gear-error", false, "Guide with shorter exposures; look at balance and mesh by day."),
    POLAR("polar-error", true, "Measure the polar axis again; until then shorter subs stay round."),
    TWILIGHT(
            "twilight",
            false,
            "In the evening wait for the dark; in the morning the lights are over, darks and flats are next."),
    MOON("moon", false, "Narrow filters lose least while the Moon is up."),
    WRONG_FIELD("wrong-field", true, "Solve and point again: the telescope does not look where it did."),
    NO_STARS("no-stars", true, "Look at cap, roof and sky; if they are open and clear, at shutter and focuser."),
    DEVICE("device", true, "Look at the device that is named: its power, its cable, what it stands against."),
    NO_FRAMES("no-frames", true, "Look whether the camera and its program still run, and whether the disk has room.");

    private final String word;
    private final boolean handsHelp;
    private final String remedy;

    Trouble(String word, boolean handsHelp, String remedy) {
        this.word = word;
        this.handsHelp = handsHelp;
        this.remedy = remedy;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }

    /** Whether somebody who gets up can do something about it. */
    public boolean handsHelp() {
        return handsHelp;
    }

    public String remedy() {
        return remedy;
    }
}
