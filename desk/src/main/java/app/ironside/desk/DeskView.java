package app.ironside.desk;

import app.ironside.BadInputException;
import app.ironside.desk.inspect.FolderWatch;
import app.ironside.desk.inspect.InspectPane;
import app.ironside.desk.inspect.StarsPane;
import app.ironside.desk.night.Bench;
import app.ironside.desk.night.CommandState;
import app.ironside.desk.night.Look;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.RailState;
import app.ironside.desk.night.RailView;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.night.Ribbon;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.parts.Words;
import app.ironside.desk.picture.FrameView;
import app.ironside.desk.picture.PictureLoader;
import app.ironside.desk.picture.Shown;
import app.ironside.desk.plan.PlanBench;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.plan.PlanReckoner;
import app.ironside.desk.reckon.Cautions;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.desk.station.Benches;
import app.ironside.desk.station.CommandBar;
import app.ironside.desk.station.LogbookPane;
import app.ironside.desk.station.ModelPane;
import app.ironside.desk.station.PolarBench;
import app.ironside.desk.station.ReadyBench;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.night.NightControl;
import app.ironside.night.NightControl.GatePolicy;
import app.ironside.night.NightFile;
import app.ironside.plan.NightBudget;
import app.ironside.plan.NightPlan;
import app.ironside.plan.NightPlanner;
import app.ironside.wiring.Wiring;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.EnumMap;
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
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.Slider;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;
import javafx.util.Duration;

/** The desk: ribbon above, rail left, bench in the middle, reckoning right. Interface thread only, unless said otherwise. */
final class DeskView extends StackPane implements AutoCloseable {
    private static final double[] RATES = {1, 60, 600, 0};

    private final Wiring wiring;
    private final Logbook logbook;
    /** Of the night that is shown, and of the one that runs: they may be two. */
    private NightModel model = new NightModel(this::changed);

    private NightModel running = model;
    private final PictureLoader loader = new PictureLoader(this::refresh);
    private final AtomicBoolean refreshPending = new AtomicBoolean();
    private final Ribbon ribbon = new Ribbon();
    private final RailView rail = new RailView(this::choose);
    private final ReckoningView reckoning = new ReckoningView();
    private final StackPane middle = new StackPane();
    private final Label clock = new Label();
    private final Label title = new Label();
    private final Label status = new Label();
    private static final PseudoClass COMPACT = PseudoClass.getPseudoClass("compact");

    /** Below it the rail's stations move closer together. */
    private static final double ROOMY_HEIGHT = 850;

    private final Button freeze = new Button();
    private final Button now = new Button("Back to now");
    private final ToggleGroup rates = new ToggleGroup();
    private final CommandBar commands = new CommandBar(this::command, this::setPolicy);
    private final Map<Stage, GatePolicy> gates = new EnumMap<>(Stage.class);
    private final Button palette = new Button();
    private final VBox keys = keyList();
    private final LogbookPane logbookPane = new LogbookPane(this::openNight, this::askToRemove, this::pick);
    private final PlanDesk planDesk;
    private final PlanBench planBench;
    private final PlanReckoner planReckoner;
    private final ReadyBench readyBench;
    private final PolarBench polarBench;
    private final ModelPane modelPane;
    private final Map<Stage, Bench> benches;
    private final InspectPane inspect;
    private final StarsPane starsPane;
    private final Timeline ticking = new Timeline(new KeyFrame(Duration.millis(200), e -> refresh()));

    private NightFile file;
    private Optional<NightEntry> entry = Optional.empty();
    private NightPlan plan;
    private RibbonState ribbonState;
    private Reckoner reckoner;
    private Optional<Rehearsal> rehearsal = Optional.empty();

    private Optional<Runnable> atTheEnd = Optional.empty();

    /** The station whose question was brought before the person. */
    private Optional<Stage> asked = Optional.empty();

    /** The changed program that is shown. */
    private Optional<ProgramRevised> adopted = Optional.empty();

    private Optional<NightEvent> chosen = Optional.empty();
    private Optional<Instant> moment = Optional.empty();
    private boolean planStale = true;
    private boolean following;
    private Optional<Stage> followed = Optional.empty();
    private ReckoningState planReckoning = ReckoningState.waiting("", "");
    private RibbonState planRibbon;
    private Stage station;
    private Palette look;
    private double rate;
    private boolean closed;
    private Consumer<Path> opener = folder -> {};

    /** What was last said in the status line; empty after the next thing that is done. */
    private String said = "";

    DeskView(Wiring wiring, Logbook logbook, DeskSettings settings) {
        this.wiring = wiring;
        this.logbook = logbook;
        this.station = settings.station();
        this.look = settings.palette();
        this.rate = settings.rate();
        this.gates.putAll(settings.gates());
        Profiles profiles = new Profiles(logbook.folder());
        this.planDesk = new PlanDesk(wiring, profiles, logbook.folder(), this::planChanged, this::rehearsePlan);
        this.planBench = new PlanBench(planDesk);
        this.planReckoner = new PlanReckoner(planDesk);
        this.readyBench = new ReadyBench(() -> running, profiles);
        this.polarBench = new PolarBench(wiring.stars());
        this.modelPane = new ModelPane(wiring, Wiring.models(logbook));
        this.benches = Benches.all(
                this::pick,
                logbookPane,
                new Benches.Prepared(planBench, readyBench, polarBench, modelPane),
                wiring.objects());
        getStylesheets().add(DeskView.class.getResource("desk.css").toExternalForm());
        getStyleClass().add("root");
        BorderPane desk = new BorderPane();
        desk.setTop(new VBox(header(), ribbon));
        Region between = new Region();
        VBox.setVgrow(between, Priority.ALWAYS);
        desk.setLeft(new VBox(rail, between, doors()));
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
        heightProperty().addListener((o, was, is) -> pseudoClassStateChanged(COMPACT, is.doubleValue() < ROOMY_HEIGHT));
        VBox work = new VBox(8, middle, commands);
        BorderPane.setMargin(work, new Insets(6, 8, 8, 4));
        desk.setCenter(work);
        desk.setRight(reckoning);
        status.getStyleClass().add("status");
        status.setId("status");
        desk.setBottom(status);
        keys.setVisible(false);
        inspect = new InspectPane(wiring.shelf(), wiring.objects(), this::showStars, this::closeInspection);
        inspect.setVisible(false);
        starsPane = new StarsPane(wiring.shelf(), this::closeStars);
        starsPane.setVisible(false);
        getChildren().addAll(desk, inspect, starsPane, keys);
        acceptFrames();
        ribbon.setId("ribbon");
        ribbon.setOnEvent(this::pick);
        ribbon.setOnTime(this::goTo);
        addEventFilter(KeyEvent.KEY_PRESSED, this::keyBeforeFocus);
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
        setPalette(look);
        setStation(station);
        ticking.setCycleCount(Animation.INDEFINITE);
    }

    /** What lies over the desk or outside it, for hands that know no keys yet. */
    private FlowPane doors() {
        FlowPane doors = new FlowPane(2, 2);
        doors.setPadding(new Insets(0, 2, 6, 8));
        doors.setPrefWrapLength(190);
        doors.getStyleClass().add("doors");
        doors.getChildren()
                .addAll(
                        door(
                                "open-file",
                                "File",
                                "Look closely at a FITS file, whoever took it (O)",
                                this::chooseFrame),
                        door("open-stars", "Sky", "The stars to go by: how many, and adding more (G)", this::showStars),
                        door("open-folder", "Folder", "The frames of this night on the disk", this::openFolder),
                        door("open-keys", "Keys", "What the keys do (?)", () -> keys.setVisible(!keys.isVisible())));
        return doors;
    }

    private static Button door(String id, String label, String tip, Runnable action) {
        Button button = new Button(label);
        button.setId(id);
        button.getStyleClass().add("quiet");
        button.setTooltip(new Tooltip(tip));
        button.setOnAction(e -> action.run());
        return button;
    }

    /** Says how folders are opened on this system. */
    void setOpener(Consumer<Path> opener) {
        this.opener = opener;
    }

    private void openFolder() {
        Path folder = entry.map(NightEntry::folder).filter(Files::isDirectory).orElse(logbook.folder());
        opener.accept(folder);
        said = "Opened: " + folder;
        refresh();
    }

    private HBox header() {
        Label brand = new Label("Ironside");
        brand.getStyleClass().add("brand");
        title.getStyleClass().add("dim");
        clock.getStyleClass().add("clock");
        clock.setId("clock");
        freeze.setId("freeze");
        freeze.setTooltip(new Tooltip("Stops the rehearsal's clock, or lets it run (Space). To rest a night: H"));
        freeze.setMinWidth(88);
        freeze.setOnAction(e -> toggleFreeze());
        now.setId("now");
        now.setOnAction(e -> backToNow());
        palette.setId("palette");
        palette.setMinWidth(76);
        palette.setTooltip(new Tooltip("Dusk, Red for dark-adapted eyes, Paper for the day (P)"));
        palette.setOnAction(e -> setPalette(look.next()));
        // The clock of a rehearsal is no part of a night: it looks like what it is, a machine's.
        HBox speeds = new HBox(3);
        speeds.getStyleClass().add("speeds");
        speeds.setAlignment(Pos.CENTER_LEFT);
        for (double r : RATES) {
            ToggleButton button = new ToggleButton(r == 0 ? "fastest" : Words.format("%.0f×", r));
            button.setId("rate-" + (int) r);
            button.setUserData(r);
            button.setToggleGroup(rates);
            button.setSelected(r == rate);
            button.setOnAction(e -> setRate(r));
            speeds.getChildren().add(button);
        }
        speeds.getChildren().add(freeze);
        Region left = new Region();
        Region right = new Region();
        HBox.setHgrow(left, Priority.ALWAYS);
        HBox.setHgrow(right, Priority.ALWAYS);
        HBox header = new HBox(brand, title, left, clock, now, right, speeds, palette);
        header.getStyleClass().add("header");
        return header;
    }

    /** A FITS file dropped anywhere on the desk is looked at, a table of stars is offered for import. */
    private void acceptFrames() {
        setOnDragOver(e -> {
            if (e.getDragboard().hasFiles()
                    && e.getDragboard().getFiles().stream()
                            .anyMatch(f -> FolderWatch.isFrame(f.getName()) || StarsPane.isTable(f.getName()))) {
                e.acceptTransferModes(TransferMode.COPY);
                e.consume();
            }
        });
        setOnDragDropped(e -> {
            e.setDropCompleted(take(e.getDragboard().getFiles().stream()
                    .map(java.io.File::toPath)
                    .toList()));
            e.consume();
        });
    }

    /** Takes all files that can be looked at: frames to step through, tables one after the other. Says which it cannot take. */
    boolean take(List<Path> files) {
        List<Path> frames = files.stream()
                .filter(f -> FolderWatch.isFrame(f.getFileName().toString()))
                .toList();
        List<Path> tables = files.stream()
                .filter(f -> StarsPane.isTable(f.getFileName().toString()))
                .toList();
        List<String> others = files.stream()
                .filter(f -> !frames.contains(f) && !tables.contains(f))
                .map(f -> f.getFileName().toString())
                .toList();
        if (!tables.isEmpty()) {
            showStars();
            starsPane.open(tables);
        }
        if (!frames.isEmpty()) {
            inspect(frames);
        }
        said = others.isEmpty()
                ? ""
                : String.join(", ", others) + (others.size() == 1 ? " is" : " are")
                        + " neither a FITS image nor a table of stars, and not taken.";
        refresh();
        return !frames.isEmpty() || !tables.isEmpty();
    }

    /** Measures and solves files, and shows them over the desk; tables that wait to be imported wait on. */
    void inspect(List<Path> files) {
        starsPane.setVisible(false);
        inspect.setVisible(true);
        inspect.inspect(files);
    }

    private void closeInspection() {
        inspect.setVisible(false);
        requestFocus();
    }

    /** The stars to go by, over the desk. */
    void showStars() {
        starsPane.setVisible(true);
        starsPane.refresh();
    }

    private void closeStars() {
        starsPane.setVisible(false);
        requestFocus();
    }

    StarsPane starsPane() {
        return starsPane;
    }

    InspectPane inspection() {
        return inspect;
    }

    private void chooseFrame() {
        javafx.stage.FileChooser chooser = new javafx.stage.FileChooser();
        chooser.setTitle("A frame to look at");
        chooser.getExtensionFilters()
                .add(new javafx.stage.FileChooser.ExtensionFilter(
                        "FITS images", "*.fits", "*.fit", "*.fts", "*.FITS", "*.FIT", "*.FTS", "*.fits.gz"));
        List<java.io.File> files = chooser.showOpenMultipleDialog(getScene().getWindow());
        if (files != null && !files.isEmpty()) {
            inspect(files.stream().map(java.io.File::toPath).toList());
        }
    }

    private static VBox keyList() {
        VBox box = new VBox();
        box.getStyleClass().add("keys");
        box.setMaxHeight(Region.USE_PREF_SIZE);
        Label heading = new Label("Keys");
        heading.getStyleClass().add("verdict");
        box.getChildren().add(heading);
        for (String line : List.of(
                "1 to 9, 0   the stations, from Plan to Logbook",
                "Space   stop the rehearsal's clock, or let it run",
                "H   rest the night at its next safe point, or let it go on",
                "W, Q   end the night; park now",
                "letters   what the buttons of a station say under the pointer",
                "Enter   press what has the focus",
                "← →   the event before, the event after",
                "N   back to now, and to the night that runs",
                "P   the next palette",
                "F   fit the picture",
                "S   ring the measured stars",
                "O   look closely at a FITS file (or drop one here)",
                "G   the stars to go by: how many, and adding more",
                "+ −   zoom the picture",
                "Ctrl Z, Ctrl Y   take back a change of the plan, do it again",
                "?   this list, and away with it")) {
            box.getChildren().add(new Label(line));
        }
        return box;
    }

    // ---- what is shown
    // -----------------------------------------------------------------------------------------------

    /** Shows a night of the logbook without running it. */
    void openNight(NightEntry night) {
        boolean runs = rehearsal.map(r -> r.run().entry().id() == night.id()).orElse(false);
        NightFile parsed = NightFile.parse(night.document(), night.title(), wiring.objects());
        setNight(parsed, Optional.of(night));
        if (runs) {
            model = running;
            moment = Optional.empty();
        } else {
            // A model of its own: what the running night goes on telling is not this night's.
            model = new NightModel(this::changed);
            Journal journal = logbook.journal(night);
            model.load(journal.events(), journal.guiding());
            moment = lastTime(model.night());
        }
        refresh();
    }

    /** A night leaves the logbook only when that was asked twice; its frames and its journal stay on the disk. */
    private void askToRemove(NightEntry night) {
        if (rehearsal
                .filter(r -> !r.isDone() && r.run().entry().id() == night.id())
                .isPresent()) {
            ask(
                    "This night is running.",
                    "A night that runs cannot leave the logbook.",
                    List.of(new StartPane.Choice("no-removal", "Good", this::dismissQuestion)));
            return;
        }
        ask(
                "Take " + night.title() + " out of the logbook?",
                "Its frames stay where they are, in " + night.folder()
                        + ", and its journal is written beside them. Trends and other nights"
                        + " know nothing of it any more.",
                List.of(
                        new StartPane.Choice("no-removal", "Leave it", this::dismissQuestion),
                        new StartPane.Choice("yes-removal", "Take it out", () -> {
                            dismissQuestion();
                            remove(night);
                        })));
    }

    private void remove(NightEntry night) {
        try {
            Path journal = logbook.remove(night);
            said = night.title() + " is out of the logbook; its journal is " + journal + ".";
        } catch (java.io.UncheckedIOException e) {
            said = e.getMessage();
        }
        List<NightEntry> left = logbook.nights();
        logbookPane.setNights(left, entry.filter(left::contains));
        if (!left.isEmpty() && entry.filter(left::contains).isEmpty()) {
            openNight(left.get(left.size() - 1));
        }
        refresh();
    }

    /** Shows a night that is only planned. */
    void plan(NightFile night) {
        setNight(night, Optional.empty());
        model = new NightModel(this::changed);
        moment = Optional.empty();
        choose(Stage.PLAN);
    }

    /** Runs a rehearsal of a night, from its start or from where it was left. */
    void rehearse(NightFile night, NightEntry where) {
        rehearsal.ifPresent(Rehearsal::close);
        setNight(night, Optional.of(where));
        moment = Optional.empty();
        running = new NightModel(this::changed);
        running.setOwnHands(readyBench.isOwnHands());
        model = running;
        Rehearsal next = new Rehearsal(wiring, night, logbook, where, running, rate, gates);
        rehearsal = Optional.of(next);
        next.start();
        ticking.play();
        refresh();
    }

    private void setNight(NightFile night, Optional<NightEntry> where) {
        file = night;
        entry = where;
        plan = NightPlanner.plan(night.site(), night.kit(), night.program());
        ribbonState = RibbonState.of(night.site(), plan);
        reckoner = new Reckoner(night, plan, logbook.framings(night.program().date(), where));
        chosen = Optional.empty();
        adopted = Optional.empty();
        loader.clear();
        readyBench.setFile(night);
        polarBench.setFile(night);
        modelPane.setFile(night);
        starsPane.setFile(night);
        planDesk.open(night);
        logbookPane.setNights(logbook.nights(), where);
    }

    private static Optional<Instant> lastTime(NightState night) {
        List<NightEvent> events = night.events();
        return events.isEmpty()
                ? Optional.empty()
                : Optional.of(events.get(events.size() - 1).time());
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

    private boolean isShown(Rehearsal running) {
        return entry.filter(e -> e.id() == running.run().entry().id()).isPresent();
    }

    /** Whether a night runs while another is shown. */
    private boolean isElsewhere() {
        return rehearsal.filter(r -> !r.isDone() && !isShown(r)).isPresent();
    }

    private Moment moment() {
        Instant live = rehearsal
                .filter(this::isShown)
                .map(s -> s.clock().now())
                .or(() -> lastTime(model.night()))
                .orElse(plan.times().night().from());
        return model.at(moment.orElse(live), moment.isEmpty());
    }

    /** Copies the night's state to the views. */
    void refresh() {
        if (file == null || closed) {
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
        rehearsal.filter(r -> !r.isDone()).ifPresent(this::attend);
        Moment at = moment();
        adoptRevision(at);
        follow(at);
        RailState stations = RailState.of(at.night(), logbookPane.count());
        boolean onlyPlanned = at.night().events().isEmpty() && planDesk.isOpen();
        rail.show(onlyPlanned ? stations.planning(planDesk.draft().plan().subs()) : stations, station);
        if (station == Stage.PLAN) {
            refreshPlan();
            ribbon.show(planRibbon, at, List.of(), Optional.empty());
        } else {
            ribbon.show(ribbonState, at, model.night().events(), chosen);
        }
        reckoning.show(station == Stage.PLAN ? planReckoning : reckoner.of(station, at, chosen), Cautions.of(station));
        clock.setText(Words.clock(at.time(), file.site().zone()));
        // While a night is planned the head tells of what is planned, also after a change of site or kit.
        NightFile told = station == Stage.PLAN && planDesk.isOpen() ? planDesk.file() : file;
        title.setText(told.site().name() + "   " + told.kit().name()
                + Words.format("   %.0f mm", told.kit().optics().focalLengthMm()) + "   "
                + told.program().date());
        boolean frozen = rehearsal.map(s -> s.clock().isHeld()).orElse(false);
        freeze.setText(frozen ? "Run" : "Freeze");
        freeze.setDisable(rehearsal.isEmpty() || rehearsal.get().isDone());
        commands.show(commandState(at));
        now.setText(isElsewhere() ? "To the running night" : "Back to now");
        now.setVisible(moment.isPresent() && rehearsal.isPresent() || isElsewhere());
        status.setText(statusText(at));
        Bench bench = benches.get(station);
        if (middle.getChildren().isEmpty() || middle.getChildren().get(0) != bench.node()) {
            middle.getChildren().setAll(bench.node());
        }
        wantPicture(at);
        bench.show(new Look(at, chosen, ribbonState, loader.picture()));
    }

    /** What the night wants to know is brought before the person once, at its station. */
    private void attend(Rehearsal night) {
        night.keepPace();
        Optional<Stage> asks = night.run().control().question().map(NightControl.Question::stage);
        if (!asks.equals(asked)) {
            asked = asks;
            asks.filter(s -> isShown(night)).ifPresent(s -> {
                moment = Optional.empty();
                setStation(s);
            });
        }
    }

    /** A program that was put in force while the night runs takes the place of the one before, on the ribbon and in the words. */
    private void adoptRevision(Moment at) {
        Optional<ProgramRevised> revised = at.night().last(ProgramRevised.class);
        if (revised.isEmpty() || revised.equals(adopted)) {
            return;
        }
        adopted = revised;
        file = NightFile.parse(revised.get().document(), "the changed program", wiring.objects());
        plan = NightPlanner.plan(file.site(), file.kit(), file.program());
        ribbonState = RibbonState.of(file.site(), plan);
        reckoner = new Reckoner(file, plan, logbook.framings(file.program().date(), entry));
    }

    private void planChanged() {
        planStale = true;
        if (station == Stage.PLAN) {
            refresh();
        }
    }

    /** The plan is copied to its views only when it changed: it does not move with the night. */
    private void refreshPlan() {
        if (!planStale) {
            return;
        }
        planStale = false;
        NightBudget budget = planDesk.budget();
        planRibbon = planDesk.ribbon();
        planBench.refresh(budget);
        planReckoning = planReckoner.of(budget, planBench.filter());
    }

    /** A night that runs is not ended unasked, and one that cannot run is not begun. */
    private void rehearsePlan(NightFile night) {
        try {
            wiring.check(night);
        } catch (BadInputException e) {
            planDesk.tell("This plan cannot be rehearsed: " + e.getMessage() + ".");
            return;
        }
        if (rehearsal.filter(r -> !r.isDone()).isEmpty()) {
            beginRehearsal(night);
            return;
        }
        ask(
                "A night is running.",
                "Only one can run at a time. Ended now, its mount is parked, all its frames are kept, and it can be looked at in the"
                        + " Logbook; it cannot go on once another has begun.",
                List.of(
                        new StartPane.Choice("keep-running", "Let it run on", this::dismissQuestion),
                        new StartPane.Choice("end-and-rehearse", "End it and rehearse this plan", () -> {
                            dismissQuestion();
                            beginRehearsal(night);
                        })));
    }

    private void beginRehearsal(NightFile night) {
        NightEntry next = logbook.begin(
                night.program().date() + "  " + night.site().name() + ", "
                        + night.program().targets().get(0).name(),
                "night-" + night.program().date() + "-" + (logbook.nights().size() + 1),
                night.text());
        rehearse(NightFile.parse(night.text(), next.title(), wiring.objects()), next);
        following = true;
        choose(Stage.READY);
        following = true;
    }

    /** Asks something over the desk; what lies behind waits. */
    void ask(String heading, String explanation, List<StartPane.Choice> choices) {
        dismissQuestion();
        getChildren().add(new StartPane(heading, explanation, choices));
    }

    void dismissQuestion() {
        getChildren().removeIf(node -> node instanceof StartPane);
        requestFocus();
    }

    private boolean isAsking() {
        return getChildren().stream().anyMatch(node -> node instanceof StartPane);
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

    private String statusText(Moment at) {
        String failure = rehearsal.map(Rehearsal::failure).orElse("");
        if (!failure.isEmpty()) {
            return failure;
        }
        if (!said.isEmpty()) {
            return said;
        }
        if (isElsewhere()) {
            return "Another night is running. N goes to it.";
        }
        if (moment.isPresent() && rehearsal.isPresent()) {
            return "Looking back. N returns to now."
                    + chosen.map(e -> "   " + e.text()).orElse("");
        }
        return model.doing()
                .filter(d -> !at.night().ended())
                .map(d -> d.what() + doingProgress(d, at.time()))
                .orElseGet(() -> at.night().events().isEmpty()
                        ? ""
                        : at.night()
                                .events()
                                .get(at.night().events().size() - 1)
                                .text());
    }

    private static String doingProgress(NightModel.Doing doing, Instant now) {
        java.time.Duration gone = java.time.Duration.between(doing.since(), now);
        java.time.Duration left = doing.about().minus(gone);
        return doing.about().toSeconds() < 3 || left.isNegative() ? "" : "   " + Words.span(left) + " left";
    }

    // ---- pictures
    // ----------------------------------------------------------------------------------------------------

    /** Finds out which picture belongs on the bench and has it made, if it is not there yet. */
    private void wantPicture(Moment at) {
        Optional<NightEvent> fromFile = chosen.filter(e -> NightState.fileOf(e).isPresent());
        if (fromFile.isEmpty() && moment.isPresent()) {
            fromFile = lastWithFile(at);
        }
        if (fromFile.isPresent()) {
            NightEvent event = fromFile.get();
            load(NightState.fileOf(event).orElseThrow(), event.text());
            return;
        }
        Optional<Shown> live = model.latest(station);
        if (live.isPresent()) {
            loader.show(live.get());
        } else {
            lastWithFile(at).ifPresentOrElse(e -> load(NightState.fileOf(e).orElseThrow(), e.text()), loader::clear);
        }
    }

    /** The last event of the station that has a file to show. */
    private Optional<NightEvent> lastWithFile(Moment at) {
        return at.night().events().stream()
                .filter(e -> e.station() == station && NightState.fileOf(e).isPresent())
                .reduce((a, b) -> b);
    }

    private void load(String relative, String caption) {
        entry.ifPresent(e -> loader.load(e.folder().resolve(relative), caption));
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
        Instant latest = rehearsal.map(s -> s.clock().now()).orElse(Instant.MAX);
        moment = time.isBefore(latest) ? Optional.of(time) : Optional.empty();
        refresh();
    }

    void backToNow() {
        chosen = Optional.empty();
        said = "";
        if (isElsewhere()) {
            openNight(rehearsal.orElseThrow().run().entry());
            followTheNight();
            refresh();
            return;
        }
        moment = rehearsal.filter(this::isShown).isPresent() ? Optional.empty() : lastTime(model.night());
        refresh();
    }

    private void step(int direction) {
        List<NightEvent> events = model.night().events();
        if (events.isEmpty()) {
            return;
        }
        int at = chosen.map(events::indexOf).orElse(direction < 0 ? events.size() : -1);
        int next = Math.max(0, Math.min(events.size() - 1, at + direction));
        pick(events.get(next));
    }

    private void toggleFreeze() {
        rehearsal.ifPresent(s -> s.clock().hold(!s.clock().isHeld()));
        refresh();
    }

    /** What can be asked of the night that runs; of one that is only looked at, nothing. */
    private CommandState commandState(Moment at) {
        GatePolicy policy = gates.getOrDefault(station, GatePolicy.GO_ON);
        return rehearsal
                .filter(r -> !r.isDone() && isShown(r))
                .map(r -> CommandState.of(
                        station, r.run().control(), running.night(), r.clock().now(), policy, this::changedPlan))
                .orElse(CommandState.idle(station, policy));
    }

    /** The plan on the desk, if it differs from the one that runs in nothing but its program. */
    private Optional<String> changedPlan() {
        if (!planDesk.isOpen()) {
            return Optional.empty();
        }
        NightFile planned = planDesk.file();
        return file.differsInProgramOnly(planned) && !file.sameNight(planned)
                ? Optional.of(planned.text())
                : Optional.empty();
    }

    private void command(CommandState.Offer offer, String why) {
        if (!offer.sure()) {
            give(offer, why);
            return;
        }
        ask(
                Words.capital(offer.command().words()) + "?",
                "No more lights are taken. The mount is parked; calibration frames, warm-up and stacks follow.",
                List.of(
                        new StartPane.Choice("no-command", "No, go on", this::dismissQuestion),
                        new StartPane.Choice(
                                "yes-command", Words.capital(offer.command().words()), () -> {
                                    dismissQuestion();
                                    give(offer, why);
                                })));
    }

    private void give(CommandState.Offer offer, String why) {
        rehearsal.filter(r -> !r.isDone()).ifPresent(r -> {
            r.run()
                    .control()
                    .give(offer.command(), "At the desk", why, r.clock().now());
            refresh();
        });
    }

    private void setPolicy(GatePolicy policy) {
        gates.put(station, policy);
        rehearsal.ifPresent(r -> r.run().control().setPolicy(station, policy));
        refresh();
    }

    /** Has something done when the night that runs is over and its window is still away. */
    void endWithTheNight(Runnable end) {
        atTheEnd = Optional.of(end);
    }

    /** Whether a night is under way. */
    boolean isNightRunning() {
        return rehearsal.filter(r -> !r.isDone()).isPresent();
    }

    private void setRate(double next) {
        rate = next;
        rehearsal.ifPresent(s -> s.setRate(next));
        rates.getToggles().forEach(t -> t.setSelected(((Double) t.getUserData()) == next));
    }

    void setPalette(Palette next) {
        getStylesheets().remove(look.stylesheet());
        look = next;
        getStylesheets().add(look.stylesheet());
        palette.setText(look.title());
    }

    /**
     * The keys that mean the same wherever the focus is: buttons and scroll panes would take Space and the arrows for themselves. Enter
     * presses a button instead. What is written into keeps its keys, and sliders and lists their arrows.
     */
    private void keyBeforeFocus(KeyEvent e) {
        Node target = e.getTarget() instanceof Node node ? node : this;
        if (isAsking() || target instanceof TextInputControl || isWithin(target, Spinner.class)) {
            return;
        }
        boolean ownArrows = isWithin(target, Slider.class)
                || isWithin(target, ComboBoxBase.class)
                || isWithin(target, ListView.class);
        switch (e.getCode()) {
            case SPACE -> toggleFreeze();
            case LEFT -> {
                if (ownArrows) {
                    return;
                }
                step(-1);
            }
            case RIGHT -> {
                if (ownArrows) {
                    return;
                }
                step(1);
            }
            case ENTER -> {
                if (!(target instanceof ButtonBase button) || button.isDisabled()) {
                    return;
                }
                button.fire();
            }
            default -> {
                return;
            }
        }
        e.consume();
    }

    private static boolean isWithin(Node node, Class<?> kind) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (kind.isInstance(at)) {
                return true;
            }
        }
        return false;
    }

    private void key(KeyEvent e) {
        if (e.getTarget() instanceof TextInputControl || isAsking()) {
            return;
        }
        if (e.isShortcutDown() && station == Stage.PLAN && planDesk.isOpen()) {
            if (e.getCode() == KeyCode.Z) {
                planDesk.undo();
                e.consume();
            } else if (e.getCode() == KeyCode.Y) {
                planDesk.redo();
                e.consume();
            }
            return;
        }
        if ("?".equals(e.getText()) || e.getCode() == KeyCode.QUOTE && e.isShiftDown() || e.getCode() == KeyCode.F1) {
            keys.setVisible(!keys.isVisible());
            e.consume();
            return;
        }
        if (e.getCode().isDigitKey()) {
            int digit = e.getText().isEmpty() ? -1 : e.getText().charAt(0) - '0';
            if (digit >= 0 && digit <= 9) {
                closeStars();
                closeInspection();
                choose(Stage.values()[digit == 0 ? 9 : digit - 1]);
                e.consume();
            }
            return;
        }
        if (!inspect.isVisible() && !starsPane.isVisible() && !e.isShortcutDown() && commands.key(e.getCode())) {
            e.consume();
            return;
        }
        Optional<FrameView> view = visiblePicture(inspect.isVisible() ? inspect : middle);
        switch (e.getCode()) {
            case N -> backToNow();
            case P -> setPalette(look.next());
            case F -> view.ifPresent(FrameView::fit);
            case S -> view.ifPresent(v -> v.setMarks(!v.hasMarks()));
            case PLUS, EQUALS -> view.ifPresent(v -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1.5));
            case MINUS -> view.ifPresent(v -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1 / 1.5));
            case O -> chooseFrame();
            case G -> showStars();
            case ESCAPE -> closeTop();
            default -> {
                return;
            }
        }
        e.consume();
    }

    /** Of what lies over the desk, the uppermost goes. */
    private void closeTop() {
        if (keys.isVisible()) {
            keys.setVisible(false);
        } else if (starsPane.isVisible()) {
            closeStars();
        } else {
            closeInspection();
        }
    }

    private static Optional<FrameView> visiblePicture(Node node) {
        if (node instanceof FrameView view) {
            return Optional.of(view);
        }
        if (node instanceof javafx.scene.Parent parent) {
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
        return new DeskSettings(width, height, look, station, rate, gates);
    }

    NightModel model() {
        return model;
    }

    Optional<Rehearsal> rehearsal() {
        return rehearsal;
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

    /** Whether the picture that belongs on the bench is there. */
    boolean isPictureReady() {
        return loader.isReady();
    }

    @Override
    public void close() {
        closed = true;
        ticking.stop();
        rehearsal.ifPresent(Rehearsal::close);
        loader.close();
        planDesk.close();
        inspect.close();
        starsPane.close();
        modelPane.close();
    }
}
