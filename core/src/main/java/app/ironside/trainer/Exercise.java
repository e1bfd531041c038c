package app.ironside.trainer;

import app.ironside.Check;
import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.NightState;
import app.ironside.journal.TroubleOver;
import app.ironside.journal.TroubleSeen;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A night in which something goes wrong, to be found and mended.
 *
 * @param id in files
 * @param grade 1 for what shows at once and has one remedy, 2 for what grows slowly or is easily taken for something else, 3 for two things
 *     at once
 * @param title what a person would say who saw no more than they: it does not tell the cause
 * @param told before it begins
 * @param faults counted from the first sub
 * @param remedy what helps, told afterwards
 */
public record Exercise(String id, int grade, String title, String told, List<Fault> faults, String remedy) {
    /** A fault counted from the first sub. */
    public record Fault(FaultKind kind, int afterMinutes, Optional<Double> minutes, Optional<Double> strength) {
        public Fault {
            Check.inRange("afterMinutes", afterMinutes, 0, 600);
        }

        static Fault of(FaultKind kind, int afterMinutes) {
            return new Fault(kind, afterMinutes, Optional.empty(), Optional.empty());
        }

        static Fault lasting(FaultKind kind, int afterMinutes, double minutes) {
            return new Fault(kind, afterMinutes, Optional.of(minutes), Optional.empty());
        }

        RehearsedFault from(LocalTime first) {
            return new RehearsedFault(kind, first.plusMinutes(afterMinutes), minutes, strength);
        }
    }

    /** An exercise lasts so long after its first sub. */
    public static final Duration LENGTH = Duration.ofMinutes(120);

    public Exercise {
        Check.name("the id of an exercise", id);
        Check.inRange("grade", grade, 1, 3);
        faults = List.copyOf(faults);
    }

    /** What goes wrong when the first sub begins at a local time. */
    public List<RehearsedFault> faultsFrom(LocalTime first) {
        return faults.stream().map(f -> f.from(first)).toList();
    }

    /** A night's own troubles as an exercise, as far as the simulator knows them; empty if it knows none. */
    public static Optional<Exercise> of(NightState night, ZoneId zone, String title) {
        Optional<Instant> first =
                night.subs().stream().findFirst().map(s -> s.exposed().from());
        List<Fault> faults = new ArrayList<>();
        for (TroubleSeen seen : night.all(TroubleSeen.class)) {
            Arrays.stream(FaultKind.values())
                    .filter(k -> k.word().equals(seen.trouble().word()))
                    .findFirst()
                    .filter(k -> first.isPresent() && faults.stream().noneMatch(f -> f.kind() == k))
                    .ifPresent(k -> faults.add(new Fault(
                            k,
                            (int) Math.max(
                                    0, Math.min(90, ChronoUnit.MINUTES.between(first.orElseThrow(), seen.since()))),
                            lasted(night, seen),
                            Optional.empty())));
        }
        return faults.isEmpty()
                ? Optional.empty()
                : Optional.of(new Exercise(
                        "night-"
                                + night.subs()
                                        .get(0)
                                        .exposed()
                                        .from()
                                        .atZone(zone)
                                        .toLocalDate(),
                        faults.size() > 1 ? 3 : 2,
                        title,
                        "What went wrong in this night goes wrong again, as the journal has it.",
                        faults,
                        ""));
    }

    private static Optional<Double> lasted(NightState night, TroubleSeen seen) {
        return night.all(TroubleOver.class).stream()
                .filter(o -> o.trouble() == seen.trouble() && o.time().isAfter(seen.time()))
                .findFirst()
                .map(o -> (double) Math.max(1, ChronoUnit.MINUTES.between(seen.since(), o.time())));
    }
}
