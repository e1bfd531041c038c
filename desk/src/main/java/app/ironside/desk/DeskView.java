package app.ironside.desk;

import app.ironside.desk.darkroom.DarkroomPane;
import app.ironside.desk.inspect.InspectPane;
import app.ironside.desk.inspect.StarsPane;
import app.ironside.desk.night.Moment;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.RailView;
import app.ironside.desk.night.Ribbon;
import app.ironside.desk.night.Strips;
import app.ironside.desk.parts.SpokenNames;
import app.ironside.desk.picture.FrameView;
import app.ironside.desk.plan.PlanBench;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.plan.PlanFace;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningView;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.Nights;
import app.ironside.desk.session.RunningNight;
import app.ironside.desk.session.ShownNight;
import app.ironside.desk.session.SubMarks;
import app.ironside.desk.station.Benches;
import app.ironside.desk.station.CommandBar;
import app.ironside.desk.station.LogbookPane;
import app.ironside.document.NightFile;
import app.ironside.journal.Command;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.notice.Herald;
import app.ironside.wiring.Wiring;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.application.Platform;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.StackPane;
import javafx.util.Duration;

/**
 * The desk: copies the states of the night that is looked at and of the one that runs to their views, and carries out what the person
 * does. What takes longer than a blink is done by {@link Nights}. Interface thread only, unless said otherwise.
 */
final class DeskView extends StackPane
        implements AutoCloseable, DeskHeader.Doer, KeyMap.Doer, Doors.Doer, Intake.Taker, Beginnings.Stand {
    /** Virtual seconds in a real one: a whole night in a minute or two, and each station is seen at work. */
    private static final double WALKING_RATE = 600;

    private final Logbook logbook;
    private final Nights nights;
    private final Looking looking;
    private final AtomicBoolean refreshPending = new AtomicBoolean();
    private final DeskShell shell;
    private final DeskHeader header;
    private final Ribbon ribbon = new Ribbon();
    private final Reins reins;
    private final CommandBar commands;
    private final LogbookPane logbookPane;
    private final PlanDesk planDesk;
    private final PlanFace plan;
    private final Benches benches;
    private final BenchPicture picture;
    private final FilesOver files;
    private final Questions questions = new Questions(this);
    private final Beginnings beginnings;
    private final Timeline ticking = new Timeline(new KeyFrame(Duration.millis(200), e -> refresh()));
    private final Telling telling;
    private final Orders orders;
    private final Facing facing;
    private Optional<Runnable> atTheEnd = Optional.empty();
    private final Magnifier magnifier;
    private final Walk walk;
    private Palette look;
    private double rate;
    private boolean closed;
    private Consumer<Path> opener = folder -> {};

    /** What was last said in the status line; empty after the next thing that is done. */
    private String said = "";

    DeskView(Wiring wiring, Logbook logbook, Profiles profiles, DeskSettings settings) {
        this.logbook = logbook;
        this.logbookPane = new LogbookPane(
                logbook,
                wiring,
                () -> Optional.of(planDesk()).filter(PlanDesk::isOpen).map(PlanDesk::file),
                this::wholeNight,
                n -> beginnings().rehearse(n),
                this::walk,
                n -> beginnings().open(n),
                n -> beginnings().askToRemove(n),
                this::pick,
                this::note);
        this.nights = new Nights(wiring, logbook, this::changed, this::say);
        this.looking = new Looking(nights, settings.station(), this::stationSet);
        this.picture = new BenchPicture(nights, looking, this::refresh);
        this.telling = new Telling(logbook.folder(), Herald.Ways.ofThisMachine(), this::sayLater);
        this.look = settings.palette();
        sceneProperty().addListener((o, was, is) -> {
            if (is != null) {
                SpokenNames.attach(is);
            }
        });
        this.magnifier = new Magnifier(this, settings.textPercent());
        this.rate = settings.rate();
        this.reins = new Reins(nights, settings.gates(), questions, this::refresh);
        this.commands = new CommandBar(reins::command, policy -> reins.setPolicy(looking.station(), policy));
        this.beginnings = new Beginnings(nights, looking, questions, this);
        this.planDesk =
                new PlanDesk(wiring, profiles, logbook.folder(), Nights.record(logbook), this::planChanged, beginnings);
        this.plan = new PlanFace(planDesk);
        this.benches = new Benches(
                wiring,
                logbook,
                profiles,
                this::runningModel,
                this::pick,
                plan.bench(),
                logbookPane,
                this::obey,
                this::command);
        this.header = new DeskHeader(this, this::setRate, rate);
        this.files = new FilesOver(
                this,
                wiring,
                () -> planDesk.file().kit(),
                logbook.habits()::sharpStars,
                this::say,
                logbook.folder(),
                this::opened);
        DeskShell.Views views = new DeskShell.Views(
                header,
                ribbon,
                new Strips(this::pick),
                new RailView(this::choose),
                new Doors(this),
                new HandsBar(
                        () -> runningModel().confirmed(), () -> runningModel().denied()),
                commands,
                new ReckoningView(this::obey));
        this.shell = new DeskShell(this, views, files.nodes());
        this.facing = new Facing(shell, views, nights, looking, planDesk, plan, benches, picture, reins);
        this.orders = new Orders(new SubMarks(nights), planDesk, looking, reins);
        this.walk = new Walk(nights, shell, this);
        // On the scene, so that tooltips, menus and lists that pop up wear the palette too.
        sceneProperty().addListener((o, was, is) -> setPalette(look));
        new Intake(this).attach(this);
        new KeyMap(this).attach(this);
        ribbon.setOnEvent(this::pick);
        ribbon.setOnTime(time -> {
            looking.toTime(time);
            refresh();
        });
        setPalette(look);
        stationSet(looking.station());
        ticking.setCycleCount(Animation.INDEFINITE);
    }

    /** Says how folders are opened on this system. */
    void setOpener(Consumer<Path> opener) {
        this.opener = opener;
    }

    @Override
    public void openFolder() {
        // Whether a folder is there is for the system to find out that opens it.
        opened(nightFolder().orElse(logbook.folder()));
    }

    private Optional<Path> nightFolder() {
        return looking.night().flatMap(ShownNight::entry).map(NightEntry::folder);
    }

    private void opened(Path folder) {
        opener.accept(folder);
        say("Opened: " + folder);
    }

    @Override
    public boolean take(List<Path> dropped) {
        // A single folder may be a night that somebody else runs; which, only the person knows.
        if (dropped.size() == 1
                && Files.isDirectory(dropped.get(0))
                && looking.night().isPresent()) {
            beginnings.askAboutFolder(dropped.get(0), looking.night().get().file(), () -> files.take(dropped));
            return true;
        }
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
        files.showDarkroom(nightFolder());
    }

    @Override
    public void showTelling() {
        questions.show(new TellingPane(telling, () -> looking.night().ifPresent(telling::tryIt), questions::dismiss));
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

    @Override
    public void say(String words) {
        said = words;
        refresh();
    }

    private void note(String words) {
        looking.night().ifPresent(night -> nights.note(night, words));
    }

    /** As {@link #say}, from any thread. */
    private void sayLater(String words) {
        Platform.runLater(() -> say(words));
    }

    private Optional<RunningNight> running() {
        return nights.underWay();
    }

    /** The model of the night that runs, or of the one that is shown. */
    private NightModel runningModel() {
        return nights.running()
                .map(RunningNight::model)
                .or(() -> looking.night().map(ShownNight::model))
                .orElseGet(() -> new NightModel(this::changed));
    }

    /** The night on the desk as far as it went, whatever moment of it is looked at. */
    private NightState wholeNight() {
        return looking.night().map(n -> n.model().night()).orElse(NightState.EMPTY);
    }

    /** Nights, as they are opened, begun and removed. */
    Beginnings beginnings() {
        return beginnings;
    }

    @Override
    public void shown(ShownNight next) {
        picture.clear();
        benches.setFile(next.file(), next.entry().map(NightEntry::folder));
        files.setFile(next.file());
        plan.open(next.start());
        logbookPane.setNights(next.nights(), next.entry());
        logbookPane.setFile(next.file());
    }

    @Override
    public void listed(List<NightEntry> all) {
        logbookPane.setNights(all, looking.night().flatMap(ShownNight::entry).filter(all::contains));
        refresh();
    }

    @Override
    public Nights.Beginning wanted(
            Nights.Kind kind, NightFile night, Optional<NightEntry> where, Optional<Path> folder) {
        return new Nights.Beginning(kind, night, where, folder, benches.isOwnHands(), rate, reins.gates());
    }

    @Override
    public void begun() {
        ticking.play();
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

    /** Copies the night's state to the views. */
    @Override
    public void refresh() {
        if (looking.night().isEmpty() || closed) {
            shell.say(said);
            return;
        }
        if (isOver()) {
            return;
        }
        running().ifPresent(looking::attend);
        walk.goOn();
        telling.follow(nights.running(), looking);
        ShownNight night = looking.night().get();
        looking.keepVerdict(night);
        Moment at = looking.at(night);
        looking.revision(at)
                .ifPresent(revised -> nights.revise(night, revised.document(), next -> {
                    looking.replace(night, next);
                    refresh();
                }));
        looking.goAlong(at);
        facing.show(night, at, logbookPane.count(), said);
    }

    /** Takes a newcomer through a rehearsal, station by station. */
    void walk(NightFile night) {
        if (isNightRunning()) {
            say("A night is running: end it first, then walk through one.");
            return;
        }
        if (rate == 0 || rate > WALKING_RATE) {
            setRate(WALKING_RATE);
        }
        walk.begin(night, beginnings);
    }

    /** What was to be done when the night is over is done, if its window is still away. */
    private boolean isOver() {
        if (atTheEnd.isEmpty() || isNightRunning()) {
            return false;
        }
        Runnable end = atTheEnd.get();
        atTheEnd = Optional.empty();
        if (getScene() == null || getScene().getWindow().isShowing()) {
            return false;
        }
        end.run();
        return true;
    }

    private void planChanged() {
        plan.changed();
        if (looking.station() == Stage.PLAN) {
            refresh();
        }
    }

    private void stationSet(Stage next) {
        if (next == Stage.PLAN) {
            plan.changed();
        }
        ribbon.setPlanner(next == Stage.PLAN ? Optional.of(planDesk.blocks()) : Optional.empty());
    }

    // ---- what the person does
    // ----------------------------------------------------------------------------------------

    /** What a button or a card of the right column asks for. */
    private void obey(Intent intent) {
        orders.carryOut(intent).ifPresent(words -> said = words);
        refresh();
    }

    /** Gives the night that runs a command from a bench. */
    private void command(Command command) {
        if (nights.underWay().isEmpty()) {
            said = "No night runs that could do it.";
        }
        reins.give(command);
        refresh();
    }

    Questions questions() {
        return questions;
    }

    @Override
    public boolean isAsking() {
        return questions.isAsking();
    }

    /** Goes along with the night from station to station until the person chooses one. */
    void followTheNight() {
        looking.follow(true);
    }

    /** Goes to a station. */
    @Override
    public void choose(Stage next) {
        said = "";
        looking.toStation(next);
        refresh();
    }

    /** Opens the evidence of an event. */
    void pick(NightEvent event) {
        said = "";
        looking.toEvent(event);
        refresh();
    }

    @Override
    public void backToNow() {
        said = "";
        looking.follow(running().isPresent());
        if (looking.isElsewhere()) {
            beginnings.open(running().orElseThrow().run().entry());
            return;
        }
        looking.toLatest();
        refresh();
    }

    @Override
    public boolean step(int direction) {
        if (files.isOpen()) {
            return false;
        }
        looking.neighbour(direction).ifPresent(this::pick);
        return true;
    }

    @Override
    public void toggleFreeze() {
        if (walk.isWaiting()) {
            walk.leave(false);
            return;
        }
        if (running().isPresent() && !runningModel().asked().isEmpty()) {
            runningModel().confirmed();
            return;
        }
        running().flatMap(RunningNight::transport).ifPresent(clock -> clock.hold(!clock.isHeld()));
        refresh();
    }

    /** Has something done when the night that runs is over and its window is still away. */
    void endWithTheNight(Runnable end) {
        atTheEnd = Optional.of(end);
    }

    /** Whether a night is under way. */
    boolean isNightRunning() {
        return running().isPresent();
    }

    /** Whether the night under way is one that somebody else runs. */
    boolean isFolderWatched() {
        return nights.isFolderWatched();
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
        shell.showKeys(!shell.hasKeys());
    }

    @Override
    public void toggleHelp() {
        if (walk.isWaiting()) {
            walk.leave(false);
        } else if (shell.hasHelp()) {
            shell.hideHelp();
        } else {
            shell.showHelp(looking.station());
        }
    }

    @Override
    public boolean changeBack(boolean again) {
        if (looking.station() == Stage.RUN && !again) {
            return orders.takeBack();
        }
        if (looking.station() != Stage.PLAN || !planDesk.isOpen()) {
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
        FrameView.seenIn(files.seenInspection().orElse(shell.middle())).ifPresent(v -> {
            switch (key) {
                case FIT -> v.fit();
                case RINGS -> v.setMarks(!v.hasMarks());
                case NEARER -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1.5);
                case FURTHER -> v.zoomAt(v.getWidth() / 2, v.getHeight() / 2, 1 / 1.5);
            }
        });
    }

    @Override
    public void magnify(int direction) {
        say(magnifier.step(direction));
        resize(getScene().getWidth(), getScene().getHeight());
    }

    @Override
    public void resize(double width, double height) {
        double factor = magnifier == null ? 1 : magnifier.take(width, height);
        super.resize(width / factor, height / factor);
    }

    /** Of what lies over the desk, the uppermost goes. */
    @Override
    public void closeTop() {
        if (walk.isWaiting()) {
            walk.leave(true);
        } else if (shell.hasHelp()) {
            shell.hideHelp();
        } else if (shell.hasKeys()) {
            shell.showKeys(false);
        } else {
            files.closeTop();
        }
    }

    /** Whether what was asked of the logbook is there. */
    boolean isAnswered() {
        return logbookPane.isReady();
    }

    // ---- for the window and for tests
    // --------------------------------------------------------------------------------

    DeskSettings settings(double width, double height) {
        return new DeskSettings(width, height, look, looking.station(), rate, reins.gates(), magnifier.percent());
    }

    /** Whether a night is on the desk and nothing is being made ready. */
    boolean isSettled() {
        return looking.night().isPresent() && !nights.isBusy();
    }

    Nights nights() {
        return nights;
    }

    /** The night that is shown; there is one when the desk {@link #isSettled}. */
    NightModel model() {
        return looking.night().orElseThrow().model();
    }

    PlanDesk planDesk() {
        return planDesk;
    }

    PlanBench planBench() {
        return plan.bench();
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
        return picture.isReady();
    }

    @Override
    public void close() {
        closed = true;
        ticking.stop();
        nights.close();
        picture.close();
        planDesk.close();
        files.close();
        logbookPane.close();
        benches.close();
        telling.close();
    }
}
