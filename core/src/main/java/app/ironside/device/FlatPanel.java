package app.ironside.device;

/** An even light before the telescope. */
public interface FlatPanel extends Device {
    /**
     * Covers the telescope and lights the panel.
     *
     * @param brightness 0 to 1 of its brightest
     */
    Operation light(double brightness);

    /** Covers the telescope with the panel dark, as darks want it. */
    Operation cover();

    /** Uncovers the telescope. */
    Operation open();

    @Override
    default String name() {
        return "flat panel";
    }
}
