package app.ironside.kit;

/** What is done when a mount did not come out where it was sent. */
public enum Correction {
    /** The mount is told the truth and sent again: it then errs little near this place. Common practice for portable mounts. */
    SYNC,

    /**
     * The mount is left its own belief and asked for a place shifted by what it missed. For mounts that keep a model of their own, or
     * for which one is kept: telling them the truth at one place would spoil it everywhere else.
     */
    OFFSET
}
