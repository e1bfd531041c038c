package app.ironside.device;

/** A filter wheel; slots count from 0. */
public interface FilterWheel extends Device {
    int slot();

    /** Starts turning. */
    Operation select(int slot);

    @Override
    default String name() {
        return "filter wheel";
    }
}
