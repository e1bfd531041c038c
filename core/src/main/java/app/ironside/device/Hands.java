package app.ironside.device;

/** Whoever does at the telescope what no motor does: a person in the field, simulated hands in a rehearsal. */
public interface Hands {
    /**
     * Asks for turns of the two knobs of the mount's base and returns when they are done.
     *
     * @param altitudeTurns positive raises the axis
     * @param azimuthTurns positive moves the axis east
     */
    void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException;

    /**
     * Asks for something to be done or looked at, and returns when it is.
     *
     * @param what in words: "level the tripod"
     */
    void confirm(String what) throws InterruptedException;
}
