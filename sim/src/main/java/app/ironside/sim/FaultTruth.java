package app.ironside.sim;

import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;

/**
 * A fault as it really was in a rehearsal: what a diagnosis is scored against.
 *
 * @param until the same as {@code from} for what happens in a moment and stays
 * @param force in what the kind says
 */
public record FaultTruth(FaultKind kind, Instant from, Instant until, double force) {
    /**
     * When faults are, in a night.
     *
     * @param sunset of the night; what is set before noon belongs to the next morning
     */
    public static List<FaultTruth> of(List<RehearsedFault> faults, ZoneId zone, Instant sunset) {
        LocalDate evening = sunset.atZone(zone).toLocalDate();
        return faults.stream()
                .map(f -> {
                    LocalDate day = f.at().isBefore(LocalTime.NOON) ? evening.plusDays(1) : evening;
                    // What is in the kit's file is so from the beginning.
                    Instant from = f.kind() == FaultKind.WRONG_FOCAL_LENGTH
                            ? sunset
                            : day.atTime(f.at()).atZone(zone).toInstant();
                    return new FaultTruth(f.kind(), from, from.plus(f.lasts()), f.force());
                })
                .toList();
    }

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
