package app.ironside.desk.session;

import app.ironside.desk.night.NightModel;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.NightFile;
import app.ironside.journal.Journal;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightControl.GatePolicy;
import app.ironside.wiring.FolderPlan;
import app.ironside.wiring.NightRun;
import app.ironside.wiring.PacedClock;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A night that runs on its own thread: a rehearsal, with the transport of its clock, or a real one, whose time nobody holds. */
public final class RunningNight implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(RunningNight.class);
    private static final long STOP_MILLIS = 8000;

    private final NightModel model;
    private final NightRun run;
    private final Optional<PacedClock> transport;
    private final Thread thread;
    private double wanted;
    private volatile String failure = "";
    private volatile boolean done;

    private RunningNight(NightModel model, NightRun run, double rate) {
        this.model = model;
        this.run = run;
        this.transport = run.clock() instanceof PacedClock paced ? Optional.of(paced) : Optional.empty();
        this.wanted = rate;
        this.thread = new Thread(this::go, "night");
        this.thread.setDaemon(true);
    }

    /** What the desk lends to a night. */
    public record Reins(NightModel model, double rate, Map<Stage, GatePolicy> gates) {}

    /**
     * Puts a rehearsal together, from its start or from where it was left; {@link #start} lets it go. On any thread.
     *
     * @param reins with how many virtual seconds pass in a real one; 0 or less as fast as it goes
     */
    static RunningNight rehearsal(Wiring wiring, Logbook logbook, NightFile file, NightEntry entry, Reins reins) {
        return made(
                logbook,
                entry,
                reins,
                (model, control) -> wiring.rehearsal(
                        file, logbook, entry, start -> new PacedClock(start, pace(reins.rate())), model, control));
    }

    /**
     * Puts a real night together and connects its devices.
     *
     * @throws app.ironside.BadInputException if a driver is missing
     * @throws app.ironside.device.DeviceException if a device does not answer
     */
    static RunningNight live(Wiring wiring, Logbook logbook, NightFile file, NightEntry entry, Reins reins) {
        reins.model().askAlways();
        return made(logbook, entry, reins, (model, control) -> wiring.live(file, logbook, entry, model, control));
    }

    /** Puts together a night that somebody else runs and whose frames come into a folder. */
    static RunningNight watched(
            Wiring wiring, Logbook logbook, FolderPlan plan, NightEntry entry, Path folder, Reins reins) {
        return made(
                logbook,
                entry,
                reins,
                (model, control) -> wiring.watched(plan, folder, logbook, entry, model, control));
    }

    private static RunningNight made(
            Logbook logbook, NightEntry entry, Reins reins, BiFunction<NightModel, NightControl, NightRun> maker) {
        NightControl control = new NightControl();
        reins.gates().forEach(control::setPolicy);
        Journal before = logbook.journal(entry);
        reins.model().load(before.events(), before.guiding());
        return new RunningNight(reins.model(), maker.apply(reins.model(), control), reins.rate());
    }

    private static double pace(double rate) {
        return rate <= 0 ? PacedClock.UNBOUNDED : rate;
    }

    public void start() {
        thread.start();
    }

    private void go() {
        try {
            run.engine().run();
        } catch (InterruptedException e) {
            failure = "The night was stopped; all that was done is kept.";
        } catch (RuntimeException | Error e) {
            LOG.warn("the night ended early", e);
            failure = BackgroundWork.words(e) + ". What was taken is kept.";
        } finally {
            done = true;
        }
    }

    public NightRun run() {
        return run;
    }

    /** What is known of it. */
    public NightModel model() {
        return model;
    }

    /** Its time. */
    public Instant now() {
        return run.clock().now();
    }

    /** By which it is told what to do. */
    public NightControl control() {
        return run.control();
    }

    /** The clock of a rehearsal, which can be held and hurried; a real night has none. */
    public Optional<PacedClock> transport() {
        return transport;
    }

    /** Whether a rehearsal's clock is held. */
    public boolean isFrozen() {
        return transport.map(PacedClock::isHeld).orElse(false);
    }

    /**
     * How fast a rehearsal's time runs.
     *
     * @param rate virtual seconds in a real one; 0 or less as fast as it goes
     */
    public void setRate(double rate) {
        wanted = rate;
        keepPace();
    }

    /** While the night rests or asks, a rehearsal's time runs as it does for the person it waits for. */
    public void keepPace() {
        boolean waits = control().isHeld() || control().question().isPresent();
        double due = waits ? Math.min(1, pace(wanted)) : pace(wanted);
        transport.filter(clock -> clock.rate() != due).ifPresent(clock -> clock.setRate(due));
    }

    /** Why the night ended early, in words; empty if it did not. */
    public String failure() {
        return failure;
    }

    public boolean isDone() {
        return done;
    }

    /** Stops the night and waits for its thread to leave; it parks the mount first. */
    @Override
    public void close() {
        thread.interrupt();
        transport.ifPresent(clock -> clock.hold(false));
        try {
            thread.join(STOP_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
