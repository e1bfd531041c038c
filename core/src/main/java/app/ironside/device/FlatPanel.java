package app.ironside.device;

/** An even light before the telescope. */
public interface FlatPanel {
    /**
     * Covers the telescope and lights the panel.
     *
     * @param brightness 0 to 1 of its brightest
     */
    void light(double brightness);

    /** Covers the telescope with the panel dark, as darks want it. */
    void cover();

    /** Uncovers the telescope. */
    void open();
}
