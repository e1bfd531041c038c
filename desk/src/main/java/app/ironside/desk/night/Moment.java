package app.ironside.desk.night;

import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.Stage;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * The night up to one moment: what every screen shows. In a live night the moment is now; dragged, it is any other.
 *
 * @param events up to the moment, oldest first
 */
public record Moment(Instant time, boolean live, List<NightEvent> events) {
    public Moment {
        events = List.copyOf(events);
    }

    /** The night up to a time. */
    public static Moment at(Instant time, boolean live, List<NightEvent> all) {
        return new Moment(
                time, live, all.stream().filter(e -> !e.time().isAfter(time)).toList());
    }

    public List<NightEvent> of(EventKind kind) {
        return events.stream().filter(e -> e.kind() == kind).toList();
    }

    public Optional<NightEvent> last(EventKind kind) {
        List<NightEvent> all = of(kind);
        return all.isEmpty() ? Optional.empty() : Optional.of(all.get(all.size() - 1));
    }

    /** The chosen event if it is of a kind, else the last of that kind. */
    Optional<NightEvent> evidence(Optional<NightEvent> chosen, EventKind kind) {
        return chosen.filter(e -> e.kind() == kind).or(() -> last(kind));
    }

    public Optional<NightEvent> lastGate(Stage stage) {
        return of(EventKind.GATE).stream()
                .filter(e -> e.text("stage").orElse("").equals(stage.name()))
                .reduce((a, b) -> b);
    }

    public Optional<Stage> stage() {
        return last(EventKind.STAGE).flatMap(e -> e.text("stage")).map(Stage::valueOf);
    }

    long subs() {
        return of(EventKind.SUB).size();
    }

    long kept() {
        return of(EventKind.SUB).stream().filter(e -> e.isTrue("keep")).count();
    }

    /** The station on which an event's evidence is shown. */
    public static Stage stationOf(NightEvent event) {
        return switch (event.kind()) {
            case NIGHT_STARTED, NIGHT_RESUMED, PLAN -> Stage.PLAN;
            case DEVICE -> Stage.READY;
            case POLAR, KNOBS -> Stage.POLAR;
            case SOLVE, CENTRED -> Stage.POINT;
            case FOCUS -> Stage.FOCUS;
            case GUIDE_CALIBRATED, GUIDE_SETTLED, DITHER -> Stage.GUIDE;
            case SUB, REGRADED, FLIP, PARKED -> Stage.RUN;
            case CALIBRATION, MASTER -> Stage.CALIBRATE;
            case STACK -> Stage.STACK;
            case NIGHT_ENDED -> Stage.LOGBOOK;
            case STAGE, GATE, FAULT -> event.text("stage").map(Stage::valueOf).orElse(Stage.LOGBOOK);
        };
    }
}
