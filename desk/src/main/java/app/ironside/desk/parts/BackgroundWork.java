package app.ironside.desk.parts;

import app.ironside.BadInputException;
import app.ironside.FaultReport;
import app.ironside.Progress;
import app.ironside.device.DeviceException;
import java.io.UncheckedIOException;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.application.Platform;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What is done beside the interface: one piece after the other on a thread of its own. Answers come back on the interface thread, and so
 * does, in a sentence, why there is none. Every question of the desk that takes longer than a blink goes through here.
 */
public final class BackgroundWork implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(BackgroundWork.class);
    private static volatile Optional<FaultReport> reports = Optional.empty();

    private final ExecutorService thread;
    private final AtomicLong asked = new AtomicLong();
    private final AtomicInteger underWay = new AtomicInteger();

    /**
     * @param name of the thread
     */
    public BackgroundWork(String name) {
        this.thread = Executors.newSingleThreadExecutor(task -> {
            Thread made = new Thread(task, name);
            made.setDaemon(true);
            return made;
        });
    }

    /**
     * A piece of work.
     *
     * @param <T> its answer
     */
    @FunctionalInterface
    public interface Work<T> {
        /**
         * Done on the work's own thread.
         *
         * @throws CancellationException if the progress said so
         */
        T done(Progress progress) throws InterruptedException;
    }

    /** What becomes of a piece of work; each is called on the interface thread, and one of the last three once. */
    public static final class Ticket<T> {
        private final long number;
        private final AtomicBoolean stopped = new AtomicBoolean();
        private BiConsumer<String, Double> step = (what, share) -> {};
        private Consumer<T> answer = result -> {};
        private Consumer<String> failed = LOG::warn;
        private Runnable cancelled = () -> {};

        private Ticket(long number) {
            this.number = number;
        }

        /** Ends the work at its next step. */
        public void cancel() {
            stopped.set(true);
        }
    }

    /** What is to become of a piece of work, before it begins. */
    public final class Question<T> {
        private final Work<T> work;
        private final Ticket<T> ticket = new Ticket<>(asked.incrementAndGet());
        private boolean onlyNewest;

        private Question(Work<T> work) {
            this.work = work;
        }

        /** Is told what is being done and what share of it is. */
        public Question<T> step(BiConsumer<String, Double> told) {
            ticket.step = told;
            return this;
        }

        /** Is told why there is no answer, in a sentence. */
        public Question<T> failed(Consumer<String> told) {
            ticket.failed = told;
            return this;
        }

        /** Is told that it was cancelled. */
        public Question<T> cancelled(Runnable told) {
            ticket.cancelled = told;
            return this;
        }

        /** Once something else was asked, nobody wants to know any more. */
        public Question<T> onlyNewest() {
            onlyNewest = true;
            return this;
        }

        /** Begins, and hands over the answer; once the desk is closed, nothing is begun. */
        public Ticket<T> then(Consumer<T> answer) {
            ticket.answer = answer;
            if (!thread.isShutdown()) {
                underWay.incrementAndGet();
                thread.execute(() -> work(this));
            }
            return ticket;
        }
    }

    /** Asks something; {@link Question#then} begins the work. */
    public <T> Question<T> ask(Work<T> work) {
        return new Question<>(work);
    }

    /** Whether nothing was asked after it. */
    public boolean isNewest(Ticket<?> ticket) {
        return ticket.number == asked.get();
    }

    /** Whether every question has its answer. */
    public boolean isIdle() {
        return underWay.get() == 0;
    }

    private <T> void work(Question<T> question) {
        Ticket<T> ticket = question.ticket;
        if (question.onlyNewest && !isNewest(ticket)) {
            underWay.decrementAndGet();
            return;
        }
        Runnable then;
        try {
            T result = question.work.done((what, share) -> {
                Platform.runLater(() -> ticket.step.accept(what, share));
                return !ticket.stopped.get();
            });
            then = () -> ticket.answer.accept(result);
        } catch (CancellationException e) {
            then = ticket.cancelled;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            then = ticket.cancelled;
        } catch (RuntimeException | Error e) {
            String why = words(e);
            then = () -> ticket.failed.accept(why);
        }
        Runnable last = then;
        Platform.runLater(() -> {
            try {
                if (!question.onlyNewest || isNewest(ticket)) {
                    last.run();
                }
            } finally {
                underWay.decrementAndGet();
            }
        });
    }

    /** From now on a report of each fault of Ironside itself is kept; none if there is nowhere to. */
    public static void report(Optional<FaultReport> to) {
        reports = to;
    }

    /** Why something failed, for a person. What is the fault of Ironside itself is kept in the log, and in a report, as well. */
    public static String words(Throwable e) {
        if (e instanceof BadInputException || e instanceof DeviceException || e instanceof UncheckedIOException) {
            return String.valueOf(e.getMessage());
        }
        LOG.warn("{} failed", Thread.currentThread().getName(), e);
        if (e instanceof OutOfMemoryError) {
            return String.format(
                    Locale.ROOT,
                    "It needs more than the %.1f GB of memory that are allowed: set IRONSIDE_MEMORY, for instance 8g, and start again",
                    Runtime.getRuntime().maxMemory() / 1e9);
        }
        return "A fault of Ironside itself (" + e.getClass().getSimpleName() + ": " + e.getMessage() + ")"
                + reports.flatMap(r -> r.write(e, Thread.currentThread().getName()))
                        .map(file -> "; the report is in " + file)
                        .orElse("");
    }

    @Override
    public void close() {
        thread.shutdownNow();
    }
}
