package app.ironside.device;

import app.ironside.sky.Equatorial;
import java.util.Optional;

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

    /**
     * Asks for something to be looked at, and returns when it was.
     *
     * @param what is to be true, in words: "tripod: it stands level"
     * @return whether it is
     */
    boolean isSo(String what) throws InterruptedException;

    /**
     * Asks for the pole star to be set in the reticle of the polar telescope by the two knobs.
     *
     * @param what is to be true then
     * @return whether it is
     */
    boolean alignByReticle(String what) throws InterruptedException;

    /** Asks for a filter to be put in, of those that lie in a box, and returns when it is. */
    default void changeFilter(String filter) throws InterruptedException {
        confirm("filter: put in " + filter);
    }

    /**
     * Asks for a turn of the focus ring or draw tube.
     *
     * @param steps the least turn a hand makes, so many times; positive outward
     * @param stepUm travel of the focal plane for one
     */
    void focus(int steps, double stepUm) throws InterruptedException;

    /**
     * Asks for the telescope to be pointed.
     *
     * @param from where it looks now, if that is known; then the way from there is what is asked for
     */
    void point(Optional<Equatorial> from, Equatorial to) throws InterruptedException;

    /**
     * Asks for a turn of the right-ascension axis alone.
     *
     * @param degrees west positive
     */
    void turnAxis(double degrees) throws InterruptedException;

    /** Asks for a tracker to be switched on or off. */
    void track(boolean on) throws InterruptedException;

    /** Asks for an exposure by whoever moves the shutter, and does not wait: the frame that comes is the answer. */
    void expose(Camera.Exposure wanted);

    /** What was asked of the shutter is no longer wanted: its frame has come, or the wait is over. */
    void exposed();
}
