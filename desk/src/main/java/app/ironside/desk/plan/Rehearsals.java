package app.ironside.desk.plan;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.document.FaultKind;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import app.ironside.wiring.ManyNights;
import app.ironside.wiring.Outcome;
import app.ironside.wiring.SwiftNight;
import app.ironside.wiring.Wiring;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/** Rehearsals of the plan without pixels, and the faults that are set for them. Interface thread only. */
final class Rehearsals implements AutoCloseable {
    /** Before the word of a fault that is dragged. */
    static final String DRAGGED = "ironside-fault ";

    private static final int MANY = 100;

    private final Wiring wiring;
    private final Runnable changed;
    private final BackgroundWork work = new BackgroundWork("rehearsing the plan");
    private Optional<BackgroundWork.Ticket<?>> running = Optional.empty();
    private Optional<Answer> answer = Optional.empty();
    private String step = "";
    private double share;
    private String failed = "";

    /**
     * What the last rehearsal gave.
     *
     * @param of the plan as it was then
     * @param one the night, if it was a single one
     * @param many if it was many
     */
    record Answer(NightFile of, Optional<NightState> one, Optional<Outcome> many) {}

    Rehearsals(Wiring wiring, Runnable changed) {
        this.wiring = wiring;
        this.changed = changed;
    }

    /** The last answer, if the plan has not changed since. */
    Optional<Answer> answer(NightFile now) {
        return answer.filter(a -> a.of().equals(now));
    }

    boolean isBusy() {
        return running.isPresent();
    }

    /** What is being done, in words. */
    String step() {
        return step;
    }

    double share() {
        return share;
    }

    /** Why the last one gave no answer; empty if it did. */
    String failed() {
        return failed;
    }

    /** One night, in seconds. */
    void inSeconds(NightFile file) {
        begin(progress -> {
            progress.report("The night, without pixels", 0);
            SwiftNight night =
                    wiring.swift(file, new JournalInMemory(), SteppedClock::new, NightWatcher.NONE, new NightControl());
            try {
                night.engine().run();
            } catch (UncheckedIOException e) {
                // A disk that was set to be full: the night stops there, and its journal tells of it.
                progress.report(e.getMessage(), 1);
            }
            return new Answer(file, Optional.of(night.state()), Optional.empty());
        });
    }

    /** A hundred nights of a year. */
    void aHundredTimes(NightFile file) {
        long seed = settings(file).seed();
        begin(progress -> new Answer(
                file, Optional.empty(), Optional.of(new ManyNights(wiring).run(file, seed, MANY, progress))));
    }

    void cancel() {
        running.ifPresent(BackgroundWork.Ticket::cancel);
    }

    private void begin(BackgroundWork.Work<Answer> piece) {
        if (isBusy()) {
            return;
        }
        failed = "";
        step = "The first night";
        share = 0;
        BackgroundWork.Question<Answer> question = work.ask(piece)
                .step((what, done) -> {
                    step = what;
                    share = done;
                    changed.run();
                })
                .cancelled(() -> over(() -> failed = "It was cancelled."))
                .failed(why -> over(() -> failed = why));
        running = Optional.of(question.then(given -> over(() -> answer = Optional.of(given))));
        changed.run();
    }

    private void over(Runnable then) {
        running = Optional.empty();
        then.run();
        changed.run();
    }

    /** What a dragged word means. */
    static Optional<FaultKind> kind(String word) {
        return Arrays.stream(FaultKind.values())
                .filter(k -> word.equals(DRAGGED + k.word()))
                .findFirst();
    }

    static SimSettings settings(NightFile file) {
        return file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
    }

    static List<RehearsedFault> faults(NightFile file) {
        return file.training().isPresent() ? List.of() : settings(file).faults();
    }

    /** A plan with other faults set. */
    static UnaryOperator<NightDraft> with(Consumer<List<RehearsedFault>> change) {
        return draft -> {
            List<RehearsedFault> faults = new ArrayList<>(faults(draft.file()));
            change.accept(faults);
            return draft.withObservatory(settings(draft.file()).withFaults(faults));
        };
    }

    @Override
    public void close() {
        cancel();
        work.close();
    }
}
