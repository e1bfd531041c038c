package app.ironside.desk.plan;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.TextFiles;
import app.ironside.Workers;
import app.ironside.desk.night.RibbonPlanner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.reckon.Intent;
import app.ironside.device.DeviceDriver;
import app.ironside.document.History;
import app.ironside.document.NightDraft;
import app.ironside.document.NightFile;
import app.ironside.document.NightPack;
import app.ironside.document.ReadyList;
import app.ironside.kit.Kit;
import app.ironside.logbook.Profiles;
import app.ironside.plan.Candidate;
import app.ironside.plan.CandidateSearch;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.Framing;
import app.ironside.plan.NightBudget;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Project;
import app.ironside.plan.Projects;
import app.ironside.plan.Schedule;
import app.ironside.plan.SeasonBoard;
import app.ironside.plan.TargetLight;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.WeatherForecast;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.Site;
import app.ironside.wiring.Wiring;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;

/**
 * The night that is being planned: its draft with undo, what is looked at, and what was computed for it in the background. Interface
 * thread only.
 */
public final class PlanDesk implements RibbonPlanner, AutoCloseable {
    private static final int SEASON_OF_A_CLASS = 3;
    private static final int SEASON_ROWS = 10;
    private static final Duration LEAST_BLOCK = Duration.ofMinutes(15);

    /** What the middle of the station shows. */
    public enum Tab {
        TONIGHT("Tonight"),
        FRAMING("Framing"),
        SEASON("Season"),
        EXPOSURE("Exposure"),
        COSTS("Costs"),
        PROFILES("Site and kit");

        private final String title;

        Tab(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    private final Wiring wiring;
    private final Profiles profiles;
    private final Path folder;
    private final Runnable changed;
    private final Runner runner;
    private final CandidateSearch search;
    private final BackgroundWork work = new BackgroundWork("plan");
    private final BackgroundWork editing = new BackgroundWork("changes of the plan");
    private final BackgroundWork dragging = new BackgroundWork("drag");
    private final BackgroundWork reframing = new BackgroundWork("framing");
    private final BackgroundWork drawing = new BackgroundWork("drawing of the plan");

    private History<NightDraft> history;
    private NightDraft preview;
    private RibbonState.Sky sky;
    private Optional<PlanDrawn> drawn = Optional.empty();
    private Optional<DeepSkyObject> drawnFor = Optional.empty();
    private WeatherForecast weather = span -> List.of();
    private Optional<CloudForecast> ownForecast = Optional.empty();
    private int forecasts;
    private List<Candidate> candidates = List.of();
    private Optional<SeasonBoard> season = Optional.empty();
    private Optional<Schedule> schedule = Optional.empty();
    private Optional<DeepSkyObject> looked = Optional.empty();
    private Map<String, Framing> framings = new LinkedHashMap<>();

    /** The draft that the last move of a frame made; more moves go on with it. */
    private NightDraft beingFramed;

    private Candidate.Level level = Candidate.Level.PRACTISED;
    private boolean interleave = true;
    private boolean broadUnderMoon;
    private Set<String> setAside;
    private final List<Path> filesRead = new ArrayList<>();
    private int block = -1;
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

    public PlanDesk(Wiring wiring, Profiles profiles, Path folder, Runnable changed, Runner runner) {
        this.wiring = wiring;
        this.profiles = profiles;
        this.folder = folder;
        this.changed = changed;
        this.runner = runner;
        this.setAside = profiles.setAside();
        this.search = new CandidateSearch(wiring.objects(), wiring.stars());
    }

    /** What can connect devices. */
    List<DeviceDriver> drivers() {
        return wiring.drivers();
    }

    // ---- what there is
    // -------------------------------------------------------------------------------------------------

    public boolean isOpen() {
        return history != null;
    }

    /** Plans a night anew; earlier changes are forgotten. */
    public void open(PlanStart start) {
        history = new History<>(start.draft());
        preview = null;
        block = -1;
        schedule = Optional.empty();
        looked = Optional.empty();
        drawn = Optional.empty();
        started(start);
    }

    public NightDraft draft() {
        return preview == null ? history.now() : preview;
    }

    public NightFile file() {
        return draft().file();
    }

    Tab tab() {
        return tab;
    }

    public void setTab(Tab next) {
        tab = next;
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

    public Optional<DeepSkyObject> looked() {
        return looked;
    }

    Optional<PlannedBlock> chosenBlock() {
        List<PlannedBlock> blocks = draft().plan().blocks();
        return block >= 0 && block < blocks.size() ? Optional.of(blocks.get(block)) : Optional.empty();
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

    /** The person's forecast, if it is for this night. What is invented for rehearsals foresees nothing. */
    CloudForecast clouds() {
        return ownForecast
                .filter(f -> f.tellsOf(draft().plan().times().night()))
                .orElseGet(() -> weather.isInvented()
                        ? CloudForecast.CLEAR
                        : weather.clouds(draft().plan().times().night()));
    }

    /** The clouds that a rehearsal of this plan would meet. */
    CloudForecast inventedClouds() {
        return weather.isInvented() ? weather.clouds(draft().plan().times().night()) : CloudForecast.CLEAR;
    }

    /** Changes with each forecast that is read. */
    int forecastsRead() {
        return forecasts;
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
        weather = start.weather();
        season = Optional.empty();
        computeCandidates();
        if (tab == Tab.SEASON) {
            computeSeason();
        }
        changed();
    }

    /** Tells the views, and has what follows from the draft reckoned. */
    private void changed() {
        changed.run();
        NightDraft now = draft();
        RibbonState.Sky over = sky;
        WeatherForecast under = weather;
        Optional<DeepSkyObject> at = looked;
        if (drawn.filter(d -> d.of() == now).isPresent() && at.equals(drawnFor)) {
            return;
        }
        drawing.ask(progress -> PlanDrawn.of(now, over, under, folder, at))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    drawn = Optional.of(next);
                    drawnFor = at;
                    changed.run();
                });
    }

    /**
     * A change of the plan, reckoned beside the interface. If another came in between, this one is made on top of it.
     *
     * @param then told when it is done
     */
    private void edit(UnaryOperator<NightDraft> step, Runnable then) {
        NightDraft from = history.now();
        editing.ask(progress -> step.apply(from)).failed(this::say).then(next -> {
            if (history.now() != from) {
                edit(step, then);
            } else if (next != from) {
                preview = null;
                history.change(next);
                message = "";
                then.run();
                changed();
            } else {
                changed();
            }
        });
    }

    private void edit(UnaryOperator<NightDraft> step) {
        edit(step, () -> {});
    }

    private void computeCandidates() {
        NightDraft now = draft();
        CandidateSearch.Wish wish =
                new CandidateSearch.Wish(now.file().program().minimumAltitudeDeg(), level, clouds());
        compute(
                () -> search.rank(
                        now.file().site(), now.file().kit(), now.plan().times(), wish, Workers.ALL_CORES),
                found -> {
                    candidates = found;
                    if (looked.isEmpty() && !now.plan().blocks().isEmpty()) {
                        looked = wiring.objects()
                                .find(now.plan().blocks().get(0).target().name());
                    }
                });
    }

    private void computeSeason() {
        NightDraft now = draft();
        Set<DeepSkyObject> targets = new LinkedHashSet<>();
        now.plan()
                .blocks()
                .forEach(b -> wiring.objects().find(b.target().name()).ifPresent(targets::add));
        looked.ifPresent(targets::add);
        List<DeepSkyObject> proposed = candidates.stream()
                .map(Candidate::object)
                .filter(o -> !setAside.contains(o.id()))
                .toList();
        for (SeasonBoard.ObjectClass of : SeasonBoard.ObjectClass.values()) {
            proposed.stream()
                    .filter(o -> SeasonBoard.ObjectClass.of(o.kind()) == of)
                    .limit(SEASON_OF_A_CLASS)
                    .forEach(targets::add);
        }
        LocalDate first = now.file().program().date().withDayOfMonth(1);
        double minimum = now.file().program().minimumAltitudeDeg();
        compute(
                () -> SeasonBoard.of(
                        now.file().site(),
                        targets.stream().limit(SEASON_ROWS).toList(),
                        first,
                        365,
                        new SeasonBoard.Settings(minimum, Workers.ALL_CORES, Progress.NONE)),
                board -> season = Optional.of(board));
    }

    /** Computes in the background; the answer to a question of another night is dropped. */
    private <T> void compute(Supplier<T> question, Consumer<T> answer) {
        int asked = ++ticket;
        NightDraft of = history.now();
        busy = true;
        work.ask(progress -> question.get())
                .failed(why -> say("This could not be computed: " + why))
                .then(result -> {
                    busy = asked != ticket;
                    if (sameNight(of)) {
                        answer.accept(result);
                    }
                    changed();
                });
    }

    private boolean sameNight(NightDraft of) {
        NightFile then = of.file();
        return then.site().equals(file().site())
                && then.kit().equals(file().kit())
                && then.program().date().equals(file().program().date());
    }

    private void say(String text) {
        message = text;
        busy = false;
        changed();
    }

    // ---- what the person does
    // ----------------------------------------------------------------------------------------

    void look(DeepSkyObject object) {
        looked = Optional.of(object);
        changed();
    }

    /** After a step back or forward: of another night, everything is reckoned again. */
    private void afterStep(NightDraft before) {
        boolean sameNight = sameNight(before)
                && before.file().program().minimumAltitudeDeg()
                        == file().program().minimumAltitudeDeg();
        if (sameNight) {
            changed();
        } else {
            NightDraft now = history.now();
            compute(() -> PlanStart.of(wiring, now), this::started);
        }
    }

    boolean canUndo() {
        return history.canUndo();
    }

    boolean canRedo() {
        return history.canRedo();
    }

    public void undo() {
        NightDraft before = history.now();
        history.undo();
        schedule = Optional.empty();
        afterStep(before);
    }

    public void redo() {
        NightDraft before = history.now();
        history.redo();
        afterStep(before);
    }

    @Override
    public int chosen() {
        return block;
    }

    @Override
    public void choose(int next) {
        block = next;
        chosenBlock().flatMap(b -> wiring.objects().find(b.target().name())).ifPresent(o -> looked = Optional.of(o));
        changed();
    }

    /** Follows a drag as fast as it can be reckoned; the pointer waits for nothing. */
    @Override
    public void preview(int moved, Interval span) {
        NightDraft from = history.now();
        RibbonState.Sky over = sky;
        WeatherForecast under = weather;
        Optional<DeepSkyObject> at = looked;
        dragging.ask(progress -> PlanDrawn.of(from.move(moved, span), over, under, folder, at))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    if (history.now() == from) {
                        // Drawn at once and once: the views have no more than a frame's time.
                        preview = next.of();
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
        edit(now -> now.move(moved, span), () -> {
            block = -1;
            for (int i = 0; i < draft().plan().blocks().size(); i++) {
                if (draft().plan().blocks().get(i).span().contains(middle)) {
                    block = i;
                }
            }
        });
    }

    @Override
    public void split(int whole, Instant at) {
        schedule = Optional.empty();
        edit(now -> now.split(whole, at));
    }

    @Override
    public void remove(int gone) {
        block = -1;
        schedule = Optional.empty();
        if (draft().plan().blocks().size() > 1) {
            edit(now -> now.remove(gone));
        } else {
            say("The last target stays: add another before you remove it.");
        }
    }

    /** Moves the chosen block by some minutes. */
    void nudge(int edge, int minutes) {
        chosenBlock().ifPresent(b -> {
            Duration by = Duration.ofMinutes(minutes);
            Instant from = edge <= 0 ? b.span().from().plus(by) : b.span().from();
            Instant until = edge >= 0 ? b.span().until().plus(by) : b.span().until();
            if (Duration.between(from, until).compareTo(LEAST_BLOCK) >= 0) {
                settle(block, new Interval(from, until));
            }
        });
    }

    /** Puts what is looked at into the free time of the night, or into the end of it. */
    void addLooked() {
        looked.ifPresent(object -> {
            TargetPlan target = target(object);
            schedule = Optional.empty();
            edit(now -> {
                Interval place = freeTime(now, object)
                        .orElseThrow(() -> new BadInputException(
                                object.id(), "has no dark hour above the skyline tonight", "another night or target"));
                return now.add(target, place);
            });
        });
    }

    /** Its longest usable stretch that no block has; else the better half of it. */
    private static Optional<Interval> freeTime(NightDraft now, DeepSkyObject object) {
        List<Interval> usable = now.outlook().windows().apply(object.position()).usable();
        List<Interval> free = new ArrayList<>(usable);
        for (PlannedBlock b : now.plan().blocks()) {
            List<Interval> next = new ArrayList<>();
            for (Interval u : free) {
                if (u.intersection(b.span()).isEmpty()) {
                    next.add(u);
                } else {
                    if (u.from().isBefore(b.span().from())) {
                        next.add(new Interval(u.from(), b.span().from()));
                    }
                    if (b.span().until().isBefore(u.until())) {
                        next.add(new Interval(b.span().until(), u.until()));
                    }
                }
            }
            free = next;
        }
        Optional<Interval> gap = longest(free).filter(i -> i.duration().compareTo(LEAST_BLOCK) > 0);
        return gap.isPresent()
                ? gap
                : longest(usable)
                        .map(u -> new Interval(
                                u.from().plus(u.duration().multipliedBy(2).dividedBy(3)), u.until()));
    }

    private static Optional<Interval> longest(List<Interval> intervals) {
        return intervals.stream().max(java.util.Comparator.comparing(Interval::duration));
    }

    private TargetPlan target(DeepSkyObject object) {
        Project project = Projects.of(object, file().kit(), file().site(), broadUnderMoon);
        TargetPlan target = new TargetPlan(
                object.id(),
                object.position(),
                project.goals().stream().map(g -> g.filter().name()).toList(),
                2,
                project.subSeconds());
        return Optional.ofNullable(framings.get(object.id()))
                .map(f -> target.framed(f.centre(), f.angleDeg()))
                .orElse(target);
    }

    /** The best times for the targets of the plan; what each of them is to be stays as it was chosen. */
    void arrange() {
        NightDraft now = history.now();
        CloudForecast clouds = clouds();
        boolean turns = interleave;
        boolean broad = broadUnderMoon;
        compute(() -> now.arrange(clouds, turns, broad), arranged -> {
            if (history.now() != now) {
                say("The plan was changed meanwhile and stays as it is. Arrange again.");
                return;
            }
            if (arranged.schedule().blocks().isEmpty()) {
                say("None of these targets is up in the dark tonight.");
                return;
            }
            block = -1;
            preview = null;
            history.change(arranged.draft());
            message = "";
            schedule = Optional.of(arranged.schedule());
            changed();
            if (!arranged.without().isEmpty()) {
                message = "No time was found for " + String.join(", ", arranged.without()) + ". Undo brings it back.";
            }
        });
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

    void setLevel(Candidate.Level next) {
        level = next;
        computeCandidates();
    }

    void setDate(LocalDate date) {
        block = -1;
        schedule = Optional.empty();
        replan(now -> now.onDate(date));
    }

    void use(Site site, Kit kit) {
        block = -1;
        framings = new LinkedHashMap<>();
        replan(now -> now.with(site, kit));
    }

    /** Another date, place or kit: the whole night is reckoned anew, beside the interface. Changes made meanwhile come after. */
    private void replan(UnaryOperator<NightDraft> step) {
        NightDraft from = history.now();
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
                    if (history.now() != from) {
                        replan(step);
                        return;
                    }
                    preview = null;
                    message = "";
                    history.change(start.draft());
                    started(start);
                });
        changed();
    }

    /** The sub length of the chosen block, or of the first one of the target that is looked at. */
    public Optional<Double> plannedSubSeconds() {
        return withLength().stream()
                .findFirst()
                .map(i -> draft().plan().blocks().get(i).target().subSeconds());
    }

    /** Blocks that a sub length is chosen for: the chosen one, or else all of the target that is looked at. */
    private List<Integer> withLength() {
        List<PlannedBlock> blocks = draft().plan().blocks();
        if (chosenBlock().isPresent()) {
            return List.of(block);
        }
        return IntStream.range(0, blocks.size())
                .filter(i -> looked.filter(
                                o -> o.id().equals(blocks.get(i).target().name()))
                        .isPresent())
                .boxed()
                .toList();
    }

    /** Another sub length for the chosen block, or for all of the target that is looked at. */
    public void setSubSeconds(double seconds) {
        List<Integer> blocks = withLength();
        edit(now -> {
            NightDraft next = now;
            for (int i : blocks) {
                TargetPlan t = next.plan().blocks().get(i).target();
                next = next.replace(i, t.withSubSeconds(seconds));
            }
            return next;
        });
    }

    /** Tables that were read for this plan: nothing is saved over them. */
    List<Path> filesRead() {
        return List.copyOf(filesRead);
    }

    public void readForecast(Path csv) {
        filesRead.add(csv);
        try (BufferedReader reader = TextFiles.reader(csv, "a forecast")) {
            ownForecast =
                    Optional.of(CloudForecast.parse(reader, csv.getFileName().toString()));
            forecasts++;
            message = ownForecast.get().tellsOf(draft().plan().times().night())
                    ? ""
                    : csv.getFileName() + " tells nothing of this night; it is used on the night it is for.";
            computeCandidates();
        } catch (IOException | BadInputException e) {
            say(e.getMessage());
        }
        changed();
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
        } else if (intent instanceof Intent.Rehearse) {
            runner.rehearse(toRun());
        } else if (intent instanceof Intent.BeginNight) {
            runner.begin(toRun());
        } else if (intent instanceof Intent.FiltersInTurns filters) {
            setInterleave(filters.inTurns());
        } else if (intent instanceof Intent.BroadUnderMoon broad) {
            setBroadUnderMoon(broad.allowed());
        } else if (intent instanceof Intent.SubLength length) {
            setSubSeconds(length.seconds());
        }
    }

    private NightFile toRun() {
        return history.now().withLessons(profiles.lessons()).file();
    }

    // ---- framing
    // -------------------------------------------------------------------------------------------------------

    /** The frame of an object: as the plan has it, or as it was left, or with the object in its middle. */
    public Framing framing(DeepSkyObject object) {
        Framing left = framings.getOrDefault(object.id(), new Framing(file().kit(), object.position(), 0));
        return planned(object)
                .map(t -> new Framing(file().kit(), t.position(), t.angleDeg().orElse(left.angleDeg())))
                .orElse(left);
    }

    /** Whether an angle was chosen for an object. */
    boolean isFramed(DeepSkyObject object) {
        return framings.containsKey(object.id())
                || planned(object).flatMap(TargetPlan::angleDeg).isPresent();
    }

    private Optional<TargetPlan> planned(DeepSkyObject object) {
        return file().program().targets().stream()
                .filter(t -> wiring.objects()
                        .find(t.name())
                        .filter(o -> o.id().equals(object.id()))
                        .isPresent())
                .findFirst();
    }

    /** Another frame for an object. Of a planned target it is a step that can be taken back, however many moves it took. */
    void setFraming(DeepSkyObject object, Framing framing) {
        framings.put(object.id(), framing);
        Optional<TargetPlan> target = planned(object);
        if (target.isEmpty()) {
            changed();
            return;
        }
        NightDraft from = history.now();
        reframing
                .ask(progress -> from.framed(target.get().name(), framing.centre(), framing.angleDeg()))
                .onlyNewest()
                .failed(this::say)
                .then(next -> {
                    if (history.now() != from) {
                        return; // a move of the frame that another change has overtaken
                    }
                    if (from == beingFramed) {
                        history.amend(next);
                    } else {
                        history.change(next);
                    }
                    beingFramed = next;
                    changed();
                });
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
    }
}
