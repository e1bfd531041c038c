package app.ironside.desk.station;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.gear.GearBook;
import app.ironside.gear.GearChange;
import app.ironside.logbook.Backup;
import app.ironside.logbook.Question;
import app.ironside.logbook.SameGear;
import app.ironside.logbook.SubFact;
import app.ironside.logbook.SubSearch;
import app.ironside.logbook.SubTable;
import app.ironside.logbook.TakingBack;
import app.ironside.logbook.Trend;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** All nights at once: what is asked in words, how much there is of it, its nights, and how one thing goes with another. */
final class AllNightsPane implements AutoCloseable {
    private static final int MOST_DOTS = 4000;

    /** More buttons than these are no help. */
    private static final int MOST_FACETS = 6;

    private static final String EXAMPLE = "Ha above 50° under 3 px since March kept";

    private final SubSearch search;
    private final GearBook gear;
    private final BackgroundWork work = new BackgroundWork("all nights");
    private final TextField ask = new TextField();
    private final Label count = new Label();
    private final Label understood = new Label();
    private final FlowPane facets = new FlowPane(6, 6);
    private final ListView<SubSearch.OfNight> nights = new ListView<>();
    private final ComboBox<SubFact> up = new ComboBox<>();
    private final ComboBox<SubFact> across = new ComboBox<>();
    private final Plot plot = new Plot();
    private final Label trend = new Label();
    private final CalendarView calendar;
    private final ListView<SubSearch.Told> told = new ListView<>();
    private final VBox listed = new VBox(6);
    private final Button takeBack = new Button();
    private final TakingBack takingBack;
    private final VBox box;

    /** An answer, ready to be shown. */
    private record Answer(
            Question question,
            SubSearch.Found found,
            SameGear of,
            List<GearChange> changes,
            LocalDate firstOfAll,
            Optional<Trend> trend,
            List<SubSearch.Told> told) {
        List<SubSearch.Point> points() {
            return of.points();
        }
    }

    /**
     * @param data the folder of the logbook
     * @param onNight shows a night, by its number in the logbook
     */
    AllNightsPane(SubSearch search, Path data, LongConsumer onNight) {
        this.search = search;
        this.gear = new GearBook(data);
        ask.setId("ask-logbook");
        ask.setPromptText("ask: " + EXAMPLE);
        ask.textProperty().addListener((o, was, is) -> renew());
        count.setId("asked-count");
        count.getStyleClass().add("verdict");
        understood.setId("asked-words");
        understood.getStyleClass().add("dim");
        understood.setWrapText(true);
        understood.setMinHeight(Region.USE_PREF_SIZE);
        nights.setId("asked-nights");
        nights.setPrefWidth(300);
        nights.setMinWidth(220);
        SentenceCell.of(nights, AllNightsPane::words);
        nights.setOnMouseClicked(e -> {
            SubSearch.OfNight picked = nights.getSelectionModel().getSelectedItem();
            if (picked != null && e.getClickCount() == 2) {
                onNight.accept(picked.night());
            }
        });
        up.setId("trend-of");
        up.getItems().setAll(SubFact.values());
        up.setValue(SubFact.SIZE);
        up.setOnAction(e -> renew());
        across.setId("trend-against");
        across.getItems().setAll(SubFact.values());
        across.setValue(SubFact.ALTITUDE);
        across.setOnAction(e -> renew());
        trend.setId("trend-words");
        trend.setWrapText(true);
        trend.setMinHeight(Region.USE_PREF_SIZE);
        up.setPrefWidth(200);
        across.setPrefWidth(200);
        HBox axes = new HBox(8, up, dim("against"), across);
        axes.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(plot, Priority.ALWAYS);
        VBox chart = new VBox(6, axes, plot, trend);
        calendar = new CalendarView(onNight);
        told.setId("told");
        told.setPlaceholder(dim("No note, trouble or experiment tells of it."));
        SentenceCell.of(told, t -> t.date() + "   " + t.kit() + "   " + t.text());
        told.setOnMouseClicked(e -> {
            SubSearch.Told picked = told.getSelectionModel().getSelectedItem();
            if (picked != null && e.getClickCount() == 2) {
                onNight.accept(picked.night());
            }
        });
        VBox.setVgrow(told, Priority.ALWAYS);
        VBox.setVgrow(chart, Priority.ALWAYS);
        VBox.setVgrow(calendar, Priority.ALWAYS);
        VBox right = new VBox(6, new HBox(), chart);
        right.getChildren().set(0, turns(right, chart));
        HBox.setHgrow(right, Priority.ALWAYS);
        Label title = new Label("Nights (double click opens one)");
        title.getStyleClass().add("bench-title");
        VBox.setVgrow(nights, Priority.ALWAYS);
        listed.getChildren().setAll(title, nights);
        HBox below = new HBox(8, listed, right);
        VBox.setVgrow(below, Priority.ALWAYS);
        Button export = new Button("Save as a table…");
        export.setId("save-subs");
        export.setMinWidth(Region.USE_PREF_SIZE);
        export.setTooltip(
                new Tooltip("The subs that were asked for: CSV, VOTable (.vot) or FITS by the name's ending"));
        export.setOnAction(e -> FilePane.ask(
                ask, FilePane.Ask.save("Save these subs", "subs.csv", Optional.empty()), files -> save(files.get(0))));
        Button backup = new Button("Back up…");
        backup.setId("back-up");
        backup.setMinWidth(Region.USE_PREF_SIZE);
        backup.setTooltip(new Tooltip(
                "Logbook, profiles, wishes and stars in one file, without frames; proven when it is taken back"));
        backup.setOnAction(e -> FilePane.ask(
                ask,
                FilePane.Ask.save(
                        "Back up all but the frames", "ironside-" + LocalDate.now() + ".zip", Optional.empty()),
                files -> backUp(data, files.get(0))));
        takingBack = new TakingBack(data);
        takeBack.setId("take-back");
        takeBack.setMinWidth(Region.USE_PREF_SIZE);
        takeBack.setOnAction(e -> {
            if (takingBack.waits()) {
                withdraw();
            } else {
                FilePane.ask(
                        ask,
                        FilePane.Ask.open(FilePane.Kind.OPEN, "Take back a backup", ".zip"),
                        files -> takeBack(files.get(0)));
            }
        });
        nameTakeBack();
        HBox.setHgrow(ask, Priority.ALWAYS);
        box = new VBox(6, new HBox(8, ask, export, backup, takeBack), count, understood, facets, below);
    }

    /** Between one thing against another and the year. */
    private HBox turns(VBox right, Node chart) {
        ToggleButton one = new ToggleButton("Chart");
        ToggleButton year = new ToggleButton("Calendar");
        ToggleButton words = new ToggleButton("Told");
        words.setId("show-told");
        words.setTooltip(new Tooltip("Notes, troubles and experiments that hold the words that were asked"));
        one.setId("show-chart");
        year.setId("show-calendar");
        ToggleGroup group = new ToggleGroup();
        one.setToggleGroup(group);
        year.setToggleGroup(group);
        words.setToggleGroup(group);
        one.setSelected(true);
        one.setOnAction(e -> {
            one.setSelected(true);
            right.getChildren().set(1, chart);
            list(true);
        });
        year.setOnAction(e -> {
            year.setSelected(true);
            right.getChildren().set(1, calendar);
            list(false);
        });
        words.setOnAction(e -> {
            words.setSelected(true);
            right.getChildren().set(1, told);
            list(false);
        });
        return new HBox(3, one, year, words);
    }

    /** The year is a list of the nights itself, and needs the room. */
    private void list(boolean shown) {
        listed.setVisible(shown);
        listed.setManaged(shown);
    }

    private static Label dim(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("dim");
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private static String words(SubSearch.OfNight n) {
        return n.date() + "   " + n.kit() + "   "
                + Words.format(
                        "%d of %d, %.1f h",
                        n.count().kept(), n.count().subs(), n.count().hoursKept());
    }

    Node node() {
        return box;
    }

    /** Whether what is shown is what was asked. */
    boolean isReady() {
        return work.isIdle();
    }

    /** Asks again: the logbook may know more. */
    void renew() {
        String text = ask.getText();
        SubFact x = across.getValue();
        SubFact y = up.getValue();
        work.ask(progress -> {
                    Question question = Question.parse(text, search.vocabulary(), LocalDate.now());
                    SubSearch.Found found = search.find(question);
                    List<SubSearch.Point> points =
                            search.points(question, x, y, found.all().subs());
                    List<GearChange> changes = gear.changes();
                    SameGear of = SameGear.of(points, found.nights(), changes, x, y);
                    return new Answer(
                            question,
                            found,
                            of,
                            changes,
                            search.firstNight().orElse(LocalDate.now()),
                            Trend.of(of.points()),
                            search.told(question));
                })
                .onlyNewest()
                .failed(understood::setText)
                .then(answer -> show(answer, x, y));
    }

    /** Writes all that is kept for the person, without frames, into one file. */
    void backUp(Path data, Path file) {
        understood.setText("Packing " + file.getFileName() + "…");
        work.ask(progress -> Backup.write(data, file, false, progress))
                .failed(understood::setText)
                .then(told -> understood.setText(Words.format(
                        "%,d files are in %s. On another machine choose it under Take back, or: ironside restore %s",
                        told.files(), file, file.getFileName())));
    }

    /** Unpacks and proves a backup, which takes the place of what is there when Ironside starts again. */
    void takeBack(Path file) {
        understood.setText("Unpacking " + file.getFileName() + "…");
        work.ask(progress -> takingBack.prepare(file, progress))
                .failed(why -> {
                    understood.setText(why);
                    nameTakeBack();
                })
                .then(told -> {
                    understood.setText(Words.format(
                            "%,d files are proven. Close Ironside and start it again: it opens with them, and what is here now is kept beside them.",
                            told.files()));
                    nameTakeBack();
                });
    }

    private void withdraw() {
        work.ask(progress -> {
                    takingBack.withdraw();
                    return true;
                })
                .failed(understood::setText)
                .then(done -> {
                    understood.setText("What is here now stays.");
                    nameTakeBack();
                });
    }

    /** The next press does one of two things, and says which. */
    private void nameTakeBack() {
        boolean waits = takingBack.waits();
        takeBack.setText(waits ? "Keep what is here" : "Take back…");
        takeBack.setTooltip(new Tooltip(
                waits
                        ? "A backup waits for the next start: put it away, and nothing changes"
                        : "A backup is proven now and opened at the next start; what is here now is kept beside it"));
    }

    /** Writes what was asked for as a table. */
    void save(Path file) {
        String text = ask.getText();
        understood.setText("Writing " + file.getFileName() + "…");
        work.ask(progress -> SubTable.write(search, Question.parse(text, search.vocabulary(), LocalDate.now()), file))
                .failed(understood::setText)
                .then(rows -> understood.setText(Words.format("%,d subs are in %s.", rows, file)));
    }

    private void show(Answer a, SubFact x, SubFact y) {
        SubSearch.Count all = a.found().all();
        count.setText(Words.format(
                "%,d sub%s, %.1f h; %,d kept, %.1f h.",
                all.subs(), all.subs() == 1 ? "" : "s", all.hours(), all.kept(), all.hoursKept()));
        String asked = a.question().conditions().stream()
                .map(Question.Condition::words)
                .distinct()
                .collect(Collectors.joining(", "));
        List<String> strange = a.question().notUnderstood();
        understood.setText((asked.isEmpty() ? "All subs of all nights." : "Asked: " + asked + ".")
                + (strange.isEmpty()
                        ? ""
                        : !a.told().isEmpty()
                                ? Words.format(
                                        " \"%s\" was told %s: see Told.",
                                        String.join(" ", strange),
                                        a.told().size() == 1
                                                ? "once"
                                                : Words.format(
                                                        "%d times", a.told().size()))
                                : " Nothing here is known as \"" + String.join(" ", strange)
                                        + "\"; ask for filters, targets, kits, causes, kept or out, above or under a number with ° px ″ s °C, and since,"
                                        + " in or before a date."));
        nights.getItems().setAll(a.found().nights());
        told.getItems().setAll(a.told());
        calendar.show(a.found().nights());
        facets.getChildren().clear();
        facets(a.found().byFilter());
        facets(a.found().byTarget());
        facets(a.found().byCause());
        plot.show(state(a, x, y));
        trend.setText(a.of().sentence().map(s -> s + " ").orElse("")
                + a.trend()
                        .map(t -> t.sentence(x, y))
                        .orElse(
                                a.points().isEmpty()
                                        ? "No sub has both " + x.words() + " and " + y.words() + "."
                                        : "Too few subs, or all alike: no line can be drawn."));
    }

    private void facets(Map<String, SubSearch.Count> counts) {
        counts.entrySet().stream()
                .filter(e -> !e.getKey().isEmpty())
                .limit(MOST_FACETS)
                .forEach(e -> {
                    Button button = new Button(
                            e.getKey() + "  " + Words.format("%,d", e.getValue().subs()));
                    button.getStyleClass().add("quiet");
                    button.setOnAction(c -> ask.setText((ask.getText() + " " + e.getKey()).strip()));
                    facets.getChildren().add(button);
                });
    }

    private static Plot.State state(Answer a, SubFact x, SubFact y) {
        int every = Math.max(1, a.points().size() / MOST_DOTS);
        List<double[]> dots = java.util.stream.IntStream.range(0, a.points().size() / every)
                .mapToObj(i -> a.points().get(i * every))
                .map(p -> new double[] {p.x(), p.y()})
                .toList();
        Plot.Curve subs = new Plot.Curve("subs", dots, Plot.Ink.COOL, Plot.Style.DOTS);
        List<Plot.Curve> curves = a.trend()
                .map(t -> List.of(
                        subs,
                        new Plot.Curve(
                                "line",
                                List.of(
                                        new double[] {t.from(), t.at(t.from())},
                                        new double[] {t.until(), t.at(t.until())}),
                                t.isSure() ? Plot.Ink.ACCENT : Plot.Ink.DIM,
                                Plot.Style.LINE)))
                .orElse(List.of(subs));
        return new Plot.State(
                Words.capital(y.words()) + " against " + x.words(), x.axis(), y.axis(), curves, marks(a, x), false);
    }

    /** Over time, what was done to the gear of the nights that are shown. */
    private static List<Plot.Mark> marks(Answer a, SubFact x) {
        if (x != SubFact.DAY) {
            return List.of();
        }
        Set<String> kits = a.found().nights().stream()
                .map(SubSearch.OfNight::kit)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
        double until = a.points().stream().mapToDouble(SubSearch.Point::x).max().orElse(0);
        double from = a.points().stream().mapToDouble(SubSearch.Point::x).min().orElse(0);
        return a.changes().stream()
                .filter(c -> kits.stream().anyMatch(k -> c.mayConcern(Optional.of(k))))
                .map(c -> new Plot.Mark(
                        ChronoUnit.DAYS.between(a.firstOfAll(), c.on()),
                        c.kind().words()))
                .filter(m -> m.x() >= from && m.x() <= until)
                .toList();
    }

    @Override
    public void close() {
        work.close();
    }
}
