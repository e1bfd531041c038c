package app.ironside.desk;

import app.ironside.BadInputException;
import app.ironside.desk.night.NightModel;
import app.ironside.device.DeviceException;
import app.ironside.journal.Journal;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightControl.GatePolicy;
import app.ironside.night.NightFile;
import app.ironside.wiring.NightRun;
import app.ironside.wiring.PacedClock;
import app.ironside.wiring.Wiring;
import java.io.UncheckedIOException;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A rehearsal running on its own thread, with its transport. */
final class Rehearsal implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Rehearsal.class);
    private static final long STOP_MILLIS = 8000;

    private final NightRun run;
    private final PacedClock clock;
    private final Thread thread;
    private double wanted;
    private volatile String failure = "";
    private volatile boolean done;

    /**
     * Puts a rehearsal together; {@link #start} lets it go.
     *
     * @param rate virtual seconds in a real one; 0 or less as fast as it goes
     */
    Rehearsal(
            Wiring wiring,
            NightFile file,
            Logbook logbook,
            NightEntry entry,
            NightModel model,
            double rate,
            Map<Stage, GatePolicy> gates) {
        NightControl control = new NightControl();
        gates.forEach(control::setPolicy);
        Journal before = logbook.journal(entry);
        model.load(before.events(), before.guiding());
        this.run = wiring.rehearsal(file, logbook, entry, start -> new PacedClock(start, pace(rate)), model, control);
        this.clock = (PacedClock) run.clock();
        this.wanted = rate;
        this.thread = new Thread(this::go, "night");
        this.thread.setDaemon(true);
    }

    static double pace(double rate) {
        return rate <= 0 ? PacedClock.UNBOUNDED : rate;
    }

    void start() {
        thread.start();
    }

    private void go() {
        try {
            run.engine().run();
        } catch (InterruptedException e) {
            failure = "The night was stopped; all that was done is kept.";
        } catch (DeviceException | BadInputException | UncheckedIOException e) {
            failure = e.getMessage();
        } catch (OutOfMemoryError e) {
            LOG.error("the night ended for want of memory", e);
            failure =
                    "There was not enough memory. Start again with more, by setting IRONSIDE_MEMORY (for instance 8g), and the night goes on."
                            + " What was taken is kept.";
        } catch (RuntimeException | Error e) {
            LOG.error("the night ended by a fault of Ironside itself", e);
            failure = "A fault of Ironside itself ended the night: " + e.getMessage() + ". What was taken is kept.";
        } finally {
            done = true;
        }
    }

    NightRun run() {
        return run;
    }

    PacedClock clock() {
        return clock;
    }

    /**
     * How fast the rehearsal's time runs.
     *
     * @param rate virtual seconds in a real one; 0 or less as fast as it goes
     */
    void setRate(double rate) {
        wanted = rate;
        keepPace();
    }

    /** While the night rests or asks, time runs as it does for the person it waits for. */
    void keepPace() {
        boolean waits = run.control().isHeld() || run.control().question().isPresent();
        double due = waits ? Math.min(1, pace(wanted)) : pace(wanted);
        if (clock.rate() != due) {
            clock.setRate(due);
        }
    }

    /** Why the night ended early, in words; empty if it did not. */
    String failure() {
        return failure;
    }

    boolean isDone() {
        return done;
    }

    /** Stops the night and waits for its thread to leave. */
    @Override
    public void close() {
        thread.interrupt();
        clock.hold(false);
        try {
            thread.join(STOP_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
