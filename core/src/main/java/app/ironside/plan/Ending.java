package app.ironside.plan;

import java.util.Optional;

/**
 * How a night ends, and where its frames go besides.
 *
 * @param order which comes first
 * @param disconnect whether the devices' connections are closed at the very end
 * @param copyTo folder for a second copy of every frame; empty for none
 */
public record Ending(Order order, boolean disconnect, Optional<String> copyTo) {
    /** In which order the telescope is put to rest. */
    public enum Order {
        /** The mount stops moving first; what takes minutes comes after. */
        PARK_FIRST("park, calibration frames, warm up"),
        /** For a telescope that is covered by hand where it stands. */
        WARM_FIRST("calibration frames where it stands, warm up, park");

        private final String words;

        Order(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    public static final Ending USUAL = new Ending(Order.PARK_FIRST, false, Optional.empty());

    public Ending withOrder(Order other) {
        return new Ending(other, disconnect, copyTo);
    }

    public Ending withDisconnect(boolean other) {
        return new Ending(order, other, copyTo);
    }

    public Ending withCopyTo(Optional<String> other) {
        return new Ending(order, disconnect, other);
    }
}
