package app.ironside.desk.parts;

import app.ironside.Progress;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Long work beside the interface, one piece at a time, with its bar and a button that stops it; shown while there is some. */
public final class Chore extends HBox implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(Chore.class);

    private final ExecutorService thread;
    private final ProgressBar bar = new ProgressBar(0);
    private final AtomicBoolean stopped = new AtomicBoolean();
    private final Consumer<Boolean> busy;
    private final Consumer<String> step;

    /** Work that leaves its answer in what it returns, which runs on the interface thread. */
    @FunctionalInterface
    public interface Work {
        Runnable done(Progress progress) throws InterruptedException;
    }

    /**
     * @param busy told when work begins and ends
     * @param step told what is being done
     */
    public Chore(String name, Consumer<Boolean> busy, Consumer<String> step) {
        super(8);
        this.busy = busy;
        this.step = step;
        thread = Executors.newSingleThreadExecutor(r -> {
            Thread made = new Thread(r, name);
            made.setDaemon(true);
            return made;
        });
        Button stop = new Button("Cancel");
        stop.setId("cancel-" + name);
        stop.setOnAction(e -> stopped.set(true));
        bar.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(bar, Priority.ALWAYS);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(bar, stop);
        setVisible(false);
    }

    /**
     * Begins a piece of work.
     *
     * @param cancelled what is shown when the person stopped it
     * @param failed is told why it failed, in a sentence
     */
    public void begin(Work work, Runnable cancelled, Consumer<String> failed) {
        stopped.set(false);
        show(true);
        thread.execute(() -> {
            Runnable then;
            try {
                then = work.done((what, share) -> {
                    Platform.runLater(() -> {
                        bar.setProgress(share);
                        step.accept(what);
                    });
                    return !stopped.get();
                });
            } catch (CancellationException e) {
                then = cancelled;
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                then = cancelled;
            } catch (RuntimeException e) {
                LOG.warn("{} failed", Thread.currentThread().getName(), e);
                then = () -> failed.accept(String.valueOf(e.getMessage()));
            }
            Runnable last = then;
            Platform.runLater(() -> {
                show(false);
                last.run();
            });
        });
    }

    private void show(boolean now) {
        bar.setProgress(0);
        setVisible(now);
        busy.accept(now);
    }

    @Override
    public void close() {
        stopped.set(true);
        thread.shutdownNow();
    }
}
