package app.ironside.night;

import app.ironside.device.DeviceException;
import app.ironside.device.NightClock;
import app.ironside.guide.GuideSample;
import app.ironside.image.Frame;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Gate;
import app.ironside.journal.GateMeasured;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.StepProven;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** The one way into the journal: writes, keeps the state that follows, tells the watcher. */
public final class NightRecord {
    private final Journal journal;
    private final NightClock clock;
    private final NightWatcher watcher;
    private NightState state;

    public NightRecord(Journal journal, NightClock clock, NightWatcher watcher) {
        this.journal = journal;
        this.clock = clock;
        this.watcher = watcher;
        this.state = NightState.of(journal.events());
    }

    /** The time with which an event is told now. */
    Instant now() {
        return clock.now();
    }

    void tell(NightEvent event) {
        journal.append(event);
        state = state.with(event);
        watcher.event(event);
    }

    /** Writes a gate and returns whether it is passed. */
    boolean gate(Gate gate, String text) {
        tell(new GateMeasured(now(), text, gate));
        return gate.passed();
    }

    /**
     * Writes down a step of bringing the kit up.
     *
     * @param measured what proves it, or what was found instead
     */
    void step(String subject, String what, String measured, boolean proven) {
        tell(new StepProven(
                now(),
                subject + ": " + what + (proven ? ", " + measured + "." : ": not proven."),
                subject,
                what,
                measured,
                proven));
    }

    void stage(Stage stage) {
        tell(new StageBegan(now(), stage.title() + " begins.", stage));
    }

    /** The watch has stopped the mount. */
    public void mountStopped(String sentence) {
        fault(Stage.RUN, sentence);
    }

    /** A device says by itself what a person should know. */
    public void deviceSaid(String sentence) {
        fault(state.stage().orElse(Stage.READY), sentence);
    }

    void fault(Stage stage, String text) {
        tell(new FaultTold(now(), text, stage, Optional.empty()));
    }

    /** Tells of a device that did not do what it was asked. */
    void fault(Stage stage, DeviceException failed) {
        fault(stage, failed, "");
    }

    /**
     * As above.
     *
     * @param more what is done about it; may be empty
     */
    void fault(Stage stage, DeviceException failed, String more) {
        String text = failed.getMessage() + (more.isEmpty() ? "" : " " + more);
        tell(new FaultTold(now(), text, stage, Optional.of(failed.device())));
    }

    void doing(Stage stage, String what, Duration about) {
        watcher.doing(stage, what, clock.now(), about);
    }

    void frame(Stage stage, String caption, Frame frame, Optional<StarField> stars) {
        watcher.frame(stage, caption, frame, stars);
    }

    void guided(GuideSample sample) {
        journal.guided(sample);
        watcher.guided(sample);
    }

    /** How the night stands. */
    NightState state() {
        return state;
    }
}
