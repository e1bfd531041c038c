package app.ironside.desk.plan;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.desk.night.RibbonPlanner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.reckon.Intent;
import app.ironside.device.DeviceDriver;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.document.NightPack;
import app.ironside.document.PlanModel;
import app.ironside.document.ReadyList;
import app.ironside.document.RehearsedFault;
import app.ironside.kit.Kit;
import app.ironside.logbook.Profiles;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.Framing;
import app.ironside.plan.NightBudget;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Program;
import app.ironside.plan.Projects;
import app.ironside.plan.Schedule;
import app.ironside.plan.SeasonBoard;
import app.ironside.plan.TargetLight;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.WeatherForecast;
import app.ironside.plan.WeatherTable;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * The night that is being planned: its draft with undo, what is looked at, and what was computed for it in the background. Interface
 * thread only.
 */
public final class PlanDesk implements RibbonPlanner, AutoCloseable {
    /** What the middle of the station shows. */
    public enum Tab {
        TONIGHT("Tonight"),
        WISHES("Wishes"),
        FRAMING("Framing"),
        SEASON("Season"),
        EXPOSURE("Exposure"),
        COSTS("Costs"),
        RULES("Rules"),
        REHEARSAL("Rehearsal"),
        PROFILES("Site and kit");

        private final String title;

        Tab(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    private static final int NO_BLOCK = -1;

    private final Wiring wiring;
    private final Profiles profiles;
    private final Path folder;
    private final Runnable changed;
    private final Runner runner;
    private final CandidateSearch search;
    private final Rehearsals rehearsals;
    private final Wishes wishes;
    private final BackgroundWork work = new BackgroundWork("plan");
    private final BackgroundWork editing = new BackgroundWork("changes of the plan");
    private final BackgroundWork dragging = new BackgroundWork("drag");
    private final BackgroundWork reframing = new BackgroundWork("framing");
    private final BackgroundWork trying = new BackgroundWork("trying a camera");
    private final BackgroundWork drawing = new BackgroundWork("drawing of the plan");

    private PlanModel model;
    private RibbonState.Sky sky;
    private Optional<PlanDrawn> drawn = Optional.empty();
    private Optional<DeepSkyObject> drawnFor = Optional.empty();

    /** The forecast that the plan was drawn under. */
    private int drawnUnder;

    private final Forecasts forecasts = new Forecasts();
    private List<Candidate> candidates = List.of();
    private Optional<SeasonBoard> season = Optional.empty();
    private Optional<Schedule> schedule = Optional.empty();

    /** The plan as it was before it was arranged; only told of while the schedule stands. */
    private Optional<NightDraft> beforeArranging = Optional.empty();

    private Candidate.Level level = Candidate.Level.PRACTISED;
    private Optional<Interval> gap = Optional.empty();
    private boolean interleave = true;
    private boolean broadUnderMoon;
    private Set<String> setAside;
    private final List<Path> filesRead = new ArrayList<>();
    private Tab tab = Tab.TONIGHT;
    private String message = "";
    private int ticket;
    private boolean busy;
    private int replanning;

    /** Who runs a plan. */
    public interface Runner {
        void rehearse(NightFile night);

        void begin(NightFile night);
    }

    /**
     * @param account what earlier nights left
     */
    public PlanDesk(
            Wiring wiring, Profiles profiles, Path folder, Wishes.Record account, Runnable changed, Runner runner) {
        this.wiring = wiring;
        this.profiles = profiles;
        this.folder = folder;
        this.changed = changed;
        this.runner = runner;
        this.setAside = profiles.setAside();
        this.rehearsals = new Rehearsals(wiring, changed);
        this.wishes = new Wishes(this, account);
        this.search = new CandidateSearch(wiring.objects(), wiring.stars());
    }

    /** Tries the camera of the kit. */
    TrialBar trial() {
        return new TrialBar(wiring, trying, this::file, kit -> use(file().site(), kit));
    }

    /** What is wanted of targets. */
    Wishes wishes() {
        return wishes;
    }

    PlanModel model() {
        return model;
    }

    /** What can connect devices. */
    List<DeviceDriver> drivers() {
        return wiring.drivers();
    }

    // ---- what there is
    // -------------------------------------------------------------------------------------------------

    public boolean isOpen() {
        return model != null;
    }

    /** Plans a night anew; earlier changes are forgotten. */
    public void open(PlanStart start) {
        model = new PlanModel(wiring.objects(), start.draft());
        schedule = Optional.empty();
        drawn = Optional.empty();
        started(start);
    }

    public NightDraft draft() {
        return model.draft();
    }

    public NightFile file() {
        return draft().file();
    }

    Tab tab() {
        return tab;
    }

    public void setTab(Tab next) {
        tab = next;
        if (next == Tab.SEASON || next == Tab.WISHES || next == Tab.FRAMING) {
            wishes.lookUp();
        }
        if (next == Tab.SEASON && season.isEmpty()) {
            computeSeason();
        }
        changed();
    }

    public List<Candidate> candidates() {
        return candidates;
    }

    public Optional<SeasonBoard> season() {
        return season;
    }

    public Optional<Schedule> schedule() {
        return schedule;
    }

    /** The plan as it was before it was arranged, while nothing else has changed since. */
    Optional<NightDraft> beforeArranging() {
        return schedule.isPresent() ? beforeArranging : Optional.empty();
    }

    public Optional<DeepSkyObject> looked() {
        return model.looked();
    }

    /** The target of the plan that is chosen, or looked at. */
    Optional<TargetPlan> chosenOrLooked() {
        return model.meant().map(PlannedBlock::target);
    }

    Optional<PlannedBlock> chosenBlock() {
        return model.chosenBlock();
    }

    public boolean isBusy() {
        return busy;
    }

    /** The last thing that went wrong, in words; empty if nothing. */
    String message() {
        return message;
    }

    boolean interleave() {
        return interleave;
    }

    boolean broadUnderMoon() {
        return broadUnderMoon;
    }

    Candidate.Level level() {
        return level;
    }

    Wiring wiring() {
        return wiring;
    }

    public Profiles profiles() {
        return profiles;
    }

    /** What is foreseen of the night. */
    Forecasts forecasts() {
        return forecasts;
    }

    /** Clouds that are foreseen. */
    CloudForecast clouds() {
        return forecasts.clouds(draft());
    }

    public RibbonState ribbon() {
        return drawn.orElseThrow().ribbon();
    }

    /** What the night costs, as far as that is reckoned. */
    public NightBudget budget() {
        return drawn.orElseThrow().budget();
    }

    /** Whether there is anything drawn of a plan. */
    public boolean isDrawn() {
        return drawn.isPresent();
    }

    /** Whether everything that was asked of the plan is done and drawn. */
    public boolean isSettled() {
        return editing.isIdle()
                && dragging.isIdle()
                && reframing.isIdle()
                && drawing.isIdle()
                && replanning == 0
                && drawn.filter(d -> d.of() == draft()).isPresent();
    }

    NightPack pack() {
        return new NightPack(file(), draft().plan(), budget(), readyList());
    }

    public ReadyList readyList() {
        return ReadyList.of(file().site(), file().kit(), file().program(), profiles.lessons());
    }

    // ---- background
    // ----------------------------------------------------------------------------------------------------

    private void started(PlanStart start) {
        sky = start.sky();
        forecasts.setService(start.weather());
        gap = Optional.empty();
        season = Optional.empty();
        wishes.lookUp();
        computeCandidates();
        if (tab == Tab.SEASON) {
            computeSeason();
        }
        changed();
    }

    /** Tells the views, and has what follows from the draft reckoned. */
    void changed() {
        changed.run();
        NightDraft now = draft();
        RibbonState.Sky over = sky;
        WeatherForecast under = forecasts.under(now);
        Optional<DeepSkyObject> at = model.looked();
        int read = forecasts.read();
        if (drawn.filter(d -> d.of() == now).isPresent() && at.equals(drawnFor) && read == drawnUnder) {
            return;
        }
        drawing.ask(progress -> PlanDrawn.of(now, over, under, folder, at))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    drawn = Optional.of(next);
                    drawnFor = at;
                    drawnUnder = read;
                    changed.run();
                });
    }

    /**
     * A change of the plan, reckoned beside the interface. If another came in between, this one is made on top of it.
     *
     * @param then told when it is done
     */
    private void edit(UnaryOperator<NightDraft> step, Runnable then) {
        NightDraft from = model.workedOn();
        editing.ask(progress -> step.apply(from)).failed(this::say).then(next -> {
            if (model.settled() != from) {
                edit(step, then);
            } else if (next != from) {
                model.change(next);
                // What was said of the arranged plan is of that plan.
                schedule = Optional.empty();
                message = "";
                then.run();
                changed();
            } else {
                changed();
            }
        });
    }

    void edit(UnaryOperator<NightDraft> step) {
        edit(step, () -> {});
    }

    private void computeCandidates() {
        NightDraft now = draft();
        CandidateSearch.Wish wish =
                new CandidateSearch.Wish(now.file().program().minimumAltitudeDeg(), level, clouds(), gap.map(now::gap));
        compute(
                () -> search.rank(
                        now.file().site(), now.file().kit(), now.plan().times(), wish, Workers.ALL_CORES),
                found -> {
                    candidates = found;
                    model.lookAtFirstTarget();
                });
    }

    private void computeSeason() {
        NightDraft now = draft();
        List<DeepSkyObject> targets = model.seasonTargets(candidates, setAside);
        LocalDate first = SeasonBoard.firstNight(now.file().program().date());
        double minimum = now.file().program().minimumAltitudeDeg();
        compute(
                () -> SeasonBoard.of(
                        now.file().site(),
                        targets,
                        SeasonBoard.typical(
                                wiring.objects(), now.file().site(), now.file().kit()),
                        first,
                        365,
                        new SeasonBoard.Settings(minimum, Workers.ALL_CORES, Progress.NONE)),
                board -> season = Optional.of(board));
    }

    /** Computes in the background; the answer to a question of another night is dropped. */
    private <T> void compute(Supplier<T> question, Consumer<T> answer) {
        int asked = ++ticket;
        NightDraft of = model.settled();
        busy = true;
        work.ask(progress -> question.get())
                .failed(why -> say("This could not be computed: " + why))
                .then(result -> {
                    busy = asked != ticket;
                    if (model.isSameNight(of)) {
                        answer.accept(result);
                    }
                    changed();
                });
    }

    void say(String text) {
        message = text;
        busy = false;
        changed();
    }

    // ---- what the person does
    // ----------------------------------------------------------------------------------------

    void look(DeepSkyObject object) {
        model.look(object);
        if (season.filter(b -> b.rows().stream().noneMatch(r -> r.object() == object))
                .isPresent()) {
            season = Optional.empty();
            if (tab == Tab.SEASON) {
                computeSeason();
            }
        }
        changed();
    }

    /** Looks at whatever the catalogue has of a name. */
    void find(String name) {
        if (name.isBlank()) {
            return;
        }
        Optional<DeepSkyObject> found = wiring.objects().find(name.strip());
        message = found.isPresent() ? "" : "The catalogue has no \"" + name.strip() + "\".";
        found.ifPresentOrElse(this::look, this::changed);
    }

    /** After a step back or forward: of another night, everything is reckoned again. */
    private void afterStep(NightDraft before) {
        boolean sameNight = model.isSameNight(before)
                && before.file().program().minimumAltitudeDeg()
                        == file().program().minimumAltitudeDeg();
        if (sameNight) {
            changed();
        } else {
            NightDraft now = model.settled();
            compute(() -> PlanStart.of(wiring, now), this::started);
        }
    }

    boolean canUndo() {
        return model.canUndo();
    }

    boolean canRedo() {
        return model.canRedo();
    }

    public void undo() {
        if (model.isProposed()) {
            leaveArranged();
            return;
        }
        NightDraft before = model.settled();
        model.undo();
        schedule = Optional.empty();
        afterStep(before);
    }

    public void redo() {
        NightDraft before = model.settled();
        model.redo();
        afterStep(before);
    }

    @Override
    public int chosen() {
        return model.chosen();
    }

    @Override
    public void choose(int next) {
        model.choose(next);
        changed();
    }

    /** Follows a drag as fast as it can be reckoned; the pointer waits for nothing. */
    @Override
    public void preview(int moved, Interval span) {
        NightDraft from = model.workedOn();
        RibbonState.Sky over = sky;
        WeatherForecast under = forecasts.under(from);
        Optional<DeepSkyObject> at = model.looked();
        dragging.ask(progress -> PlanDrawn.of(from.move(moved, span), over, under, folder, at))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    if (model.settled() == from) {
                        // Drawn at once and once: the views have no more than a frame's time.
                        model.preview(next.of());
                        drawn = Optional.of(next);
                        drawnFor = at;
                        changed.run();
                    }
                });
    }

    @Override
    public void settle(int moved, Interval span) {
        Instant middle = span.from().plus(span.duration().dividedBy(2));
        schedule = Optional.empty();
        // No preview that is still on its way shows after this.
        dragging.ask(progress -> "settled").then(settled -> {});
        edit(now -> now.move(moved, span), () -> model.chooseAt(middle));
    }

    @Override
    public void split(int whole, Instant at) {
        schedule = Optional.empty();
        edit(now -> now.split(whole, at));
    }

    @Override
    public void remove(int gone) {
        model.choose(NO_BLOCK);
        schedule = Optional.empty();
        if (draft().plan().blocks().size() > 1) {
            edit(now -> now.remove(gone));
        } else {
            say("The last target stays: add another before you remove it.");
        }
    }

    /** Moves the chosen block by some minutes. */
    void nudge(int edge, int minutes) {
        model.nudged(edge, Duration.ofMinutes(minutes)).ifPresent(span -> settle(model.chosen(), span));
    }

    /** Puts what is looked at into the free time of the night, or into the end of it. */
    void addLooked() {
        schedule = Optional.empty();
        model.addLooked(broadUnderMoon).ifPresent(this::edit);
    }

    /** The best times for the targets of the plan; what each of them is to be stays as it was chosen. */
    public void arrange() {
        NightDraft now = model.settled();
        CloudForecast clouds = clouds();
        boolean turns = interleave;
        boolean broad = broadUnderMoon;
        compute(() -> now.arrange(clouds, turns, broad), arranged -> {
            if (model.settled() != now) {
                say("The plan was changed meanwhile and stays as it is. Arrange again.");
                return;
            }
            if (arranged.schedule().blocks().isEmpty()) {
                say("None of these targets is up in the dark tonight.");
                return;
            }
            model.choose(NO_BLOCK);
            model.propose(arranged.draft());
            schedule = Optional.of(arranged.schedule());
            beforeArranging = Optional.of(now);
            message = arranged.without().isEmpty()
                    ? ""
                    : "No time was found for " + String.join(", ", arranged.without()) + ".";
            changed();
        });
    }

    /** Whether an arranged plan is shown that nobody has taken yet. */
    boolean isProposed() {
        return model.isProposed();
    }

    /** The arranged plan becomes the plan. */
    void takeArranged() {
        model.takeProposed();
        message = "";
        changed();
    }

    /** The plan stays as it was before it was arranged. */
    void leaveArranged() {
        model.leaveProposed();
        schedule = Optional.empty();
        message = "";
        changed();
    }

    /** Filters in turns, or each in one block: of every target, and nothing else of it. */
    void setInterleave(boolean next) {
        interleave = next;
        schedule = Optional.empty();
        edit(now -> now.inTurns(next));
    }

    /** When broad light is taken: the times of the plan follow, and nothing else. */
    void setBroadUnderMoon(boolean next) {
        broadUnderMoon = next;
        arrange();
    }

    /** Says something about the plan. */
    public void tell(String text) {
        say(text);
    }

    /** What is done with or not wanted. */
    Set<String> setAside() {
        return setAside;
    }

    /** Sets an object aside, so that it is not proposed, or takes it back. */
    public void toggleAside(DeepSkyObject object) {
        Set<String> next = new LinkedHashSet<>(setAside);
        if (!next.remove(object.id())) {
            next.add(object.id());
        }
        attempt(() -> profiles.saveSetAside(next));
        setAside = Set.copyOf(next);
        season = Optional.empty();
        changed();
    }

    /** The stretch that candidates are weighed for; empty for the whole night. */
    Optional<Interval> gap() {
        return gap;
    }

    /** Weighs the catalogue for a stretch of the night, or for all of it. */
    public void setGap(Optional<Interval> next) {
        gap = next;
        computeCandidates();
        changed();
    }

    void setLevel(Candidate.Level next) {
        level = next;
        computeCandidates();
    }

    void setDate(LocalDate date) {
        model.choose(NO_BLOCK);
        schedule = Optional.empty();
        replan(now -> now.onDate(date));
    }

    void use(Site site, Kit kit) {
        model.choose(NO_BLOCK);
        model.forgetFramings();
        replan(now -> now.with(site, kit));
    }

    /** Another date, place or kit: the whole night is reckoned anew, beside the interface. Changes made meanwhile come after. */
    private void replan(UnaryOperator<NightDraft> step) {
        NightDraft from = model.workedOn();
        busy = true;
        replanning++;
        work.ask(progress -> PlanStart.of(wiring, step.apply(from)))
                .failed(why -> {
                    replanning--;
                    say(why);
                })
                .then(start -> {
                    replanning--;
                    busy = false;
                    // What was changed while this was reckoned is changed again on top of it.
                    if (model.settled() != from) {
                        replan(step);
                        return;
                    }
                    message = "";
                    model.change(start.draft());
                    started(start);
                });
        changed();
    }

    /** The sub length of the chosen block, or of the first one of the target that is looked at. */
    public Optional<Double> plannedSubSeconds() {
        return model.subSeconds();
    }

    /** Another sub length for the chosen block, or for all of the target that is looked at. */
    public void setSubSeconds(double seconds) {
        edit(model.withSubSeconds(seconds));
    }

    /** Other rules of the night; a step that can be taken back. */
    void setRules(UnaryOperator<Program> change) {
        double before = file().program().minimumAltitudeDeg();
        edit(now -> now.withProgram(change.apply(now.file().program())), () -> {
            if (file().program().minimumAltitudeDeg() != before) {
                computeCandidates();
            }
        });
    }

    /** Tables that were read for this plan: nothing is saved over them. */
    List<Path> filesRead() {
        return List.copyOf(filesRead);
    }

    /** Reads a table of the weather that somebody foresees, beside the interface. */
    public void readForecast(Path csv) {
        filesRead.add(csv);
        NightDraft now = draft();
        editing.ask(progress -> Forecasts.parse(csv, now)).failed(this::say).then(this::takeForecast);
    }

    /** Another forecast: everything that follows from the weather is reckoned anew. */
    void takeForecast(WeatherTable table) {
        message = forecasts.take(table, draft());
        weatherChanged();
    }

    public void forgetForecast() {
        forecasts.forget();
        weatherChanged();
    }

    private void weatherChanged() {
        computeCandidates();
        changed();
    }

    /** Does something that takes its time, such as writing a file, beside the interface. */
    void beside(Runnable work, Runnable then, Consumer<String> failed) {
        editing.ask(progress -> {
                    work.run();
                    return true;
                })
                .failed(failed)
                .then(done -> then.run());
    }

    /** Saves a profile; what differs from the saved ones is another then. */
    void saveProfile(Consumer<Profiles> save) {
        editing.ask(progress -> {
                    save.accept(profiles);
                    return profiles;
                })
                .failed(this::say)
                .then(saved -> changed());
    }

    private void attempt(Runnable action) {
        try {
            action.run();
        } catch (BadInputException | IllegalArgumentException e) {
            say(e.getMessage());
        }
    }

    /** Carries out what a button or a card of the right column is for. */
    public void obey(Intent intent) {
        if (intent instanceof Intent.AddLookedAt) {
            addLooked();
        } else if (intent instanceof Intent.Arrange) {
            arrange();
        } else if (intent instanceof Intent.TakeArranged) {
            takeArranged();
        } else if (intent instanceof Intent.LeaveArranged) {
            leaveArranged();
        } else if (intent instanceof Intent.DropUnplaced) {
            edit(NightDraft::withoutUnplaced);
        } else if (intent instanceof Intent.ShowRehearsals) {
            setTab(Tab.REHEARSAL);
        } else if (intent instanceof Intent.RehearseInSeconds) {
            rehearsals.inSeconds(file());
        } else if (intent instanceof Intent.RehearseManyTimes) {
            rehearsals.aHundredTimes(file());
        } else if (intent instanceof Intent.Rehearse) {
            runner.rehearse(toRun());
        } else if (intent instanceof Intent.BeginNight) {
            runner.begin(toRun());
        } else if (intent instanceof Intent.FiltersInTurns filters) {
            setInterleave(filters.inTurns());
        } else if (intent instanceof Intent.BroadUnderMoon broad) {
            setBroadUnderMoon(broad.allowed());
        } else if (intent instanceof Intent.Gain gain) {
            use(file().site(), file().kit().atGain(gain.point()));
        } else if (intent instanceof Intent.GuideBy guide) {
            use(file().site(), guide.optics().kit());
        } else if (intent instanceof Intent.Light light) {
            Kit kit = file().kit();
            Site site = file().site();
            edit(model.with(t -> t.withGoals(Projects.goals(kit, site, light.narrow()))));
        } else if (intent instanceof Intent.SubLength length) {
            setSubSeconds(length.seconds());
        }
    }

    Rehearsals rehearsals() {
        return rehearsals;
    }

    /** Whether the plan is being rehearsed without pixels. */
    public boolean isRehearsing() {
        return rehearsals.isBusy();
    }

    /** Changes what is to go wrong in rehearsals; a step that can be taken back. */
    public void setFaults(Consumer<List<RehearsedFault>> change) {
        edit(Rehearsals.with(change));
    }

    /** Faults are dragged by their word. */
    @Override
    public boolean takes(String word) {
        return Rehearsals.kind(word).isPresent();
    }

    @Override
    public void dropped(String word, Instant at) {
        LocalTime time = at.atZone(file().site().zone()).toLocalTime().truncatedTo(ChronoUnit.MINUTES);
        Rehearsals.kind(word).ifPresent(kind -> setFaults(all -> all.add(new RehearsedFault(kind, time))));
    }

    private NightFile toRun() {
        return model.workedOn().withLessons(profiles.lessons()).file();
    }

    // ---- framing
    // -------------------------------------------------------------------------------------------------------

    /** The frame of an object: as the plan has it, or as it was left, or with the object in its middle. */
    public Framing framing(DeepSkyObject object) {
        return model.framing(object);
    }

    /** Whether an angle was chosen for an object. */
    boolean isFramed(DeepSkyObject object) {
        return model.isFramed(object);
    }

    /** Another frame for an object. Of a planned target it is a step that can be taken back, however many moves it took. */
    void setFraming(DeepSkyObject object, Framing framing) {
        Optional<UnaryOperator<NightDraft>> step = model.frame(object, framing);
        if (step.isEmpty()) {
            changed();
            return;
        }
        NightDraft from = model.workedOn();
        reframing
                .ask(progress -> step.get().apply(from))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    model.framed(from, next);
                    changed();
                });
    }

    /** Each panel of a mosaic becomes a target: of a planned object its blocks are shared out, another is added first. */
    void takePanels(DeepSkyObject object, List<Framing> panels) {
        double angle = framing(object).angleDeg();
        List<Equatorial> middles = panels.stream().map(Framing::centre).toList();
        Optional<UnaryOperator<NightDraft>> adding =
                model.meant().filter(b -> model.isOf(b.target(), object)).isPresent()
                        ? Optional.of(now -> now)
                        : model.addLooked(broadUnderMoon);
        adding.ifPresent(add -> edit(now -> {
            NightDraft with = add.apply(now);
            return with.file().program().targets().stream()
                    .filter(t -> model.isOf(t, object))
                    .findFirst()
                    .map(t -> with.withPanels(t, middles, angle))
                    .orElse(with);
        }));
    }

    /** The camera's angle on the last night before this one, where the logbook tells it. */
    Optional<Double> lastAngle() {
        return wishes.lastAngle();
    }

    /** Whether an object's light reaches the sensor at all. */
    boolean lightIsSeen(DeepSkyObject object) {
        return TargetLight.of(object.kind()).seenBy(file().kit());
    }

    @Override
    public void close() {
        work.close();
        editing.close();
        dragging.close();
        drawing.close();
        reframing.close();
        rehearsals.close();
        wishes.close();
        trying.close();
    }
}
