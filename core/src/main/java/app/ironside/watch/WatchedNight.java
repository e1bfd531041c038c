package app.ironside.watch;

import app.ironside.journal.FaultTold;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.SubLook;
import app.ironside.night.SubLooks;
import app.ironside.sky.Observer;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;

/** What a night's subs showed to be wrong, each time judged only by those before it, and what would have been told aloud. */
public final class WatchedNight {
    /** A night that takes no sub for so long after a fault loses light. */
    private static final Duration PATIENCE = Duration.ofMinutes(10);

    private WatchedNight() {}

    /**
     * What was found.
     *
     * @param diagnoses one for each time that a trouble lasted, as it stood at its end, in time
     * @param alerts in time
     */
    public record Told(List<Finding> diagnoses, List<Alert> alerts) {}

    /** Of a night so far. */
    public static Told of(NightState night, Observer observer) {
        SubLooks looks = new SubLooks(observer);
        Map<String, Finding> diagnoses = new LinkedHashMap<>();
        List<Alert> alerts = new ArrayList<>();
        Episodes episodes = new Episodes();
        List<SubTaken> ofTarget = new ArrayList<>();
        for (SubTaken sub : night.subs()) {
            if (!ofTarget.isEmpty() && !ofTarget.get(0).target().equals(sub.target())) {
                ofTarget.clear();
            }
            ofTarget.add(sub);
            List<SubLook> shown = ofTarget.stream().map(looks::of).toList();
            List<Grade> grades = Grader.grade(shown);
            List<Watched> watched = new ArrayList<>();
            for (int i = 0; i < grades.size(); i++) {
                watched.add(watched(grades.get(i), ofTarget.get(i)));
            }
            List<Finding> found = SubsWatch.findings(watched);
            found.forEach(f -> diagnoses.put(f.trouble() + " " + f.since(), f));
            alerts.addAll(episodes.next(found, sub.time()).alerts());
        }
        for (FaultTold fault : night.all(FaultTold.class)) {
            alerts.add(alert(fault, night));
        }
        alerts.sort(Comparator.comparing(Alert::time));
        return new Told(
                diagnoses.values().stream()
                        .sorted(Comparator.comparing(Finding::since)
                                .thenComparing(Comparator.comparingDouble(Finding::certainty)
                                        .reversed()))
                        .toList(),
                List.copyOf(alerts));
    }

    private static Watched watched(Grade grade, SubTaken sub) {
        Optional<app.ironside.journal.SubMeasures.FieldShape> shape =
                sub.measures().field();
        return new Watched(
                grade,
                shape.map(s -> s.trailing()).orElse(0.0),
                shape.map(s -> s.trailingAngleDeg()).orElse(0.0),
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                sub.circumstances().hourAngleDeg());
    }

    /** A fault that the night got over by itself is worth a note; one after which no sub was begun wakes. */
    private static Alert alert(FaultTold fault, NightState night) {
        Instant until = fault.time().plus(PATIENCE);
        boolean lights = night.subs().stream()
                .anyMatch(s ->
                        s.time().isAfter(fault.time()) || s.exposed().from().isAfter(fault.time()));
        boolean over = night.subs().stream()
                .map(s -> s.exposed().from())
                .anyMatch(t -> t.isAfter(fault.time()) && t.isBefore(until));
        boolean wake = lights && !over;
        return new Alert(wake ? until : fault.time(), wake, Trouble.DEVICE, fault.text());
    }
}
