package app.ironside.device;

import app.ironside.kit.Kit;
import app.ironside.sky.Site;

/** The door for drivers of real devices: a provider found through {@code ServiceLoader}. */
public interface DeviceDriver {
    /** A name for people. */
    String name();

    /**
     * Connects the devices of a kit.
     *
     * @throws DeviceException naming the device that did not answer
     */
    Devices connect(Site site, Kit kit, NightClock clock);
}
