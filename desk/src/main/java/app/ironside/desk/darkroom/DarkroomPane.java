package app.ironside.desk.darkroom;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.darkroom.Darkroom;
import app.ironside.darkroom.Development;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Chore;
import app.ironside.desk.parts.FilePane;
import app.ironside.image.Statistics;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.Looks;
import app.ironside.library.FactBook;
import app.ironside.library.FrameSet;
import app.ironside.library.HeadShelf;
import app.ironside.library.Library;
import app.ironside.library.Match;
import app.ironside.library.Told;
import app.ironside.solve.PlaneTransform;
import app.ironside.stack.Drizzle;
import app.ironside.stack.DrizzleOutlook;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * Frames of any origin: what lies in some folders and what fits what, the lights one by one with their verdicts, and what is made of them.
 * The frames are never changed.
 */
public final class DarkroomPane extends BorderPane implements AutoCloseable {
    private static final double DETAIL_HEIGHT = 132;

    /** Cells to the right and rows down. */
    private static final Map<KeyCode, int[]> STEPS = Map.of(
            KeyCode.LEFT, new int[] {-1, 0},
            KeyCode.RIGHT, new int[] {1, 0},
            KeyCode.UP, new int[] {0, -1},
            KeyCode.DOWN, new int[] {0, 1});

    private final Darkroom.Placer placer;
    private final Consumer<Path> opener;
    private final Chore chore;
    private final BackgroundWork keeping = new BackgroundWork("frame facts");
    private final DarkroomPicture picture =
            new DarkroomPicture("Drop a folder of frames on the window, or choose one above.");
    private final ListView<DarkroomLine> list = new ListView<>();
    private final Label title = new Label();
    private final Label said = new Label();
    private final Label detail = new Label();
    private final Label goesTo = new Label();
    private final ToggleButton there = new ToggleButton("What is there");
    private final ToggleButton lights = new ToggleButton("Lights");
    private final ToggleButton made = new ToggleButton("Results");
    private final ToggleButton sheet = new ToggleButton("Contact sheet (S)");
    private final LightsView all;
    private final Button judge = button("darkroom-judge", "Judge these lights", this::judge);
    private final Button prove = button("darkroom-prove", "Before and after", this::prove);
    private final Button weigh = button("darkroom-weigh", "Night in or out", this::weigh);
    private final Button compare = button("darkroom-compare", "Compare schools", this::compare);
    private final Button develop = button("darkroom-develop", "Develop", this::develop);
    private final Button change = button("darkroom-out", "Results to…", this::chooseOut);
    private final Button open = button("darkroom-open", "Open folder", this::openOut);
    private final DevelopOptions options = new DevelopOptions();
    private final Button ofNight = button("darkroom-night", "This night's frames", this::openNight);
    private final HandMarks marks = new HandMarks();
    private final FactsForm facts = new FactsForm(this::correct, this::leaveFacts);
    private final Path data;
    private final HeadShelf heads;
    private Optional<Library> library = Optional.empty();
    private Optional<Development> development = Optional.empty();
    private List<Grade> grades = List.of();
    private List<Path> folders = List.of();
    private Optional<Path> out = Optional.empty();
    private Optional<Path> night = Optional.empty();
    private SubMeasure order = SubMeasure.TIME;

    /**
     * @param placer finds where pictures lie in the sky
     * @param data the user's folder, with what they said of frames and gear
     * @param opener opens a folder as the system does
     * @param away takes this view off the desk
     */
    public DarkroomPane(Darkroom.Placer placer, Path data, Consumer<Path> opener, Runnable away) {
        this.placer = placer;
        this.data = data;
        this.heads = HeadShelf.in(data, Clock.systemUTC());
        this.opener = opener;
        setId("darkroom");
        getStyleClass().add("inspect");
        title.getStyleClass().add("verdict");
        title.setId("darkroom-title");
        title.setText("Frames from anywhere, developed.");
        said.getStyleClass().add("status");
        said.setId("darkroom-said");
        said.setWrapText(true);
        goesTo.getStyleClass().add("dim");
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(
                10,
                title,
                gap,
                ofNight,
                button("darkroom-folder", "Choose a folder…", this::choose),
                button("close-darkroom", "Back to the night (Esc)", away));
        head.setAlignment(Pos.CENTER_LEFT);
        head.setPadding(new Insets(0, 0, 8, 0));
        setTop(head);
        ToggleGroup group = new ToggleGroup();
        for (ToggleButton b : new ToggleButton[] {there, lights, made}) {
            b.setToggleGroup(group);
            b.setOnAction(e -> {
                b.setSelected(true);
                fill();
            });
        }
        there.setId("darkroom-there");
        lights.setId("darkroom-lights");
        made.setId("darkroom-made");
        sheet.setId("darkroom-sheet");
        sheet.setTooltip(new Tooltip("All lights of the series at once, sorted and charted by any measure"));
        sheet.setOnAction(e -> fill());
        list.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        all = new LightsView(list.getSelectionModel(), sheet::fire, by -> {
            order = by;
            fill();
        });
        there.setSelected(true);
        list.setId("darkroom-list");
        list.setCellFactory(v -> new Cell());
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> look(is));
        VBox.setVgrow(list, Priority.ALWAYS);
        judge.setTooltip(new Tooltip("Measures the chosen set and tells what each light adds and what lowers it"));
        prove.setTooltip(
                new Tooltip(
                        "Holds the masters against the light in the middle of the set: corners, dust, hot pixels, before and after"));
        weigh.setTooltip(new Tooltip(
                "Stacks all nights of the target without this one and with it: what it adds, and what it costs"));
        compare.setTooltip(
                new Tooltip("Stacks the set by the verdicts and with all of it, and shows both under a curtain"));
        VBox under = new VBox(
                6,
                new HBox(6, judge, button("darkroom-mark", "Keep or leave out (K)", this::mark), weigh),
                new HBox(6, prove, compare, button("darkroom-facts", "Correct facts (F)", this::askFacts)));
        detail.setId("darkroom-detail");
        detail.setWrapText(true);
        detail.setMinHeight(Region.USE_PREF_SIZE);
        ScrollPane why = new ScrollPane(detail);
        why.setFitToWidth(true);
        why.setPrefHeight(DETAIL_HEIGHT);
        why.setMinHeight(DETAIL_HEIGHT);
        Region room = new Region();
        HBox.setHgrow(room, Priority.ALWAYS);
        VBox left = new VBox(8, new HBox(3, there, lights, made, room, sheet), list, why, under);
        left.setPrefWidth(470);
        left.setMinWidth(470);
        setLeft(left);
        BorderPane.setMargin(left, new Insets(0, 8, 0, 0));
        StackPane middle = new StackPane(picture, all, facts);
        middle.setMinSize(120, 120);
        setCenter(middle);
        develop.getStyleClass().add("chief");
        options.onGrain(this::promise);
        HBox how = new HBox(8, develop, options, change, goesTo, open);
        HBox.setHgrow(options, Priority.SOMETIMES);
        how.setAlignment(Pos.CENTER_LEFT);
        how.setPadding(new Insets(8, 0, 4, 0));
        HBox.setHgrow(goesTo, Priority.ALWAYS);
        goesTo.setMaxWidth(Double.MAX_VALUE);
        goesTo.setPrefWidth(150); // a long name must not push the choices into a second row
        chore = new Chore("darkroom", this::busy, said::setText);
        setBottom(new VBox(4, how, chore, said));
        setPadding(new Insets(10, 14, 8, 14));
        addEventHandler(KeyEvent.KEY_PRESSED, this::key);
    }

    private static Button button(String id, String text, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setMinWidth(Region.USE_PREF_SIZE);
        button.setOnAction(e -> action.run());
        return button;
    }

    /** Whether something long is being done. */
    public boolean isBusy() {
        return chore.isVisible();
    }

    /** Whether a picture is on its way. */
    public boolean isLooking() {
        return !picture.isIdle() || !keeping.isIdle() || all.isVisible() && !all.isReady();
    }

    /** The folder of the night that is on the desk, which is offered. */
    public void offer(Optional<Path> folderOfNight) {
        night = folderOfNight;
        ofNight.setVisible(night.isPresent());
        ofNight.setManaged(night.isPresent());
    }

    private void openNight() {
        night.ifPresent(n -> open(List.of(n)));
    }

    private void choose() {
        FilePane.ask(this, FilePane.Ask.open(FilePane.Kind.FOLDER, "A folder of frames"), this::open);
    }

    /** Reads folders and shows what lies in them. */
    public void open(List<Path> chosen) {
        if (isBusy()) {
            said.setText("Something is still being done here: cancel it, or wait, before another folder is opened.");
            return;
        }
        folders = chosen.stream().map(f -> f.toAbsolutePath().normalize()).toList();
        Path results = resultsOf(folders.get(0));
        List<Path> read = folders;
        out = Optional.of(results);
        library = Optional.empty();
        development = Optional.empty();
        grades = List.of();
        marks.forget();
        title.setText("Reading " + folders.get(0).getFileName());
        fill();
        chore.begin(
                progress -> {
                    Library found = Library.read(
                            read, path -> path.startsWith(results), Told.in(data), heads, Workers.ALL_CORES, progress);
                    return () -> {
                        library = Optional.of(found);
                        title.setText(DarkroomLine.title(found));
                        said.setText(
                                found.gaps().isEmpty()
                                        ? ""
                                        : found.gaps().size() + " calibration sets are missing: see the list.");
                        there.setSelected(true);
                        fill();
                    };
                },
                () -> title.setText("Not read to the end."),
                this::failed);
    }

    /** Beside the folder; a whole disk has nothing beside it. */
    private static Path resultsOf(Path folder) {
        return folder.getFileName() == null
                ? folder.resolve("developed")
                : folder.resolveSibling(folder.getFileName() + "-developed");
    }

    private void failed(String why) {
        title.setText("This did not work.");
        said.setText(why);
    }

    private void busy(boolean now) {
        boolean lightless = library.filter(l -> !l.matches().isEmpty()).isEmpty();
        develop.setDisable(now || lightless);
        judge.setDisable(now || lightless);
        prove.setDisable(now || lightless);
        compare.setDisable(now || lightless);
        weigh.setDisable(now || lightless);
    }

    /** What drops onto a finer grid would give, by the lights that are kept. */
    private void promise(Optional<Drizzle> drizzle) {
        List<JudgedLight> kept = JudgedLight.sorted(grades, marks.all(), order).stream()
                .filter(JudgedLight::keep)
                .toList();
        drizzle.ifPresent(d -> said.setText(
                kept.isEmpty()
                        ? "Judge the lights first: then it is told here whether drops would be worth it."
                        : DrizzleOutlook.of(
                                        d,
                                        kept.size(),
                                        Statistics.median(kept.stream()
                                                .mapToDouble(
                                                        l -> l.grade().sub().fwhmPx())
                                                .toArray()))
                                .sentence()));
    }

    private void fill() {
        List<JudgedLight> judged = JudgedLight.sorted(grades, marks.all(), order);
        List<DarkroomLine> lines = made.isSelected()
                ? development.map(DarkroomLine::results).orElse(List.of())
                : lights.isSelected()
                        ? DarkroomLine.judged(judged)
                        : library.map(DarkroomLine::there).orElse(List.of());
        Set<Path> chosen = list.getSelectionModel().getSelectedItems().stream()
                .flatMap(line -> line.picture().stream())
                .collect(Collectors.toSet());
        int at = list.getSelectionModel().getSelectedIndex();
        list.getItems().setAll(lines);
        int[] again = IntStream.range(0, lines.size())
                .filter(i -> lines.get(i).picture().filter(chosen::contains).isPresent())
                .toArray();
        if (again.length > 0) {
            list.getSelectionModel().selectIndices(again[0], again);
        } else if (!lines.isEmpty()) {
            list.getSelectionModel().select(Math.max(0, Math.min(at, lines.size() - 1)));
        }
        sheet.setDisable(!lights.isSelected() || judged.isEmpty());
        all.setVisible(sheet.isSelected() && !sheet.isDisabled());
        picture.setVisible(!all.isVisible());
        if (all.isVisible()) {
            all.show(judged);
        } else {
            look(list.getSelectionModel().getSelectedItem());
        }
        picture.setWhenEmpty(
                library.isEmpty()
                        ? "Reading…"
                        : made.isSelected() && lines.isEmpty()
                                ? "Nothing is developed yet."
                                : lights.isSelected() && lines.isEmpty()
                                        ? "Choose a set of lights under What is there, then Judge these lights."
                                        : "Choose a line.");
        goesTo.setText(out.map(o -> "results go to " + o.getFileName()).orElse(""));
        goesTo.setTooltip(out.map(o -> new Tooltip(o.toString())).orElse(null));
        busy(isBusy());
    }

    /** The chosen set of lights, or that of the chosen light, or the first. */
    private Optional<FrameSet> chosenSet() {
        Optional<DarkroomLine> line =
                Optional.ofNullable(list.getSelectionModel().getSelectedItem());
        Optional<Path> file = line.flatMap(DarkroomLine::picture);
        return line.flatMap(DarkroomLine::set).or(() -> library.stream()
                .flatMap(l -> l.matches().stream())
                .map(Match::lights)
                .filter(s -> file.filter(s.files()::contains).isPresent())
                .findFirst()
                .or(() -> library.stream()
                        .flatMap(l -> l.matches().stream())
                        .findFirst()
                        .map(Match::lights)));
    }

    /** All lights of the chosen set's target and filter, over its nights. */
    private List<Path> chosenLights() {
        return chosenSet()
                .map(s -> library.stream()
                        .flatMap(l -> l.matches().stream())
                        .map(m -> m.lights())
                        .filter(l -> l.target().equals(s.target()) && l.filter().equals(s.filter()))
                        .flatMap(l -> l.files().stream())
                        .toList())
                .orElse(List.of());
    }

    private void judge() {
        List<Path> files = chosenLights();
        if (files.isEmpty()) {
            said.setText("There are no lights to judge.");
            return;
        }
        chore.begin(
                progress -> {
                    Looks.Found found = new Looks(
                                    new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES))
                            .measure(files, new Calibrator(Masters.NONE, 0), progress);
                    Looks.Beside beside = Looks.beside(found.measured());
                    List<Grade> given = Grader.grade(beside.looks());
                    return () -> judged(found, beside, given);
                },
                () -> said.setText("Judging was stopped."),
                said::setText);
    }

    private void judged(Looks.Found found, Looks.Beside beside, List<Grade> given) {
        grades = given;
        Map<Path, PlaneTransform> lies = new HashMap<>();
        for (int i = 0; i < given.size(); i++) {
            Path file = found.measured().get(i).file();
            beside.lies().get(i).ifPresent(t -> lies.put(file, t));
        }
        picture.setSeries(lies);
        Grader.Choice all = Grader.keepAll(given);
        Grader.Choice sharp = Grader.keepSharp(given);
        said.setText(app.ironside.desk.parts.Words.format(
                "Kept: %d of %d, worth %.0f min of the best light, stars of %.2f px. Keeping all: %d, %.0f min, %.2f px.",
                sharp.frames(),
                given.size(),
                sharp.effectiveSeconds() / 60,
                sharp.fwhmPx(),
                all.frames(),
                all.effectiveSeconds() / 60,
                all.fwhmPx()));
        lights.setSelected(true);
        fill();
    }

    /** Turns the verdict on the chosen lights round. */
    private void mark() {
        List<Path> files = list.getSelectionModel().getSelectedItems().stream()
                .flatMap(line -> line.picture().stream())
                .toList();
        if (!lights.isSelected() || files.isEmpty()) {
            return;
        }
        boolean keep = marks.turn(files, grades);
        said.setText(
                files.size() == 1
                        ? ""
                        : files.size() + (keep ? " lights kept by hand." : " lights left out by hand.")
                                + " Ctrl Z takes it back.");
        fill();
    }

    /** Of the chosen sets: what their headers say wrongly, or not at all. */
    private void askFacts() {
        List<Path> files = list.getSelectionModel().getSelectedItems().stream()
                .flatMap(line -> line.files().stream())
                .toList();
        if (!there.isSelected() || files.isEmpty()) {
            said.setText("Choose one or several sets under What is there: what is said counts for all their frames.");
        } else {
            facts.ask(files);
        }
    }

    /** Puts the form away that lies over the picture; false if there is none. */
    public boolean closeForm() {
        boolean was = facts.isVisible();
        if (was) {
            leaveFacts();
        }
        return was;
    }

    private void leaveFacts() {
        facts.setVisible(false);
        list.requestFocus();
    }

    private void correct(FactBook.Correction correction) {
        keeping.ask(progress -> {
                    new FactBook(data).keep(correction);
                    return folders;
                })
                .failed(said::setText)
                .then(this::open);
    }

    private void key(KeyEvent e) {
        if (e.getTarget() instanceof TextField) {
            return;
        }
        boolean sheetShows = all.isVisible();
        if (e.isShortcutDown() && e.getCode() == KeyCode.Z && marks.takeBack()) {
            fill();
        } else if (e.getCode() == KeyCode.K) {
            mark();
        } else if (e.getCode() == KeyCode.F && !e.isShortcutDown()) {
            askFacts();
        } else if (e.getCode() == KeyCode.S && lights.isSelected() && !e.isShortcutDown()) {
            sheet.fire();
        } else if (sheetShows && STEPS.containsKey(e.getCode())) {
            all.step(STEPS.get(e.getCode())[0], STEPS.get(e.getCode())[1]);
        } else {
            return;
        }
        e.consume();
    }

    private void develop() {
        if (library.isEmpty() || out.isEmpty()) {
            return;
        }
        options.wrong().ifPresentOrElse(said::setText, () -> develop(library.get(), out.get()));
    }

    private void develop(Library known, Path to) {
        Darkroom darkroom = darkroom();
        chore.begin(
                progress -> {
                    Development result = darkroom.develop(known, to, progress);
                    return () -> {
                        development = Optional.of(result);
                        said.setText(result.stacks().size() + (result.stacks().size() == 1 ? " stack" : " stacks")
                                + " in " + to
                                + (result.failed().isEmpty()
                                        ? "."
                                        : "; " + result.failed().size() + " could not be made."));
                        made.setSelected(true);
                        list.getSelectionModel().clearSelection();
                        fill();
                    };
                },
                () -> said.setText("Stopped. What was finished stays and is taken up the next time."),
                said::setText);
    }

    private Darkroom darkroom() {
        return new Darkroom(
                Workers.ALL_CORES,
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES),
                placer,
                options.settings(marks.all()));
    }

    /** One light before and after its calibration, under a curtain, with what that proves. */
    private void prove() {
        Optional<FrameSet> set = chosenSet();
        library.stream()
                .flatMap(l -> l.matches().stream())
                .filter(m -> set.filter(m.lights()::equals).isPresent())
                .findFirst()
                .ifPresent(match -> hold((darkroom, to, progress) -> Curtain.proof(darkroom, match, to, progress)));
    }

    /** The same lights by the verdicts and all of them, stacked, under a curtain at one stretch. */
    private void weigh() {
        library.ifPresent(known -> chosenSet()
                .ifPresent(set -> hold((darkroom, to, progress) -> Curtain.night(darkroom, known, set, to, progress))));
    }

    private void compare() {
        library.ifPresent(known -> chosenSet()
                .ifPresent(
                        set -> hold((darkroom, to, progress) -> Curtain.schools(darkroom, known, set, to, progress))));
    }

    /** Makes two pictures to be held against each other. */
    @FunctionalInterface
    private interface Holding {
        Curtain of(Darkroom darkroom, Path to, Progress progress);
    }

    private void hold(Holding holding) {
        Path to = out.orElseThrow();
        Darkroom darkroom = darkroom();
        chore.begin(
                progress -> {
                    Curtain curtain = holding.of(darkroom, to, progress);
                    return () -> draw(curtain);
                },
                () -> said.setText("Stopped."),
                said::setText);
    }

    private void draw(Curtain curtain) {
        sheet.setSelected(false);
        all.setVisible(false);
        picture.setVisible(true);
        picture.hold(curtain);
        detail.setText(curtain.detail());
        said.setText(curtain.verdict());
    }

    private void chooseOut() {
        FilePane.ask(this, FilePane.Ask.open(FilePane.Kind.FOLDER, "A folder for the results"), chosen -> {
            out = Optional.of(chosen.get(0).toAbsolutePath().normalize());
            fill();
        });
    }

    private void openOut() {
        out.ifPresent(opener);
    }

    private void look(DarkroomLine line) {
        detail.setText(line == null ? "" : line.detail());
        if (!all.isVisible()) {
            picture.show(Optional.ofNullable(line), lights.isSelected());
        }
    }

    @Override
    public void close() {
        chore.close();
        keeping.close();
        picture.close();
        all.close();
    }

    /** One line; the reasons stand below the list. */
    private static final class Cell extends ListCell<DarkroomLine> {
        Cell() {
            getStyleClass().add("line-head");
            setPrefWidth(0);
        }

        @Override
        protected void updateItem(DarkroomLine line, boolean none) {
            super.updateItem(line, none);
            getStyleClass().removeAll("warning");
            setText(none || line == null ? "" : line.head());
            if (!none && line != null && line.trouble()) {
                getStyleClass().add("warning");
            }
        }
    }
}
