package app.ironside.desk;

import app.ironside.Provenance;
import app.ironside.desk.darkroom.DarkroomPane;
import app.ironside.desk.inspect.InspectPane;
import app.ironside.desk.inspect.StarsPane;
import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.RailState;
import app.ironside.desk.night.RailView;
import app.ironside.desk.night.Ribbon;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.night.Strips;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.FrameView;
import app.ironside.desk.picture.PictureLoader;
import app.ironside.desk.picture.Shown;
import app.ironside.desk.plan.PlanBench;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.plan.PlanReckoner;
import app.ironside.desk.reckon.Cautions;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.desk.session.Nights;
import app.ironside.desk.session.RunningNight;
import app.ironside.desk.session.ShownNight;
import app.ironside.desk.session.SubMarks;
import app.ironside.desk.station.Benches;
import app.ironside.desk.station.CommandBar;
import app.ironside.desk.station.LogbookPane;
import app.ironside.desk.station.ModelPane;
import app.ironside.desk.station.PolarBench;
import app.ironside.desk.station.ReadyBench;
import app.ironside.desk.station.ThreeStarsPane;
import app.ironside.document.FirstNight;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.night.NightControl;
import app.ironside.notice.Herald;
import app.ironside.plan.NightBudget;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.css.PseudoClass;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;

/**
 * The desk: ribbon above, rail left, bench in the middle, reckoning right. Copies the states of the night that is shown and of the one
 * that runs to its views; what takes longer than a blink is done by {@link Nights}. Interface thread only, unless said otherwise.
 */
final class DeskView extends StackPane
        implements AutoCloseable, DeskHeader.Doer, KeyMap.Doer, Doors.Doer, Intake.Taker {
    private static final PseudoClass COMPACT = PseudoClass.getPseudoClass("compact");

    /** Below it the rail's stations move closer together. */
    private static final double ROOMY_HEIGHT = 850;

    /** Below it the strips of Run leave their room to the rail. */
    private static final double LOW_HEIGHT = 740;

    private final Logbook logbook;
    private final Nights nights;
    private final PictureLoader loader = new PictureLoader(this::refresh);
    private final AtomicBoolean refreshPending = new AtomicBoolean();
    private final DeskHeader header;
    private final Ribbon ribbon = new Ribbon();
    private final Strips strips = new Strips(this::pick);
    private final RailView rail = new RailView(this::choose);
    private final ReckoningView reckoning;
    private final StackPane middle = new StackPane();
    private final Label status = new Label();
    private final HandsBar hands =
            new HandsBar(() -> runningModel().confirmed(), () -> runningModel().denied());
    private final Reins reins;
    private final CommandBar commands;
    private final VBox keys = KeyMap.list();
    private final LogbookPane logbookPane = new LogbookPane(this::openNight, this::askToRemove, this::pick);
    private final PlanDesk planDesk;
    private final PlanBench planBench;
    private final PlanReckoner planReckoner;
    private final ReadyBench readyBench;
    private final PolarBench polarBench;
    private final ModelPane modelPane;
    private final ThreeStarsPane threeStars;
    private final Map<Stage, Bench> benches;
    private final FilesOver files;
    private final Questions questions = new Questions(this);
    private final Beginnings beginnings;
    private final Timeline ticking = new Timeline(new KeyFrame(Duration.millis(200), e -> refresh()));

    private final Telling telling;
    private final SubMarks marks;
    private Optional<ShownNight> shown = Optional.empty();

    /** The night that runs, also while another is looked at. */
    private Optional<ShownNight> runningNight = Optional.empty();

    private Optional<Runnable> atTheEnd = Optional.empty();

    /** The station whose question was brought before the person. */
    private Optional<Stage> asked = Optional.empty();

    /** The changed program that is shown, or on its way to be. */
    private Optional<ProgramRevised> adopted = Optional.empty();

    private Optional<NightEvent> chosen = Optional.empty();
    private Optional<Instant> moment = Optional.empty();
    private boolean planStale = true;
    private boolean following;
    private Optional<Stage> followed = Optional.empty();
    private ReckoningState planReckoning = ReckoningState.waiting("", "");
    private Optional<RibbonState> planRibbon = Optional.empty();
    private Stage station;
    private Palette look;
    private double rate;
    private boolean closed;
    private Consumer<Path> opener = folder -> {};

    /** What was last said in the status line; empty after the next thing that is done. */
    private String said = "";

    DeskView(Wiring wiring, Logbook logbook, Profiles profiles, DeskSettings settings) {
        this.logbook = logbook;
        this.nights = new Nights(wiring, logbook, this::changed, this::say);
        this.telling = new Telling(logbook.folder(), Herald.Ways.ofThisMachine(), this::sayLater);
        this.station = settings.station();
        this.look = settings.palette();
        this.rate = settings.rate();
        this.marks = new SubMarks(nights);
        this.reins = new Reins(nights, settings.gates(), questions, this::refresh);
        this.commands = new CommandBar(reins::command, policy -> reins.setPolicy(station, policy));
        this.beginnings = new Beginnings(nights, questions, this::beginFromPlan, this::remove);
        this.planDesk =
                new PlanDesk(wiring, profiles, logbook.folder(), Nights.record(logbook), this::planChanged, beginnings);
        this.planBench = new PlanBench(planDesk);
        this.planReckoner = new PlanReckoner(planDesk);
        this.reckoning = new ReckoningView(this::obey);
        this.readyBench = new ReadyBench(this::runningModel, profiles);
        this.polarBench = new PolarBench(wiring.stars());
        this.threeStars = new ThreeStarsPane(wiring::stars);
        this.modelPane = new ModelPane(wiring, Wiring.models(logbook, Provenance.REHEARSED));
        this.benches = Benches.all(
                this::pick,
                logbookPane,
                new Benches.Prepared(planBench, readyBench, polarBench, modelPane, threeStars),
                wiring.objects());
        this.header = new DeskHeader(this, this::setRate, rate);
        this.files = new FilesOver(this, wiring, this::say, this::opened);
        getStyleClass().add("root");
        // On the scene, so that tooltips, menus and lists that pop up wear the palette too.
        sceneProperty().addListener((o, was, is) -> setPalette(look));
        layOut();
        heightProperty().addListener((o, was, is) -> {
            pseudoClassStateChanged(COMPACT, is.doubleValue() < ROOMY_HEIGHT);
            strips.setRows(is.doubleValue() < LOW_HEIGHT ? 2 : is.doubleValue() < ROOMY_HEIGHT ? 4 : 5);
        });
        new Intake(this).attach(this);
        new KeyMap(this).attach(this);
        ribbon.setOnEvent(this::pick);
        ribbon.setOnTime(this::goTo);
        setPalette(look);
        setStation(station);
        ticking.setCycleCount(Animation.INDEFINITE);
    }

    private void layOut() {
        ribbon.setId("ribbon");
        BorderPane desk = new BorderPane();
        desk.setTop(new VBox(header, ribbon, strips));
        Region between = new Region();
        VBox.setVgrow(between, Priority.ALWAYS);
        desk.setLeft(new VBox(rail, between, new Doors(this)));
        BorderPane.setMargin(reckoning, new Insets(6, 14, 8, 0));
        VBox.setVgrow(middle, Priority.ALWAYS);
        // A bench that needs more room than there is loses its lower edge and nothing else.
        middle.setMinHeight(0);
        middle.setAlignment(Pos.TOP_LEFT);
        Rectangle seen = new Rectangle();
        seen.widthProperty().bind(middle.widthProperty());
        seen.heightProperty().bind(middle.heightProperty());
        middle.setClip(seen);
        setAlignment(desk, Pos.TOP_LEFT);
        VBox work = new VBox(8, middle, hands, commands);
        BorderPane.setMargin(work, new Insets(6, 8, 8, 4));
        desk.setCenter(work);
        desk.setRight(reckoning);
        status.getStyleClass().add("status");
        status.setId("status");
        desk.setBottom(status);
        commands.setVisible(false);
        keys.setVisible(false);
        getChildren().add(desk);
        getChildren().addAll(files.nodes());
        getChildren().add(keys);
    }

    /** Says how folders are opened on this system. */
    void setOpener(Consumer<Path> opener) {
        this.opener = opener;
    }

    @Override
    public void openFolder() {
        // Whether a folder is there is for the system to find out that opens it.
        Path folder = shown.flatMap(ShownNight::entry).map(NightEntry::folder).orElse(logbook.folder());
        opened(folder);
    }

    private void opened(Path folder) {
        opener.accept(folder);
        say("Opened: " + folder);
    }

    @Override
    public boolean take(List<Path> dropped) {
        return files.take(dropped);
    }

    void inspect(List<Path> frames) {
        files.inspect(frames);
    }

    @Override
    public void showStars() {
        files.showStars();
    }

    @Override
    public void showDarkroom() {
        files.showDarkroom(shown.flatMap(ShownNight::entry).map(NightEntry::folder));
    }

    @Override
    public void showTelling() {
        questions.show(new TellingPane(telling, () -> shown.ifPresent(telling::tryIt), questions::dismiss));
    }

    DarkroomPane darkroom() {
        return files.darkroom();
    }

    @Override
    public void chooseFrame() {
        Intake.choose(this, files::inspect);
    }

    // ---- what is shown
    // -----------------------------------------------------------------------------------------------

    private void say(String words) {
        said = words;
        refresh();
    }

    private Optional<RunningNight> running() {
        return nights.underWay();
    }

    /** The model of the night that runs, or of the one that is shown. */
    private NightModel runningModel() {
        return nights.running()
                .map(RunningNight::model)
                .or(() -> shown.map(ShownNight::model))
                .orElseGet(() -> new NightModel(this::changed));
    }

    /** Shows a night of the logbook: as it runs, if it does; else without running it. */
    void openNight(NightEntry night) {
        nights.open(night, next -> {
            show(next);
            moment = isShown() ? Optional.empty() : next.lastTime();
            refresh();
        });
    }

    /** Shows a night that was made ready while the desk was not there yet. */
    void showAtOnce(ShownNight night) {
        show(night);
        moment = night.lastTime();
        refresh();
    }

    /** Puts into the logbook what was left for later. */
    void completeLogbook(Consumer<Logbook> rest) {
        nights.withLogbook(
                progress -> {
                    rest.accept(logbook);
                    return logbook.nights();
                },
                all -> {
                    logbookPane.setNights(all, shown.flatMap(ShownNight::entry));
                    refresh();
                });
    }

    /** Shows a night that is only planned. */
    void plan(NightFile night) {
        nights.plan(night, next -> {
            show(next);
            moment = Optional.empty();
            choose(Stage.PLAN);
        });
    }

    /** Keeps somebody's first site and kit, and plans their first night with the target that stands best in it. */
    void planFirst(FirstNight first, LocalDate date) {
        say("Looking for what stands best that night…");
        nights.first(first, date, planDesk.profiles(), next -> {
            show(next);
            moment = Optional.empty();
            choose(Stage.PLAN);
        });
    }

    private void show(ShownNight next) {
        shown = Optional.of(next);
        chosen = Optional.empty();
        adopted = next.model().night().last(ProgramRevised.class);
        loader.clear();
        readyBench.setFile(next.file());
        polarBench.setFile(next.file());
        modelPane.setFile(next.file());
        threeStars.setFile(next.file());
        files.setFile(next.file());
        planDesk.open(next.start());
        planRibbon = Optional.empty();
        planReckoning = ReckoningState.waiting("Reckoning.", "The plan is being reckoned.");
        planStale = true;
        logbookPane.setNights(next.nights(), next.entry());
    }

    /** Runs a rehearsal of a night, from its start or from where it was left. */
    void rehearse(NightFile night, Optional<NightEntry> where) {
        begin(Nights.Kind.REHEARSAL, night, where);
    }

    private void begin(Nights.Kind kind, NightFile night, Optional<NightEntry> where) {
        say(kind == Nights.Kind.LIVE ? "Connecting the devices…" : "");
        nights.begin(
                new Nights.Beginning(kind, night, where, readyBench.isOwnHands(), rate, reins.gates()), shown, next -> {
                    show(next);
                    moment = Optional.empty();
                    say("");
                    ticking.play();
                });
    }

    private void askToRemove(NightEntry night) {
        beginnings.askToRemove(night);
    }

    private void remove(NightEntry night) {
        nights.remove(night, journal -> {
            say(night.title() + " is out of the logbook; its journal is " + journal + ".");
            nights.list(left -> {
                logbookPane.setNights(left, shown.flatMap(ShownNight::entry).filter(left::contains));
                boolean gone = shown.filter(n -> n.is(night)).isPresent();
                if (gone && !left.isEmpty()) {
                    openNight(left.get(left.size() - 1));
                }
                refresh();
            });
        });
    }

    /** Called from any thread; many calls become one refresh. */
    private void changed() {
        if (refreshPending.compareAndSet(false, true)) {
            Platform.runLater(() -> {
                refreshPending.set(false);
                refresh();
            });
        }
    }

    /** The night that ran last, if it is the one that is shown. */
    private Optional<RunningNight> shownRun() {
        return nights.running()
                .filter(r -> shown.filter(n -> n.is(r.run().entry())).isPresent());
    }

    private boolean isShown() {
        return shownRun().isPresent();
    }

    /** Whether a night runs while another is shown. */
    private boolean isElsewhere() {
        return running().isPresent() && !isShown();
    }

    private Moment moment(ShownNight night) {
        Instant live = shownRun().map(RunningNight::now).or(night::lastTime).orElse(night.begins());
        return night.model().at(moment.orElse(live), moment.isEmpty());
    }

    /** Copies the night's state to the views. */
    void refresh() {
        if (shown.isEmpty() || closed) {
            status.setText(said);
            return;
        }
        if (atTheEnd.isPresent() && !isNightRunning()) {
            Runnable end = atTheEnd.get();
            atTheEnd = Optional.empty();
            if (getScene() != null && !getScene().getWindow().isShowing()) {
                end.run();
                return;
            }
        }
        running().ifPresent(this::attend);
        tell();
        ShownNight night = shown.get();
        chosen = chosen.map(e -> asItStands(night, e));
        Moment at = moment(night);
        adoptRevision(night, at);
        follow(at);
        RailState stations = RailState.of(at.night(), logbookPane.count());
        boolean onlyPlanned = at.night().events().isEmpty() && planDesk.isOpen();
        rail.show(onlyPlanned ? stations.planning(planDesk.draft().plan().subs()) : stations, station);
        if (station == Stage.PLAN) {
            refreshPlan();
            ribbon.show(planRibbon.orElse(night.ribbon()), at, List.of(), Optional.empty());
        } else {
            ribbon.show(night.ribbon(), at, night.model().night().events(), chosen);
        }
        reckoning.show(
                station == Stage.PLAN ? planReckoning : night.reckoner().of(station, at, chosen), Cautions.of(station));
        strips.setVisible(station == Stage.RUN);
        strips.setManaged(station == Stage.RUN);
        if (station == Stage.RUN) {
            strips.show(night.ribbon(), at);
        }
        showHeader(night, at);
        if (running().isEmpty()) {
            hands.show("", false, "");
        } else {
            hands.show(
                    runningModel().asked(),
                    runningModel().isQuestion(),
                    runningModel().wanted());
        }
        commands.setVisible(true);
        commands.show(reins.state(station, isShown(), () -> changedPlan(night)));
        status.setText(new StatusLine(
                        nights.running().map(RunningNight::failure).orElse(""),
                        said,
                        isElsewhere(),
                        loader.fault(),
                        moment.isPresent() && nights.running().isPresent())
                .of(at, chosen, night.model().doing()));
        Bench bench = benches.get(station);
        if (middle.getChildren().isEmpty() || middle.getChildren().get(0) != bench.node()) {
            middle.getChildren().setAll(bench.node());
        }
        wantPicture(night, at);
        bench.show(new Look(
                at,
                chosen,
                night.ribbon(),
                loader.picture(),
                night.file().kit().arcsecPerPixel(),
                night.reckoner().glance(at)));
    }

    private void showHeader(ShownNight night, Moment at) {
        // While a night is planned the head tells of what is planned, also after a change of site or kit.
        NightFile told = station == Stage.PLAN && planDesk.isOpen() ? planDesk.file() : night.file();
        boolean live = nights.running().filter(r -> r.transport().isEmpty()).isPresent();
        header.show(new DeskHeader.Said(
                told.site().name() + "   " + told.kit().name()
                        + Words.format("   %.0f mm", told.kit().optics().focalLengthMm()) + "   "
                        + told.program().date(),
                Words.clock(at.time(), night.file().site().zone()),
                nights.running().map(RunningNight::isFrozen).orElse(false),
                !live,
                running().isPresent(),
                isElsewhere()
                        ? "To the running night"
                        : moment.isPresent() && nights.running().isPresent() ? "Back to now" : ""));
    }

    /** A sub that is looked at has the verdict that stands, also after it was marked. */
    private static NightEvent asItStands(ShownNight night, NightEvent event) {
        return event instanceof SubTaken sub
                ? night.model().night().events().stream()
                        .filter(e -> e instanceof SubTaken s && s.file().equals(sub.file()))
                        .findFirst()
                        .orElse(sub)
                : event;
    }

    /** What the running night has to tell leaves the desk, whatever is looked at. */
    private void tell() {
        Optional<RunningNight> run = nights.running();
        if (run.isPresent() && isShown()) {
            runningNight = shown;
        }
        if (run.isEmpty() || runningNight.isEmpty()) {
            telling.rest();
        } else {
            Moment now = new Moment(run.get().now(), true, run.get().model().night(), List.of());
            telling.follow(run.get(), runningNight.get(), now);
        }
    }

    /** What the night wants to know is brought before the person once, at its station. */
    private void attend(RunningNight night) {
        night.keepPace();
        Optional<Stage> asks = night.control().question().map(NightControl.Question::stage);
        if (!asks.equals(asked)) {
            asked = asks;
            asks.filter(s -> isShown()).ifPresent(s -> {
                moment = Optional.empty();
                setStation(s);
            });
        }
    }

    /** A program that was put in force while the night runs takes the place of the one before, on the ribbon and in the words. */
    private void adoptRevision(ShownNight night, Moment at) {
        Optional<ProgramRevised> revised = at.night().last(ProgramRevised.class);
        if (revised.isEmpty() || revised.equals(adopted)) {
            return;
        }
        adopted = revised;
        nights.revise(night, revised.get().document(), next -> {
            if (shown.filter(n -> n == night).isPresent()) {
                shown = Optional.of(next);
                refresh();
            }
        });
    }

    /** As {@link #say}, from any thread. */
    private void sayLater(String words) {
        Platform.runLater(() -> say(words));
    }

    private void planChanged() {
        planStale = true;
        if (station == Stage.PLAN) {
            refresh();
        }
    }

    /** The plan is copied to its views only when it changed: it does not move with the night. */
    private void refreshPlan() {
        if (!planStale || !planDesk.isDrawn()) {
            return;
        }
        planStale = false;
        NightBudget budget = planDesk.budget();
        planRibbon = Optional.of(planDesk.ribbon());
        planBench.refresh(budget);
        planReckoning = planReckoner.of(budget, planBench.filter());
    }

    /** What a button or a card of the right column asks for. */
    private void obey(Intent intent) {
        if (shown.isEmpty() || !marks.obey(intent, shown.get())) {
            planDesk.obey(intent);
        }
        refresh();
    }

    private void beginFromPlan(Nights.Kind kind, NightFile night) {
        begin(kind, night, Optional.empty());
        choose(Stage.READY);
        following = true;
    }

    Questions questions() {
        return questions;
    }

    @Override
    public boolean isAsking() {
        return questions.isAsking();
    }

    /** While nobody has chosen a station, the desk goes along with the night. */
    private void follow(Moment at) {
        if (!following || !at.live()) {
            return;
        }
        Optional<Stage> stage = at.night().stage();
        if (stage.isPresent() && !stage.equals(followed)) {
            followed = stage;
            setStation(stage.get());
        }
    }

    /** Goes along with the night from station to station until the person chooses one. */
    void followTheNight() {
        following = true;
    }

    private void setStation(Stage next) {
        station = next;
        planStale |= next == Stage.PLAN;
        ribbon.setPlanner(next == Stage.PLAN ? Optional.of(planDesk) : Optional.empty());
    }

    // ---- pictures
    // ----------------------------------------------------------------------------------------------------

    /** Finds out which picture belongs on the bench and has it made, if it is not there yet. */
    private void wantPicture(ShownNight night, Moment at) {
        Optional<NightEvent> fromFile = chosen.filter(e -> NightState.fileOf(e).isPresent());
        if (fromFile.isEmpty() && moment.isPresent()) {
            fromFile = at.lastWithFile(station);
        }
        if (fromFile.isPresent()) {
            NightEvent event = fromFile.get();
            load(night, event);
            return;
        }
        Optional<Shown> live = night.model().latest(station);
        if (live.isPresent()) {
            loader.show(live.get());
        } else {
            at.lastWithFile(station).ifPresentOrElse(e -> load(night, e), loader::clear);
        }
    }

    private void load(ShownNight night, NightEvent event) {
        night.entry()
                .ifPresent(e -> loader.load(
                        e.folder().resolve(NightState.fileOf(event).orElseThrow()),
                        event.text(),
                        () -> nights.likeness(night, event)));
    }

    // ---- what the person does
    // ----------------------------------------------------------------------------------------

    /** Goes to a station. */
    void choose(Stage next) {
        following = false;
        said = "";
        setStation(next);
        if (chosen.isPresent() && chosen.get().station() != next) {
            chosen = Optional.empty();
        }
        refresh();
    }

    /** Opens the evidence of an event. */
    void pick(NightEvent event) {
        said = "";
        chosen = Optional.of(event);
        moment = Optional.of(event.time());
        following = false;
        setStation(event.station());
        refresh();
    }

    private void goTo(Instant time) {
        chosen = Optional.empty();
        Instant latest = shownRun().map(RunningNight::now).orElse(Instant.MAX);
        moment = time.isBefore(latest) ? Optional.of(time) : Optional.empty();
        refresh();
    }

    @Override
    public void backToNow() {
        chosen = Optional.empty();
        said = "";
        following = running().isPresent();
        if (isElsewhere()) {
            openNight(running().orElseThrow().run().entry());
            return;
        }
        moment = isShown() ? Optional.empty() : shown.flatMap(ShownNight::lastTime);
        refresh();
    }

    @Override
    public void step(int direction) {
        List<NightEvent> events = shown.map(n -> n.model().night().events()).orElse(List.of());
        if (events.isEmpty()) {
            return;
        }
        int at = chosen.map(events::indexOf).orElse(direction < 0 ? events.size() : -1);
        int next = Math.max(0, Math.min(events.size() - 1, at + direction));
        pick(events.get(next));
    }

    @Override
    public void toggleFreeze() {
        if (running().isPresent() && !runningModel().asked().isEmpty()) {
            runningModel().confirmed();
            return;
        }
        running().flatMap(RunningNight::transport).ifPresent(clock -> clock.hold(!clock.isHeld()));
        refresh();
    }

    /** The plan on the desk, if it differs from the night that is shown in nothing but its program. */
    private Optional<String> changedPlan(ShownNight night) {
        if (!planDesk.isOpen()) {
            return Optional.empty();
        }
        NightFile planned = planDesk.file();
        return night.file().differsInProgramOnly(planned) && !night.file().sameNight(planned)
                ? Optional.of(planned.text())
                : Optional.empty();
    }

    /** Has something done when the night that runs is over and its window is still away. */
    void endWithTheNight(Runnable end) {
        atTheEnd = Optional.of(end);
    }

    /** Whether a night is under way. */
    boolean isNightRunning() {
        return running().isPresent();
    }

    private void setRate(double next) {
        rate = next;
        nights.running().ifPresent(s -> s.setRate(next));
        header.showRate(next);
    }

    void setPalette(Palette next) {
        look = next;
        if (getScene() != null) {
            look.dress(getScene());
        }
        header.showPalette(look);
    }

    @Override
    public void nextPalette() {
        setPalette(look.next());
    }

    @Override
    public void toggleKeys() {
        keys.setVisible(!keys.isVisible());
    }

    @Override
    public boolean changeBack(boolean again) {
        if (station == Stage.RUN && !again) {
            return marks.takeBack();
        }
        if (station != Stage.PLAN || !planDesk.isOpen()) {
            return false;
        }
        if (again) {
            planDesk.redo();
        } else {
            planDesk.undo();
        }
        return true;
    }

    @Override
    public void station(int digit) {
        files.closeAll();
        choose(Stage.values()[digit == 0 ? 9 : digit - 1]);
    }

    @Override
    public boolean letter(KeyCode code) {
        if (code == KeyCode.X && running().isPresent() && runningModel().isQuestion()) {
            runningModel().denied();
            return true;
        }
        return !files.isOpen() && commands.key(code);
    }

    @Override
    public void picture(KeyMap.PictureKey key) {
        visiblePicture(files.seenInspection().orElse(middle)).ifPresent(v -> {
            switch (key) {
                case FIT -> v.fit();
                case RINGS -> v.setMarks(!v.hasMarks());
                case NEARER -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1.5);
                case FURTHER -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1 / 1.5);
            }
        });
    }

    /** Of what lies over the desk, the uppermost goes. */
    @Override
    public void closeTop() {
        if (keys.isVisible()) {
            keys.setVisible(false);
        } else {
            files.closeTop();
        }
    }

    private static Optional<FrameView> visiblePicture(Node node) {
        if (node instanceof FrameView view) {
            return Optional.of(view);
        }
        if (node instanceof Parent parent) {
            for (Node child : parent.getChildrenUnmodifiable()) {
                Optional<FrameView> found = visiblePicture(child);
                if (found.isPresent()) {
                    return found;
                }
            }
        }
        return Optional.empty();
    }

    // ---- for the window and for tests
    // --------------------------------------------------------------------------------

    DeskSettings settings(double width, double height) {
        return new DeskSettings(width, height, look, station, rate, reins.gates());
    }

    /** Whether a night is on the desk and nothing is being made ready. */
    boolean isSettled() {
        return shown.isPresent() && !nights.isBusy();
    }

    Nights nights() {
        return nights;
    }

    /** The night that is shown; there is one when the desk {@link #isSettled}. */
    NightModel model() {
        return shown.orElseThrow().model();
    }

    PlanDesk planDesk() {
        return planDesk;
    }

    PlanBench planBench() {
        return planBench;
    }

    Ribbon ribbon() {
        return ribbon;
    }

    StarsPane starsPane() {
        return files.stars();
    }

    InspectPane inspection() {
        return files.inspection();
    }

    /** Whether the picture that belongs on the bench is there. */
    boolean isPictureReady() {
        return loader.isReady();
    }

    @Override
    public void close() {
        closed = true;
        ticking.stop();
        nights.close();
        loader.close();
        planDesk.close();
        files.close();
        modelPane.close();
        telling.close();
    }
}
