package app.ironside.sim;

import app.ironside.document.FaultKind;
import java.time.Duration;
import java.time.Instant;

/**
 * A fault as it really was in a rehearsal: what a diagnosis is scored against.
 *
 * @param until the same as {@code from} for what happens in a moment and stays
 * @param force in what the kind says
 */
public record FaultTruth(FaultKind kind, Instant from, Instant until, double force) {
    boolean begun(Instant time) {
        return !time.isBefore(from);
    }

    boolean isOn(Instant time) {
        return begun(time) && time.isBefore(until);
    }

    /** How long it has been on by a moment; no longer than it lasts. */
    double minutesBy(Instant time) {
        Instant end = time.isBefore(until) ? time : until;
        return Math.max(0, Duration.between(from, end).toMillis() / 60_000.0);
    }

    /** How much of its time has gone by, 0 to 1, and 0 again when it is over. */
    double share(Instant time) {
        double whole = Duration.between(from, until).toMillis() / 60_000.0;
        return isOn(time) && whole > 0 ? minutesBy(time) / whole : 0;
    }
}
