package app.ironside.desk.night;

import app.ironside.desk.parts.Words;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.Gate;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StepProven;
import app.ironside.journal.Troubles;
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

    public static RailState of(NightState night, int logbookNights) {
        List<Station> stations = new ArrayList<>();
        Optional<Stage> now = night.ended() ? Optional.empty() : night.stage();
        for (Stage stage : Stage.values()) {
            stations.add(station(stage, night, now, logbookNights));
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

    private static Station station(Stage stage, NightState night, Optional<Stage> now, int nights) {
        Optional<Gate> gate = night.gate(stage).map(GateMeasured::gate);
        boolean working = now.isPresent() && now.get() == stage;
        if (stage == Stage.LOGBOOK) {
            boolean ended = night.ended();
            return new Station(
                    stage, ended ? Standing.PASSED : Standing.WAITING, nights + (nights == 1 ? " night" : " nights"));
        }
        if (stage == Stage.RUN && !night.subs().isEmpty()) {
            Optional<Troubles.Lasting> wrong = working ? Troubles.present(night) : Optional.empty();
            if (wrong.filter(t -> t.last().losing()).isPresent()) {
                return new Station(stage, Standing.FAILED, wrong.get().trouble().what());
            }
            Standing standing = working ? Standing.WORKING : night.kept() > 0 ? Standing.PASSED : Standing.FAILED;
            return new Station(
                    stage, standing, night.kept() + " kept of " + night.subs().size());
        }
        if (gate.isEmpty() && night.isWatched() && stage != Stage.RUN) {
            return new Station(stage, Standing.WAITING, "not ours to see");
        }
        if (gate.isEmpty()) {
            return new Station(stage, working ? Standing.WORKING : Standing.WAITING, working ? "under way" : "to come");
        }
        boolean passed = gate.get().passed();
        Standing standing = passed ? Standing.PASSED : working ? Standing.WORKING : Standing.FAILED;
        return new Station(stage, standing, value(stage, gate.get(), night));
    }

    private static String value(Stage stage, Gate gate, NightState night) {
        double measured = gate.measured().orElse(0);
        double limit = gate.limit();
        return switch (stage) {
            case PLAN -> Words.format("%.0f subs fit", measured);
            case READY -> {
                // The sky itself proves clock and place, after the gate.
                List<StepProven> told = night.steps();
                long proven = told.stream().filter(StepProven::proven).count();
                yield Words.format("%d of %d proven", proven, Math.max(told.size(), (int) limit));
            }
            case POLAR -> Words.format("%.2f′ of %.1f′", measured, limit);
            case POINT -> Words.format("%.0f″ of %.0f″", measured, limit);
            case FOCUS -> night.last(FocusSwept.class)
                    .map(f -> Words.format(
                            "%.2f px, R² %.3f",
                            f.verdict().bestSize(), f.verdict().rSquared()))
                    .orElse("");
            case GUIDE -> gate.measured().isEmpty() ? "no star" : Words.format("%.2f″ RMS", measured);
            case CALIBRATE -> Words.format("%.0f of %.0f masters", measured, limit);
            case STACK -> Words.format(measured == 1 ? "%.0f stack" : "%.0f stacks", measured);
            default -> "";
        };
    }
}
