package app.ironside.night;

import app.ironside.device.NightClock;
import app.ironside.guide.GuideSample;
import app.ironside.image.Frame;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The one way into the journal: stamps the time, writes, tells the watcher. */
public final class NightRecord {
    private final Journal journal;
    private final NightClock clock;
    private final NightWatcher watcher;

    public NightRecord(Journal journal, NightClock clock, NightWatcher watcher) {
        this.journal = journal;
        this.clock = clock;
        this.watcher = watcher;
    }

    /** Facts in the order given: name, value, name, value. */
    public static Map<String, Object> facts(Object... namesAndValues) {
        Map<String, Object> facts = new LinkedHashMap<>();
        for (int i = 0; i < namesAndValues.length; i += 2) {
            facts.put((String) namesAndValues[i], namesAndValues[i + 1]);
        }
        return facts;
    }

    void event(EventKind kind, String text, Map<String, Object> facts) {
        eventAt(clock.now(), kind, text, facts);
    }

    /** Something that happened earlier and is told only now. */
    void eventAt(Instant time, EventKind kind, String text, Map<String, Object> facts) {
        NightEvent event = new NightEvent(time, kind, text, facts);
        journal.append(event);
        watcher.event(event);
    }

    /** Writes a gate and returns whether it is passed. */
    boolean gate(Gate gate) {
        event(
                EventKind.GATE,
                gate.text(),
                facts(
                        "stage", gate.stage().name(),
                        "measured", gate.measured(),
                        "limit", gate.limit(),
                        "unit", gate.unit(),
                        "atMost", gate.atMost(),
                        "passed", gate.passed()));
        return gate.passed();
    }

    void stage(Stage stage) {
        event(EventKind.STAGE, stage.title() + " begins.", facts("stage", stage.name()));
    }

    /** The watch has stopped the mount. */
    public void mountStopped(String sentence) {
        fault(Stage.RUN, sentence);
    }

    void fault(Stage stage, String text) {
        event(EventKind.FAULT, text, facts("stage", stage.name()));
    }

    void doing(Stage stage, String what, Duration about) {
        watcher.doing(stage, what, clock.now(), about);
    }

    void confirm(String what) throws InterruptedException {
        watcher.confirm(what);
    }

    void frame(Stage stage, String caption, Frame frame, Optional<StarField> stars) {
        watcher.frame(stage, caption, frame, stars);
    }

    void guiding(List<GuideSample> recent) {
        watcher.guiding(recent);
    }

    List<NightEvent> events() {
        return journal.events();
    }
}
