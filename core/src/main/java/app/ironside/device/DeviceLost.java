package app.ironside.device;

/** A device no longer answers. Once it does again, {@link Device#connect} takes it back. */
public final class DeviceLost extends DeviceException {
    public DeviceLost(String device) {
        super(
                device,
                "it does not answer",
                "Look at its power and its cable; it is connected again as soon as it answers.");
    }
}
