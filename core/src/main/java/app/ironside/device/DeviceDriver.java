package app.ironside.device;

import app.ironside.kit.Kit;
import app.ironside.sky.Site;
import java.util.Set;

/**
 * The door for drivers of real devices: a provider found through {@code ServiceLoader}, in a jar beside the application. How to write one
 * is told in docs/DRIVERS.md.
 */
public interface DeviceDriver {
    /** A name for people, by which a kit's file names it; no two drivers share one. */
    String name();

    /** What it drives and what its address is, in a sentence. */
    String about();

    /** What it can be in a kit. */
    Set<DeviceRole> roles();

    /** Whether another program takes the frames, and this driver finds them in a folder. */
    default boolean isByFolder() {
        return false;
    }

    /**
     * What a device is made with.
     *
     * @param address where the device is, as the user gave it: a folder, a port, host:port; may be empty
     * @param clock by which it measures time and waits
     * @param hands whoever does what the device cannot do by itself
     * @param trial whether it is only tried: what does not fit the kit is then shown, and not refused
     */
    record Setup(Site site, Kit kit, String address, NightClock clock, Hands hands, boolean trial) {}

    /**
     * Makes a device, not yet connected: {@link Device#connect} does that.
     *
     * @return an instance of the role's {@link DeviceRole#port}
     * @throws DeviceException if the address cannot be one
     */
    Device device(DeviceRole role, Setup setup);
}
