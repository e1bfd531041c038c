package app.ironside.device;

/** Turns the camera about the optical axis. */
public interface Rotator extends Device {
    /** Its own angle, degrees from 0 to 360; what that is on the sky is found by solving. */
    double angleDeg();

    /** Starts turning to an angle of its own. */
    Operation turnTo(double angleDeg);

    @Override
    default String name() {
        return "rotator";
    }
}
