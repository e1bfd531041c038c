package app.ironside.notice;

import app.ironside.JsonText;
import app.ironside.journal.AlertRaised;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Tells a person of alerts, on a thread of its own: the night never waits for a tone or a program. */
public final class Herald implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Herald.class);

    /** More than this are waiting only if a program hangs; the oldest news are then the least news. */
    private static final int MOST_WAITING = 50;

    private static final Duration LONGEST_COMMAND = Duration.ofSeconds(20);

    /** The ways out of the machine, apart so that they can be tried. */
    public interface Ways {
        /** Sounds. */
        void tone();

        /** Shows a notification of the system. */
        void note(String title, String text);

        /** The ways of this machine. */
        static Ways ofThisMachine() {
            return new MachineWays();
        }
    }

    /** Whose night an alert is of. */
    public record Whose(String night, String site, String kit) {}

    private final Ways ways;
    private final Consumer<String> complain;
    private final ThreadPoolExecutor worker;

    /**
     * @param complain is told in a sentence when a way fails, on the herald's thread
     */
    public Herald(Ways ways, Consumer<String> complain) {
        this.ways = ways;
        this.complain = complain;
        this.worker = new ThreadPoolExecutor(
                1,
                1,
                1,
                TimeUnit.SECONDS,
                new ArrayBlockingQueue<>(MOST_WAITING),
                task -> {
                    Thread thread = new Thread(task, "herald");
                    thread.setDaemon(true);
                    return thread;
                },
                new ThreadPoolExecutor.DiscardOldestPolicy());
    }

    /** Tells of an alert as the person wants it; returns at once. */
    public void tell(AlertRaised alert, Whose whose, Notices how) {
        try {
            worker.execute(() -> telling(alert, whose, how));
        } catch (RejectedExecutionException closed) {
            LOG.debug("an alert came after the end");
        }
    }

    private void telling(AlertRaised alert, Whose whose, Notices how) {
        if (how.sound() && alert.wake()) {
            tried("the tone", ways::tone);
        }
        if (how.system()) {
            tried("the notification", () -> ways.note(title(alert), alert.text()));
        }
        if (!how.command().isEmpty()) {
            tried(
                    how.command().get(0),
                    () -> OwnCommand.run(how.command(), json(alert, whose).toString(), LONGEST_COMMAND));
        }
    }

    private void tried(String what, Runnable way) {
        try {
            way.run();
        } catch (RuntimeException e) {
            LOG.info("a way of telling failed", e);
            complain.accept("You could not be told by " + what + ": " + e.getMessage());
        }
    }

    private static String title(AlertRaised alert) {
        return (alert.wake() ? "Wake up: " : "To note: ") + alert.trouble().what();
    }

    /** What a person's own program gets, in one line: docs/FILES.md. */
    static ObjectNode json(AlertRaised alert, Whose whose) {
        ObjectNode told = JsonText.newObject();
        told.put("time", alert.time().toString());
        told.put("severity", alert.severity());
        told.put("cause", alert.trouble().word());
        told.put("sentence", alert.text());
        told.put("remedy", alert.trouble().remedy());
        told.put("night", whose.night());
        told.put("site", whose.site());
        told.put("kit", whose.kit());
        return told;
    }

    /** Lets what waits be told, for a short while. */
    @Override
    public void close() {
        worker.shutdown();
        try {
            if (!worker.awaitTermination(2, TimeUnit.SECONDS)) {
                List<Runnable> untold = worker.shutdownNow();
                LOG.info("{} alerts were not told before the end", untold.size());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
