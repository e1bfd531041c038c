package app.ironside.device;

/** There are no stars to work by: cloud, a cap, daylight. Unlike a device that fails, this may pass by itself. */
public final class SkyShut extends DeviceException {
    public SkyShut(String device, String what, String remedy) {
        super(device, what, remedy);
    }
}
