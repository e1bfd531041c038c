package app.ironside.desk.inspect;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.Chore;
import app.ironside.desk.parts.FilePane;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.CatalogueImport;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Coverage;
import app.ironside.solve.StarShelf;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The stars to go by: whether they suffice for the night's frames, where they come from, and how a deeper table is added. */
public final class StarsPane extends BorderPane implements AutoCloseable {
    private static final int SAMPLE_ROWS = 6;

    private final StarShelf shelf;
    private final Label verdict = new Label();
    private final Label sentence = new Label();
    private final GridPane targets = new GridPane();
    private final GridPane sources = new GridPane();
    private final Button take = new Button("Add a table…");
    private final Button dropTable = new Button("Take it away");
    private final Button dropOwn = new Button("Take them away");
    private final VBox table = new VBox(8);
    private final GridPane sample = new GridPane();
    private final Label tableTitle = new Label();
    private final List<ComboBox<String>> columns = new ArrayList<>();
    private final TextField epoch = new TextField("2000");
    private final Button importing = new Button("Import");
    private final Label said = new Label();
    private final Chore chore;
    private final Label mapTitle = new Label("Where in the sky frames of this kit are recognised");
    private final ReachMap map = new ReachMap();
    private final BackgroundWork maps = new BackgroundWork("map of stars");
    private final BackgroundWork tables = new BackgroundWork("tables");
    private int asked;
    private int drawn;
    private Optional<NightFile> night = Optional.empty();
    private Optional<Path> chosen = Optional.empty();
    private final Deque<Path> waiting = new ArrayDeque<>();

    /**
     * @param away takes this view off the desk
     */
    public StarsPane(StarShelf shelf, Runnable away) {
        this.shelf = shelf;
        setId("stars-pane");
        getStyleClass().add("inspect");
        setPadding(new Insets(10, 14, 8, 14));
        chore = new Chore("stars", this::busy, said::setText);
        verdict.getStyleClass().add("verdict");
        verdict.setId("stars-verdict");
        sentence.getStyleClass().add("sentence");
        sentence.setWrapText(true);
        said.getStyleClass().add("sentence");
        said.setWrapText(true);
        said.setId("stars-said");
        Button close = button("close-stars", "Back (Esc)", away);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox head = new HBox(10, verdict, gap, close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.setPadding(new Insets(0, 0, 6, 0));
        setTop(new VBox(2, head, sentence));
        targets.setHgap(28);
        targets.setVgap(5);
        sources.setHgap(20);
        sources.setVgap(8);
        take.setId("add-table");
        take.getStyleClass().add("chief");
        take.setOnAction(e -> choose());
        dropTable.setId("drop-table");
        dropTable.setOnAction(e -> change(shelf::removeImported, "The table is taken away."));
        dropOwn.setId("drop-own");
        dropOwn.setOnAction(e -> change(shelf::removeOwn, "The stars of your own frames are taken away."));
        buildTable();
        mapTitle.getStyleClass().add("bench-title");
        VBox sky = new VBox(4, mapTitle, map);
        sky.getStyleClass().add("table");
        VBox.setVgrow(map, Priority.ALWAYS);
        VBox.setVgrow(sky, Priority.ALWAYS);
        sky.visibleProperty().bind(table.visibleProperty().not());
        sky.managedProperty().bind(sky.visibleProperty());
        VBox all = new VBox(
                12,
                section("What the night’s frames hold", targets),
                section("Where the stars come from", sources),
                table,
                sky);
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        scroll.setFitToHeight(true);
        setCenter(scroll);
        BorderPane.setMargin(scroll, new Insets(12, 0, 8, 0));
        HBox bottom = new HBox(12, said, chore);
        bottom.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(said, Priority.ALWAYS);
        chore.setPrefWidth(420);
        setBottom(bottom);
    }

    private static VBox section(String title, Region content) {
        Label label = new Label(title);
        label.getStyleClass().add("bench-title");
        VBox box = new VBox(8, label, content);
        box.getStyleClass().add("table");
        return box;
    }

    private static Button button(String id, String text, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setOnAction(e -> action.run());
        return button;
    }

    private void buildTable() {
        String[] roles = {
            "right ascension",
            "declination",
            "magnitude",
            "colour, if any",
            "motion east, if any",
            "motion north, if any"
        };
        FlowPane choices = new FlowPane(16, 8);
        for (String role : roles) {
            ComboBox<String> box = new ComboBox<>();
            box.setId("column-" + columns.size());
            box.setPrefWidth(150);
            columns.add(box);
            choices.getChildren().add(named(role, box));
        }
        epoch.setId("column-epoch");
        epoch.setPrefWidth(90);
        choices.getChildren().add(named("year of the positions", epoch));
        importing.setId("import-table");
        importing.getStyleClass().add("chief");
        importing.setOnAction(e -> importTable());
        Button not = button("leave-table", "Leave it", this::putAway);
        sample.setHgap(20);
        sample.setVgap(3);
        ScrollPane wide = new ScrollPane(sample);
        wide.setFitToHeight(true);
        tableTitle.getStyleClass().add("bench-title");
        tableTitle.setId("table-title");
        table.getStyleClass().add("table");
        table.getChildren().addAll(tableTitle, choices, wide, new HBox(8, importing, not));
        showTable(false);
    }

    private static VBox named(String name, Region field) {
        Label label = new Label(name);
        label.getStyleClass().add("dim");
        return new VBox(2, label, field);
    }

    private void showTable(boolean now) {
        show(table, now);
    }

    private static void show(Region region, boolean now) {
        region.setVisible(now);
        region.setManaged(now);
    }

    /** The night whose frames are meant. */
    public void setFile(NightFile file) {
        night = Optional.of(file);
        if (isVisible()) {
            refresh();
        }
    }

    /** Counts anew and shows what there is. */
    public void refresh() {
        StarShelf.Holding holding = shelf.holding();
        sources.getChildren().clear();
        source(0, holding.shipped(), "ship with Ironside", "Hipparcos, the whole sky: enough for fields from about 3°");
        source(
                1,
                holding.imported(),
                "from a table of yours",
                "FITS, VOTable or CSV, for instance an extract of a sky survey down to magnitude 14",
                take,
                dropTable);
        source(
                2,
                holding.own(),
                "from your own frames",
                "“Keep its stars” beside a recognised frame (drop one here): one of 3° or more makes its region good for fields"
                        + " down to 1°",
                dropOwn);
        show(dropTable, holding.imported() > 0);
        show(dropOwn, holding.own() > 0);
        night.ifPresent(this::count);
        holding.trouble().ifPresent(said::setText);
    }

    private void source(int row, int count, String from, String more, Button... buttons) {
        Label number = new Label(Words.format("%,d", count));
        number.getStyleClass().add("verdict");
        number.setMinWidth(Region.USE_PREF_SIZE);
        Label what = new Label(from);
        what.setMinWidth(Region.USE_PREF_SIZE);
        Label why = new Label(more);
        why.getStyleClass().add("sentence");
        why.setWrapText(true);
        GridPane.setHgrow(why, Priority.ALWAYS);
        HBox tools = new HBox(8, buttons);
        tools.setAlignment(Pos.CENTER_RIGHT);
        for (Button b : buttons) {
            b.setMinWidth(Region.USE_PREF_SIZE);
        }
        GridPane.setHalignment(number, javafx.geometry.HPos.RIGHT);
        sources.addRow(row, number, what, why, tools);
    }

    private void count(NightFile file) {
        double scale = file.kit().arcsecPerPixel() / 3600;
        double width = file.kit().sensor().widthPx() * scale;
        double height = file.kit().sensor().heightPx() * scale;
        targets.getChildren().clear();
        int row = 0;
        List<String> lacking = new ArrayList<>();
        for (TargetPlan target : file.program().targets()) {
            Coverage found = Coverage.of(
                    shelf.solver().catalogue(),
                    target.position(),
                    width,
                    height,
                    target.angleDeg().orElse(0.0));
            Label name = new Label(target.name());
            Label stars = new Label(Words.format("%,d stars", found.stars()));
            stars.getStyleClass().add("row-value");
            Label words = new Label(found.words());
            words.getStyleClass().add(found.suffices() ? "dim" : "warning");
            GridPane.setHalignment(stars, javafx.geometry.HPos.RIGHT);
            targets.addRow(row++, name, stars, words);
            if (!found.suffices()) {
                lacking.add(target.name());
            }
        }
        Map<String, Equatorial> places = new LinkedHashMap<>();
        file.program().targets().forEach(t -> places.put(t.name(), t.position()));
        drawMap(width * height, places);
        verdict.setText(
                lacking.isEmpty() ? "Enough stars to go by." : "Too few stars at " + String.join(", ", lacking) + ".");
        sentence.setText(
                Words.format(
                        "A frame of this kit is %.1f° × %.1f°. It is recognised by the stars that a catalogue holds of it.%s",
                        width,
                        height,
                        lacking.isEmpty()
                                ? ""
                                : " Add a deeper table, or take one wide picture of the region, drop it here and keep its stars."));
    }

    /** The map is reckoned beside the interface; of several wishes the last counts. */
    private void drawMap(double squareDegrees, Map<String, Equatorial> places) {
        int ticket = ++asked;
        StarCatalogue catalogue = shelf.solver().catalogue();
        maps.ask(progress -> ReachMap.Reach.of(catalogue, squareDegrees))
                .onlyNewest()
                .failed(said::setText)
                .then(reach -> {
                    map.show(reach, places);
                    drawn = ticket;
                });
    }

    /** Whether the map shows what was asked for last. */
    public boolean isMapReady() {
        return drawn == asked;
    }

    private void choose() {
        FilePane.Ask ask = FilePane.Ask.open(
                FilePane.Kind.OPEN, "A table of stars", ".fits", ".fit", ".vot", ".votable", ".xml", ".csv");
        FilePane.ask(this, ask, files -> open(files.get(0)));
    }

    /** Whether a file, by its name, can only be a table. */
    public static boolean isTable(String name) {
        return name.toLowerCase(java.util.Locale.ROOT).matches(".*\\.(csv|vot|votable|xml)");
    }

    /** Takes several tables, one after the other: the next is shown when one is imported or put away. */
    public void open(List<Path> files) {
        waiting.addAll(files);
        if (chosen.isEmpty()) {
            next();
        }
    }

    private void next() {
        Path file = waiting.poll();
        if (file != null) {
            open(file);
        }
    }

    /** Shows a table's first rows, with the columns that seem to be the right ones. */
    public void open(Path file) {
        said.setText("Reading " + file.getFileName() + "…");
        chosen = Optional.of(file);
        tables.ask(progress -> CatalogueImport.look(file, SAMPLE_ROWS))
                .failed(why -> {
                    putAway();
                    said.setText(why + " " + said.getText());
                })
                .then(look -> show(file, look));
    }

    private void show(Path file, CatalogueImport.Sample look) {
        said.setText("");
        tableTitle.setText(file.getFileName()
                + (look.rows() < 0 ? "" : Words.format(", %,d rows", look.rows()))
                + ": which column is which?");
        CatalogueImport.Columns guess = look.guess();
        List<String> guesses = List.of(
                guess.ra(), guess.dec(), guess.magnitude(), guess.colour(), guess.motionRa(), guess.motionDec());
        for (int i = 0; i < columns.size(); i++) {
            List<String> titles = new ArrayList<>(List.of(""));
            titles.addAll(look.titles());
            columns.get(i).getItems().setAll(titles);
            columns.get(i).setValue(guesses.get(i));
        }
        sample.getChildren().clear();
        for (int c = 0; c < look.titles().size(); c++) {
            Label title = new Label(look.titles().get(c));
            title.getStyleClass().add("dim");
            title.setMinWidth(Region.USE_PREF_SIZE);
            sample.add(title, c, 0);
            for (int r = 0; r < look.first().size(); r++) {
                Label cell = new Label(look.first().get(r).get(c));
                cell.setMinWidth(Region.USE_PREF_SIZE);
                sample.add(cell, c, r + 1);
            }
        }
        showTable(true);
    }

    /** Done with the table that is shown; the next one takes its place. */
    private void putAway() {
        showTable(false);
        chosen = Optional.empty();
        next();
    }

    private void importTable() {
        double year;
        try {
            year = Double.parseDouble(epoch.getText().strip().replace(',', '.'));
        } catch (NumberFormatException e) {
            said.setText("The year of the positions is \"" + epoch.getText() + "\"; expected a year such as 2016.");
            return;
        }
        CatalogueImport.Columns mapping = new CatalogueImport.Columns(
                columns.get(0).getValue(),
                columns.get(1).getValue(),
                columns.get(2).getValue(),
                columns.get(3).getValue(),
                columns.get(4).getValue(),
                columns.get(5).getValue(),
                year);
        Path file = chosen.orElseThrow();
        chore.begin(
                progress -> {
                    shelf.importTable(file, mapping, progress);
                    return () -> {
                        putAway();
                        changed("Imported " + file.getFileName()
                                + ". A night that runs goes on with the stars it began with.");
                    };
                },
                () -> said.setText("Not imported; what was there is there still. What was indexed is found again."),
                said::setText);
    }

    private void change(Runnable change, String words) {
        tables.ask(progress -> {
                    change.run();
                    return words;
                })
                .failed(said::setText)
                .then(this::changed);
    }

    private void changed(String words) {
        refresh();
        said.setText(words);
    }

    private void busy(boolean now) {
        for (Button b : List.of(take, dropTable, dropOwn, importing)) {
            b.setDisable(now);
        }
    }

    @Override
    public void close() {
        chore.close();
        maps.close();
        tables.close();
    }
}
