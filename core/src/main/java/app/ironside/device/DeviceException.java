package app.ironside.device;

/** A device did not do what it was asked. The message names the device, what happened and what to try. */
public class DeviceException extends RuntimeException {
    private final String device;
    private final String problem;

    public DeviceException(String device, String what, String remedy) {
        super(device + ": " + what + ". " + remedy);
        this.device = device;
        this.problem = what;
    }

    /** What happened, in a clause. */
    public String problem() {
        return problem;
    }

    /** Which device, in the words of the field: "mount". */
    public String device() {
        return device;
    }
}
