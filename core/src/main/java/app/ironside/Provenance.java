package app.ironside;

/** Where something measured comes from. What a rehearsal gave is never used for a real night: the simulator's devices are not the user's. */
public enum Provenance {
    /** Devices under the sky. */
    REAL("measured"),
    /** The sky, through frames that another program takes and puts into a folder. */
    BY_FOLDER("by-folder"),
    /** The sky, through frames of a night that is run by somebody else and only looked on at. */
    WATCHED("watched"),
    /** The simulated observatory. */
    REHEARSED("rehearsed");

    private final String word;

    Provenance(String word) {
        this.word = word;
    }

    /** In file names and journals. */
    public String word() {
        return word;
    }

    /** Whether the devices were the user's own. */
    public boolean isReal() {
        return this != REHEARSED;
    }
}
