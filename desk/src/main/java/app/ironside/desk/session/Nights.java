package app.ironside.desk.session;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.plan.Wishes;
import app.ironside.document.FirstNight;
import app.ironside.document.NightFile;
import app.ironside.image.Frame;
import app.ironside.journal.Command;
import app.ironside.journal.Journal;
import app.ironside.journal.Marks;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Noted;
import app.ironside.journal.Stage;
import app.ironside.journal.SubRegraded;
import app.ironside.kit.Kit;
import app.ironside.kit.RoundRecord;
import app.ironside.logbook.Account;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.logbook.TimesTaken;
import app.ironside.night.NightControl.GatePolicy;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.Projects;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Site;
import app.ironside.wiring.FolderPlan;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Opens, begins and removes nights: everything that reads the logbook or plans, beside the interface. Answers come on the interface
 * thread, in the order in which they were asked for.
 */
public final class Nights implements AutoCloseable {
    /** A beginner's first target stands well clear of the haze. */
    private static final double FIRST_ALTITUDE_DEG = 30;

    /** Who commands, as the journal has it: whoever is signed in on this machine. */
    public static final String WHO = System.getProperty("user.name") + ", at the desk";

    private final Wiring wiring;
    private final Logbook logbook;
    private final Runnable changed;
    private final Consumer<String> failed;
    private final BackgroundWork work = new BackgroundWork("nights");
    private Optional<RunningNight> running = Optional.empty();
    private int underWay;

    /** What plans ask of a logbook. */
    public static Wishes.Record record(Logbook logbook) {
        return new Wishes.Record() {
            @Override
            public Account account() {
                return logbook.harvest().account();
            }

            @Override
            public Optional<Double> lastAngle(String kit, LocalDate before) {
                return logbook.habits().lastAngle(kit, before);
            }

            @Override
            public RoundRecord roundSubs(String kit) {
                return logbook.habits().roundRecord(kit);
            }

            @Override
            public TimesTaken timesTaken(String kit) {
                return logbook.habits().timesTaken(kit);
            }
        };
    }

    /**
     * @param changed told, on any thread, when a shown night has more to tell
     * @param failed told why something could not be done
     */
    public Nights(Wiring wiring, Logbook logbook, Runnable changed, Consumer<String> failed) {
        this.wiring = wiring;
        this.logbook = logbook;
        this.changed = changed;
        this.failed = failed;
    }

    /** The night that runs, or ran last. */
    public Optional<RunningNight> running() {
        return running;
    }

    /** The night that runs now. */
    public Optional<RunningNight> underWay() {
        return running.filter(r -> !r.isDone());
    }

    /** Whether the night that runs now is one that somebody else runs. */
    public boolean isFolderWatched() {
        return underWay().filter(r -> r.model().night().isWatched()).isPresent();
    }

    /** Whether something is being made ready. */
    public boolean isBusy() {
        return underWay > 0;
    }

    private <T> void ask(BackgroundWork.Work<T> piece, Consumer<T> then) {
        underWay++;
        work.ask(piece)
                .failed(why -> {
                    underWay--;
                    failed.accept(why);
                })
                .cancelled(() -> underWay--)
                .then(answer -> {
                    underWay--;
                    then.accept(answer);
                });
    }

    /** Does something with the logbook, and says what came of it. */
    public <T> void withLogbook(BackgroundWork.Work<T> piece, Consumer<T> then) {
        ask(piece, then);
    }

    /** A night of the logbook: as it runs, if it does; else from its journal. */
    public void open(NightEntry entry, Consumer<ShownNight> show) {
        Optional<RunningNight> runs = running.filter(r -> r.run().entry().id() == entry.id());
        ask(
                progress -> {
                    if (runs.isEmpty()) {
                        return ShownNight.kept(wiring, logbook, entry);
                    }
                    NightFile file = NightFile.parse(entry.document(), entry.title(), wiring.objects());
                    return ShownNight.of(
                            wiring,
                            logbook,
                            file,
                            Optional.of(entry),
                            runs.get().model());
                },
                show);
    }

    /** A night that is only planned. */
    public void plan(NightFile file, Consumer<ShownNight> show) {
        ask(progress -> ShownNight.of(wiring, logbook, file, Optional.empty(), new NightModel(changed)), show);
    }

    /** The first night of somebody new: their site and kit are kept, and the target that stands best is planned. */
    public void first(FirstNight first, LocalDate date, Profiles profiles, Consumer<ShownNight> show) {
        ask(
                progress -> {
                    Site site = first.site();
                    Kit kit = first.kit();
                    CandidateSearch.Wish wish =
                            new CandidateSearch.Wish(FIRST_ALTITUDE_DEG, Candidate.Level.FIRST, CloudForecast.CLEAR);
                    DeepSkyObject best = new CandidateSearch(wiring.objects(), wiring.stars())
                            .rank(site, kit, NightTimes.of(site, date), wish, Workers.ALL_CORES).stream()
                                    .findFirst()
                                    .map(Candidate::object)
                                    .orElseThrow(() -> new BadInputException(
                                            "the night of " + date,
                                            "has no dark hour at " + site.name(),
                                            "another date, or another latitude"));
                    profiles.save(site);
                    profiles.save(kit);
                    TargetPlan target =
                            new TargetPlan(best.id(), best.position(), Projects.goals(best, kit, site, false), 2);
                    return ShownNight.of(
                            wiring, logbook, first.file(date, target), Optional.empty(), new NightModel(changed));
                },
                show);
    }

    /** The same night under a changed program. */
    public void revise(ShownNight shown, String document, Consumer<ShownNight> show) {
        ask(
                progress -> {
                    NightFile file = NightFile.parse(document, "the changed program", wiring.objects());
                    return ShownNight.of(wiring, logbook, file, shown.entry(), shown.model());
                },
                show);
    }

    /** How a night is run. */
    public enum Kind {
        REHEARSAL,
        LIVE,
        /** Somebody else runs it; its frames come into a folder. */
        WATCHED
    }

    /**
     * What is to be begun.
     *
     * @param entry of a night that goes on; a new one is written otherwise
     * @param folder into which the frames of a watched night come
     * @param ownHands whether the person confirms what a rehearsal's hands would
     */
    public record Beginning(
            Kind kind,
            NightFile file,
            Optional<NightEntry> entry,
            Optional<Path> folder,
            boolean ownHands,
            double rate,
            Map<Stage, GatePolicy> gates) {}

    /**
     * Ends what runs, begins a night or goes on with one, and shows it.
     *
     * @param shown what is on the desk; if it is the same night, it need not be reckoned again
     */
    public void begin(Beginning beginning, Optional<ShownNight> shown, Consumer<ShownNight> show) {
        Optional<RunningNight> before = running;
        ask(
                progress -> {
                    Optional<FolderPlan> watched = beginning.folder().map(f -> wiring.planOf(f, beginning.file()));
                    NightFile file = watched.map(FolderPlan::file).orElse(beginning.file());
                    if (beginning.kind() == Kind.LIVE) {
                        wiring.checkLive(file); // before anything is ended or written
                    }
                    before.ifPresent(RunningNight::close);
                    NightEntry entry = beginning.entry().orElseGet(() -> written(file));
                    NightModel model = new NightModel(changed);
                    model.setOwnHands(beginning.ownHands());
                    RunningNight.Reins reins = new RunningNight.Reins(model, beginning.rate(), beginning.gates());
                    RunningNight night = made(beginning, watched, entry, reins);
                    return new Begun(
                            night,
                            shown.filter(n -> n.is(entry)
                                            && n.file().sameNight(night.run().file()))
                                    .map(n -> n.as(model))
                                    .orElseGet(() -> ShownNight.of(wiring, logbook, file, Optional.of(entry), model)));
                },
                begun -> {
                    running = Optional.of(begun.night());
                    begun.night().start();
                    show.accept(begun.shown());
                });
    }

    /** A night whose devices do not answer is none: it leaves nothing in the logbook. */
    private RunningNight made(
            Beginning beginning, Optional<FolderPlan> watched, NightEntry entry, RunningNight.Reins reins) {
        NightFile file = beginning.file();
        try {
            return switch (beginning.kind()) {
                case REHEARSAL -> RunningNight.rehearsal(wiring, logbook, file, entry, reins);
                case LIVE -> RunningNight.live(wiring, logbook, file, entry, reins);
                case WATCHED -> RunningNight.watched(
                        wiring,
                        logbook,
                        watched.orElseThrow(),
                        entry,
                        beginning.folder().orElseThrow(),
                        reins);
            };
        } catch (RuntimeException e) {
            logbook.withdraw(entry);
            throw e;
        }
    }

    private record Begun(RunningNight night, ShownNight shown) {}

    private NightEntry written(NightFile file) {
        String target = file.program().targets().get(0).name();
        return logbook.begin(
                file.program().date() + "  " + file.site().name() + ", " + target,
                "night-" + file.program().date() + "-" + (logbook.nights().size() + 1),
                file.text());
    }

    /** A night leaves the logbook; its frames and its journal stay on the disk. */
    public void remove(NightEntry entry, Consumer<Path> journal) {
        ask(progress -> logbook.remove(entry), journal);
    }

    /** Gives verdicts over those of the rule book: by the night's own thread while it runs, else straight into its journal. */
    public void give(ShownNight night, List<Marks.Given> verdicts) {
        Optional<RunningNight> runs = running(night);
        if (runs.isPresent()) {
            runs.get()
                    .control()
                    .give(
                            new Command.GiveVerdicts(verdicts),
                            WHO,
                            "",
                            runs.get().now());
            changed.run();
            return;
        }
        night.entry()
                .ifPresent(entry -> ask(
                        progress -> {
                            // Its clock has stopped: a later time would move the night's end on the ribbon.
                            Instant end = night.lastTime().orElseGet(Instant::now);
                            List<SubRegraded> events =
                                    Marks.events(night.model().night(), verdicts, end);
                            Journal journal = logbook.journal(entry);
                            events.forEach(journal::append);
                            return events;
                        },
                        events -> events.forEach(night.model()::event)));
    }

    /** Keeps a person's words with a night: by the night's own thread while it runs, else straight in its journal. */
    public void note(ShownNight night, String words) {
        Optional<RunningNight> runs = running(night);
        if (runs.isPresent()) {
            runs.get()
                    .control()
                    .give(new Command.Note(words), WHO, "", runs.get().now());
            changed.run();
            return;
        }
        night.entry()
                .ifPresent(entry -> ask(
                        progress -> {
                            Noted noted = Noted.of(night.lastTime().orElseGet(Instant::now), words, WHO);
                            logbook.journal(entry).append(noted);
                            return noted;
                        },
                        noted -> {
                            night.model().event(noted);
                            changed.run();
                        }));
    }

    private Optional<RunningNight> running(ShownNight night) {
        return underWay().filter(r -> night.entry()
                .filter(e -> e.id() == r.run().entry().id())
                .isPresent());
    }

    /** A likeness of a frame of a rehearsal whose file is not on the disk; of a real night there is none. On any thread. */
    public Optional<Frame> likeness(ShownNight night, NightEvent event) throws InterruptedException {
        boolean rehearsed = night.model()
                .night()
                .last(NightStarted.class)
                .filter(s -> s.provenance() == Provenance.REHEARSED)
                .isPresent();
        return rehearsed ? wiring.artist().draw(night.file(), event) : Optional.empty();
    }

    /** All nights of the logbook. */
    public void list(Consumer<List<NightEntry>> then) {
        ask(progress -> logbook.nights(), then);
    }

    @Override
    public void close() {
        running.ifPresent(RunningNight::close);
        work.close();
    }
}
