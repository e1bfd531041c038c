package app.ironside.device;

import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.util.Arrays;
import java.util.Optional;

/** An equatorial mount. */
public interface Mount extends Device {
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

    /**
     * What a mount can do.
     *
     * @param choosesSide whether it takes a side of the pier by itself, whatever it is told
     * @param homes whether it finds its home by switches
     * @param pulses whether it takes guide pulses
     */
    record Abilities(boolean choosesSide, boolean homes, boolean pulses) {}

    Abilities abilities();

    @Override
    default String name() {
        return "mount";
    }

    void unpark();

    /** Goes to the parking place and stops tracking. */
    Operation park();

    boolean isParked();

    /**
     * Finds its home and stands there, not tracking.
     *
     * @throws DeviceException if it cannot
     */
    Operation home();

    /** Follows the sky from where it stands, or stands still. */
    void track(boolean on);

    /** Stops every movement, tracking too; where it stands it stays. A slew tracks again at its end. */
    void stop();

    /** Whether it follows the sky, or is on its way to do so. */
    boolean isTracking();

    /**
     * Starts a slew and tracks at its end.
     *
     * @param side of the pier to arrive on; a mount that chooses by itself arrives where {@link #arrivesOn} says
     * @throws DeviceException if parked, if the target is too near the Sun, or if the mount may not go there
     */
    Operation slewTo(Equatorial target, PierSide side);

    /** The side of the pier on which a slew that began now would arrive, if one were told {@code wanted}. */
    PierSide arrivesOn(Equatorial target, PierSide wanted);

    /** Turns the right-ascension axis only, by an angle, west positive. */
    Operation turnRightAscensionAxis(double degrees);

    /** Tells the mount where it really points. */
    void sync(Equatorial truth);

    /** Where the mount believes it points. */
    Equatorial pointing();

    PierSide pierSide();

    /** Starts a guide pulse. */
    Operation pulse(Direction direction, Duration length);

    /** Slews and waits. */
    default void slewAndWait(NightClock clock, Equatorial target, PierSide side) throws InterruptedException {
        slewTo(target, side).await(clock);
    }
}
