package app.ironside.device;

import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;

/** An equatorial mount. */
public interface Mount {
    /** On which side of the pier the telescope is; it looks to the other. */
    enum PierSide {
        EAST,
        WEST;

        public PierSide other() {
            return this == EAST ? WEST : EAST;
        }

        /** The side of a name as a header or journal has it; empty if it is none. */
        public static Optional<PierSide> named(String name) {
            return Arrays.stream(values())
                    .filter(s -> s.name().equalsIgnoreCase(name.strip()))
                    .findFirst();
        }
    }

    /** The direction of a guide pulse, as the telescope moves on the sky. */
    enum Direction {
        NORTH,
        SOUTH,
        EAST,
        WEST
    }

    void unpark();

    /** Goes to the parking place and stops tracking. */
    void park();

    boolean isParked();

    /** Stops every movement, tracking too; where it stands it stays. A slew tracks again at its end. */
    void stop();

    /** Whether it follows the sky, or is on its way to do so. */
    boolean isTracking();

    /**
     * Starts a slew and tracks at its end.
     *
     * @param side of the pier to arrive on
     * @throws DeviceException if parked, if the target is too near the Sun, or if the mount may not go there
     */
    void slewTo(Equatorial target, PierSide side);

    /** Turns the right-ascension axis only, by an angle, west positive. */
    void turnRightAscensionAxis(double degrees);

    /** Until the mount stands still and tracks; zero if it does. */
    Duration remaining();

    /** Tells the mount where it really points. */
    void sync(Equatorial truth);

    /** Where the mount believes it points. */
    Equatorial pointing();

    PierSide pierSide();

    /** Starts a guide pulse and returns at once. */
    void pulse(Direction direction, Duration length);

    /** Slews and waits. */
    default void slewAndWait(NightClock clock, Equatorial target, PierSide side) throws InterruptedException {
        slewTo(target, side);
        clock.await(remaining());
    }
}
