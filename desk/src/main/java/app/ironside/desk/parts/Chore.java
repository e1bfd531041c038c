package app.ironside.desk.parts;

import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ProgressBar;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;

/** Long work beside the interface, one piece at a time, with its bar and a button that stops it; shown while there is some. */
public final class Chore extends HBox implements AutoCloseable {
    private final BackgroundWork work;
    private final ProgressBar bar = new ProgressBar(0);
    private Optional<BackgroundWork.Ticket<Runnable>> running = Optional.empty();
    private final Consumer<Boolean> busy;
    private final Consumer<String> step;

    /**
     * @param busy told when work begins and ends
     * @param step told what is being done
     */
    public Chore(String name, Consumer<Boolean> busy, Consumer<String> step) {
        super(8);
        this.busy = busy;
        this.step = step;
        work = new BackgroundWork(name);
        Button stop = new Button("Cancel");
        stop.setId("cancel-" + name);
        stop.setOnAction(e -> running.ifPresent(BackgroundWork.Ticket::cancel));
        bar.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(bar, Priority.ALWAYS);
        setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(bar, stop);
        setVisible(false);
    }

    /**
     * Begins a piece of work that leaves its answer in what it returns, which runs on the interface thread.
     *
     * @param cancelled what is shown when the person stopped it
     * @param failed is told why it failed, in a sentence
     */
    public void begin(BackgroundWork.Work<Runnable> piece, Runnable cancelled, Consumer<String> failed) {
        show(true);
        running = Optional.of(work.ask(piece)
                .step((what, share) -> {
                    bar.setProgress(share);
                    step.accept(what);
                })
                .cancelled(() -> over(cancelled))
                .failed(why -> over(() -> failed.accept(why)))
                .then(this::over));
    }

    private void over(Runnable last) {
        show(false);
        last.run();
    }

    private void show(boolean now) {
        bar.setProgress(0);
        setVisible(now);
        busy.accept(now);
    }

    @Override
    public void close() {
        running.ifPresent(BackgroundWork.Ticket::cancel);
        work.close();
    }
}
