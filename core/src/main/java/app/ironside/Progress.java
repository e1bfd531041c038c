package app.ironside;

import java.util.concurrent.CancellationException;

/** How long work says what it does and how much is left, and learns that it was cancelled. Implementations are thread-safe. */
public interface Progress {
    /** Nobody watches and nobody cancels. */
    Progress NONE = (what, done) -> true;

    /**
     * Tells what is being done.
     *
     * @param what the present step in words
     * @param done the share done, 0 to 1
     * @return false if the work has been cancelled and is to leave nothing half-written
     */
    boolean report(String what, double done);

    /**
     * Reports, and ends the work if it was cancelled.
     *
     * @throws CancellationException if cancelled
     */
    default void step(String what, double done) {
        if (!report(what, done)) {
            throw new CancellationException(what);
        }
    }
}
