package app.ironside.desk.session;

import app.ironside.desk.night.Moment;
import app.ironside.journal.NightEvent;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.night.NightControl;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * What the person looks at: which night, at which station, at which moment, and whether the desk goes along with the night. It holds no
 * views. Interface thread only.
 */
public final class Looking {
    private final Nights nights;
    private final Consumer<Stage> moved;
    private Optional<ShownNight> shown = Optional.empty();
    private Optional<NightEvent> chosen = Optional.empty();

    /** The moment looked back to; empty while it is now. */
    private Optional<Instant> moment = Optional.empty();

    private Stage station;
    private boolean following;
    private Optional<Stage> followed = Optional.empty();

    /** The station whose question was brought before the person. */
    private Optional<Stage> asked = Optional.empty();

    /** The changed program that is shown, or on its way to be. */
    private Optional<ProgramRevised> adopted = Optional.empty();

    /**
     * @param moved told each time the station is set, also to the one it was
     */
    public Looking(Nights nights, Stage station, Consumer<Stage> moved) {
        this.nights = nights;
        this.station = station;
        this.moved = moved;
    }

    /** The night on the desk. */
    public Optional<ShownNight> night() {
        return shown;
    }

    public Stage station() {
        return station;
    }

    /** The event whose evidence is open. */
    public Optional<NightEvent> chosen() {
        return chosen;
    }

    /** Whether the moment is now, not one looked back to. */
    public boolean isNow() {
        return moment.isEmpty();
    }

    /** The night that ran last, if it is the one that is shown. */
    public Optional<RunningNight> run() {
        return nights.running()
                .filter(r -> shown.filter(n -> n.is(r.run().entry())).isPresent());
    }

    /** Whether what is shown runs, or ran last. */
    public boolean isRun() {
        return run().isPresent();
    }

    /** Whether a night runs while another is shown. */
    public boolean isElsewhere() {
        return nights.underWay().isPresent() && !isRun();
    }

    /** The shown night as it stood at the moment looked at. */
    public Moment at(ShownNight night) {
        Instant live = run().map(RunningNight::now).or(night::lastTime).orElseGet(night::begins);
        return night.model().at(moment.orElse(live), moment.isEmpty());
    }

    // ---- what changes it
    // ---------------------------------------------------------------------------------------------

    /** Puts a night on the desk; the moment stays to be said. */
    public void show(ShownNight next) {
        shown = Optional.of(next);
        chosen = Optional.empty();
        adopted = next.model().night().last(ProgramRevised.class);
    }

    /** The same night, reckoned under a changed program. */
    public void replace(ShownNight before, ShownNight next) {
        if (shown.filter(n -> n == before).isPresent()) {
            shown = Optional.of(next);
        }
    }

    /** To the present of a night that runs or is planned. */
    public void toNow() {
        moment = Optional.empty();
    }

    /** To the present of a night that runs, to the end of any other. */
    public void toLatest() {
        chosen = Optional.empty();
        moment = isRun() ? Optional.empty() : shown.flatMap(ShownNight::lastTime);
    }

    /** To any time; one that has not come yet is now. */
    public void toTime(Instant time) {
        chosen = Optional.empty();
        Instant latest = run().map(RunningNight::now).orElse(Instant.MAX);
        moment = time.isBefore(latest) ? Optional.of(time) : Optional.empty();
    }

    /** To a station that the person chose: the desk goes along with the night no more. */
    public void toStation(Stage next) {
        following = false;
        setStation(next);
        if (chosen.isPresent() && chosen.get().station() != next) {
            chosen = Optional.empty();
        }
    }

    /** To an event and its evidence. */
    public void toEvent(NightEvent event) {
        chosen = Optional.of(event);
        moment = Optional.of(event.time());
        following = false;
        setStation(event.station());
    }

    /** The event before (-1) or after (1) the chosen one; none in a night without events. */
    public Optional<NightEvent> neighbour(int direction) {
        List<NightEvent> events = shown.map(n -> n.model().night().events()).orElse(List.of());
        if (events.isEmpty()) {
            return Optional.empty();
        }
        int at = chosen.map(events::indexOf).orElse(direction < 0 ? events.size() : -1);
        return Optional.of(events.get(Math.max(0, Math.min(events.size() - 1, at + direction))));
    }

    /** Goes along with the night from station to station until the person chooses one. */
    public void follow(boolean on) {
        following = on;
    }

    // ---- what the night changes
    // --------------------------------------------------------------------------------------

    /** A sub that is looked at has the verdict that stands, also after it was marked. */
    public void keepVerdict(ShownNight night) {
        chosen = chosen.map(event -> event instanceof SubTaken sub
                ? night.model().night().events().stream()
                        .filter(e -> e instanceof SubTaken s && s.file().equals(sub.file()))
                        .findFirst()
                        .orElse(sub)
                : event);
    }

    /** While nobody has chosen a station, the desk goes along with the night. */
    public void goAlong(Moment at) {
        if (!following || !at.live()) {
            return;
        }
        Optional<Stage> stage = at.night().stage();
        if (stage.isPresent() && !stage.equals(followed)) {
            followed = stage;
            setStation(stage.get());
        }
    }

    /** What the night wants to know is brought before the person once, at its station. */
    public void attend(RunningNight night) {
        night.keepPace();
        Optional<Stage> asks = night.control().question().map(NightControl.Question::stage);
        if (!asks.equals(asked)) {
            asked = asks;
            asks.filter(s -> isRun()).ifPresent(s -> {
                moment = Optional.empty();
                setStation(s);
            });
        }
    }

    /** A program that was put in force since the night was last reckoned; told once. */
    public Optional<ProgramRevised> revision(Moment at) {
        Optional<ProgramRevised> revised = at.night().last(ProgramRevised.class);
        if (revised.isEmpty() || revised.equals(adopted)) {
            return Optional.empty();
        }
        adopted = revised;
        return revised;
    }

    private void setStation(Stage next) {
        station = next;
        moved.accept(next);
    }
}
