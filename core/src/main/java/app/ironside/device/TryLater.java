package app.ironside.device;

/**
 * What was tried failed for a reason that may pass by itself or that somebody may take away while the night waits: no stars, a field that
 * is not recognised, exposures that do not agree. Unlike a device that fails, it is tried again later.
 */
public final class TryLater extends DeviceException {
    public TryLater(String device, String what, String remedy) {
        super(device, what, remedy);
    }
}
