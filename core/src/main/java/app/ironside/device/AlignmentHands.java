package app.ironside.device;

/**
 * Whoever turns the two knobs of the mount's base: a person in the field, simulated hands in a rehearsal.
 */
public interface AlignmentHands {
    /**
     * Asks for turns and returns when they are done.
     *
     * @param altitudeTurns positive raises the axis
     * @param azimuthTurns positive moves the axis east
     */
    void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException;
}
