package app.ironside.desk.night;

import app.ironside.desk.picture.Shown;
import app.ironside.guide.GuideSample;
import app.ironside.image.Frame;
import app.ironside.journal.GrowingList;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightHistory;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.night.NightWatcher;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What is known of the night on screen: gathered from the night's thread, read from the interface thread. Thread-safe. */
public final class NightModel implements NightWatcher {
    /** What the night is busy with. */
    public record Doing(Stage stage, String what, Instant since, Duration about) {}

    private final Runnable changed;
    private final NightHistory history = new NightHistory();
    private GrowingList<GuideSample> guiding = new GrowingList<>();
    private final Map<Stage, Shown> latest = new EnumMap<>(Stage.class);
    private Doing doing;
    private int frames;
    private boolean ownHands;
    private boolean handsOnly;
    private String asked = "";
    private boolean isQuestion;
    private volatile boolean isSo = true;
    private String wanted = "";

    /**
     * @param changed called on the night's thread after each change; must return at once
     */
    public NightModel(Runnable changed) {
        this.changed = changed;
    }

    @Override
    public void frame(Stage stage, String caption, Frame frame, Optional<StarField> stars) {
        List<Star> marked = stars.map(f -> f.stars()
                        .subList(0, Math.min(Shown.MARKED_STARS, f.stars().size())))
                .orElse(List.of());
        synchronized (this) {
            frames++;
            latest.put(stage, new Shown("live " + frames, caption, frame, marked));
        }
        changed.run();
    }

    @Override
    public void event(NightEvent event) {
        synchronized (this) {
            history.add(event);
        }
        changed.run();
    }

    @Override
    public void doing(Stage stage, String what, Instant since, Duration about) {
        synchronized (this) {
            doing = new Doing(stage, what, since, about);
        }
        changed.run();
    }

    @Override
    public void confirm(String what) throws InterruptedException {
        ask(what, false);
    }

    @Override
    public boolean isSo(String what) throws InterruptedException {
        ask(what, true);
        return isSo;
    }

    private void ask(String what, boolean question) throws InterruptedException {
        synchronized (this) {
            asked = ownHands ? what : "";
            isQuestion = question;
            isSo = true;
        }
        changed.run();
        synchronized (this) {
            try {
                while (!asked.isEmpty()) {
                    wait();
                }
            } finally {
                asked = ""; // a question does not survive the night that asked it
            }
        }
    }

    @Override
    public void wanted(String what) {
        synchronized (this) {
            wanted = what;
        }
        changed.run();
    }

    /** What a person is to do that is noticed by itself; empty if nothing. */
    public synchronized String wanted() {
        return wanted;
    }

    /** At a real telescope there are no hands but the person's: what is to be done by hand is always asked. */
    public synchronized void askAlways() {
        handsOnly = true;
        ownHands = true;
    }

    /** Whether the person confirms the steps that no device can prove; else the simulated hands do. */
    public synchronized void setOwnHands(boolean own) {
        ownHands = own || handsOnly;
        if (!ownHands) {
            confirmed();
        }
    }

    /** Whether there are no hands but the person's. */
    public synchronized boolean isHandsOnly() {
        return handsOnly;
    }

    synchronized boolean hasOwnHands() {
        return ownHands;
    }

    /** What the night waits for the person to confirm; empty if nothing. */
    public synchronized String asked() {
        return asked;
    }

    /** Whether what is asked can be denied too. */
    public synchronized boolean isQuestion() {
        return isQuestion && !asked.isEmpty();
    }

    /** The person says that it is not so. */
    public synchronized void denied() {
        if (isQuestion()) {
            isSo = false;
            confirmed();
        }
    }

    /** The person says that it is done, or so. */
    public synchronized void confirmed() {
        asked = "";
        notifyAll();
    }

    @Override
    public void guided(GuideSample sample) {
        synchronized (this) {
            guiding = guiding.plus(sample);
        }
        changed.run();
    }

    /** Replaces everything by a journal that was read. */
    public void load(List<NightEvent> journal, List<GuideSample> samples) {
        synchronized (this) {
            history.clear();
            journal.forEach(history::add);
            guiding = new GrowingList<>();
            for (GuideSample sample : samples) {
                guiding = guiding.plus(sample);
            }
            asked = "";
            wanted = "";
            notifyAll();
            latest.clear();
            doing = null;
        }
        changed.run();
    }

    /** How the night stands now. */
    public synchronized NightState night() {
        return history.last();
    }

    /** The night up to a moment. */
    public synchronized Moment at(Instant time, boolean live) {
        return new Moment(time, live, history.at(time), guiding);
    }

    public synchronized Optional<Shown> latest(Stage stage) {
        return Optional.ofNullable(latest.get(stage));
    }

    public synchronized Optional<Doing> doing() {
        return Optional.ofNullable(doing);
    }
}
