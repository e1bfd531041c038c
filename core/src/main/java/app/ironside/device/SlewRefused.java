package app.ironside.device;

/** The mount was not sent where it must not go; it has not moved. */
public final class SlewRefused extends DeviceException {
    public SlewRefused(String what, String remedy) {
        super("mount", what, remedy);
    }
}
