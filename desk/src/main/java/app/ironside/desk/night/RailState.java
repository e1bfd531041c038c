package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.Stage;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What the rail shows: each station with its gate as a shape, a word and the measured value. */
public record RailState(List<Station> stations) {
    /** How a station stands. */
    public enum Standing {
        WAITING,
        WORKING,
        PASSED,
        FAILED
    }

    public record Station(Stage stage, Standing standing, String value) {}

    public static RailState of(Moment moment, int logbookNights) {
        List<Station> stations = new ArrayList<>();
        Optional<Stage> now = moment.last(EventKind.NIGHT_ENDED).isPresent() ? Optional.empty() : moment.stage();
        for (Stage stage : Stage.values()) {
            stations.add(station(stage, moment, now, logbookNights));
        }
        return new RailState(stations);
    }

    /** While a night is planned that has not begun, the rail says what the plan holds. */
    public RailState planning(int subs) {
        List<Station> next = new ArrayList<>(stations);
        Standing standing = subs > 0 ? Standing.PASSED : Standing.FAILED;
        next.set(
                Stage.PLAN.ordinal(),
                new Station(Stage.PLAN, standing, subs > 0 ? Words.format("%d subs fit", subs) : "nothing is up"));
        return new RailState(next);
    }

    private static Station station(Stage stage, Moment moment, Optional<Stage> now, int nights) {
        Optional<NightEvent> gate = moment.lastGate(stage);
        boolean working = now.isPresent() && now.get() == stage;
        if (stage == Stage.LOGBOOK) {
            boolean ended = moment.last(EventKind.NIGHT_ENDED).isPresent();
            return new Station(
                    stage, ended ? Standing.PASSED : Standing.WAITING, nights + (nights == 1 ? " night" : " nights"));
        }
        if (stage == Stage.RUN && moment.subs() > 0) {
            Standing standing = working ? Standing.WORKING : moment.kept() > 0 ? Standing.PASSED : Standing.FAILED;
            return new Station(stage, standing, moment.kept() + " kept of " + moment.subs());
        }
        if (gate.isEmpty()) {
            return new Station(stage, working ? Standing.WORKING : Standing.WAITING, working ? "under way" : "to come");
        }
        boolean passed = gate.get().isTrue("passed");
        Standing standing = passed ? Standing.PASSED : working ? Standing.WORKING : Standing.FAILED;
        return new Station(stage, standing, value(stage, gate.get(), moment));
    }

    private static String value(Stage stage, NightEvent gate, Moment moment) {
        double measured = gate.number("measured").orElse(0);
        double limit = gate.number("limit").orElse(0);
        return switch (stage) {
            case PLAN -> Words.format("%.0f subs fit", measured);
            case READY -> {
                // The sky itself proves clock and place, after the gate.
                List<NightEvent> told = moment.of(EventKind.DEVICE);
                long proven = told.stream().filter(e -> e.isTrue("proven")).count();
                yield Words.format("%d of %d proven", proven, Math.max(told.size(), (int) limit));
            }
            case POLAR -> Words.format("%.2f′ of %.1f′", measured, limit);
            case POINT -> Words.format("%.0f″ of %.0f″", measured, limit);
            case FOCUS -> moment.last(EventKind.FOCUS)
                    .map(f -> Words.format(
                            "%.2f px, R² %.3f",
                            f.number("bestSize").orElse(0), f.number("rSquared").orElse(0)))
                    .orElse("");
            case GUIDE -> measured > 1000 ? "no star" : Words.format("%.2f″ RMS", measured);
            case CALIBRATE -> Words.format("%.0f of %.0f masters", measured, limit);
            case STACK -> Words.format("%.0f stacks", measured);
            default -> "";
        };
    }
}
