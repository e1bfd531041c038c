package app.ironside.desk.plan;

import app.ironside.desk.night.PlotStates;
import app.ironside.desk.parts.DrawnPane;
import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Plot.Curve;
import app.ironside.desk.parts.Plot.Ink;
import app.ironside.desk.parts.Plot.Style;
import app.ironside.desk.parts.Words;
import app.ironside.plan.Candidate;
import app.ironside.plan.CloudForecast;
import app.ironside.plan.Framing;
import app.ironside.plan.NightGrid;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.SeasonBoard.ObjectClass;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Interval;
import app.ironside.sky.Observer;
import app.ironside.sky.Sexagesimal;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What to shoot tonight: the candidates, the chosen one's field and hours, and the chosen block's handles. */
public final class TonightPane extends VBox {
    private static final Duration HOUR_STEP = Duration.ofMinutes(10);
    private static final int MOST_SHOWN = 2000;
    private static final int MOST_GAPS = 3;
    private static final String ASIDE = "set aside";

    private final PlanDesk plan;
    private final FieldStates fields;
    private final ForecastBar weather;
    private final TextField name = new TextField();
    private final ComboBox<String> kind = new ComboBox<>();
    private final ListView<Candidate> list = new ListView<>();
    private final FieldChart chart = new FieldChart();
    private final Plot hours = new Plot();
    private final Label date = new Label();
    private final HBox blockTools = new HBox(6);
    private List<Candidate> filtered = List.of();
    private List<Candidate> filteredFrom = List.of();
    private String filteredBy = "";
    private Set<String> filteredAside = Set.of();
    private boolean filling;
    private List<TargetPlan> marked = List.of();
    private String hoursOf = "";
    private Optional<String> toolsOf = Optional.empty();
    private Optional<Fielded> fieldOf = Optional.empty();
    private final Label nothing = new Label();
    private final ComboBox<Double> length = new ComboBox<>();

    TonightPane(PlanDesk plan, FieldStates fields) {
        super(8);
        this.plan = plan;
        this.fields = fields;
        this.weather = new ForecastBar(plan);
        name.setPromptText("find by name");
        name.setId("find");
        name.setPrefWidth(170);
        name.setMinWidth(120);
        name.textProperty().addListener((o, was, is) -> fill());
        name.setOnAction(e -> plan.targets().find(name.getText()));
        name.setTooltip(new Tooltip("Enter looks at anything in the catalogue, up tonight or not"));
        list.setId("candidates");
        list.setCellFactory(v -> new Cell());
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> {
            if (!filling && is != null) {
                plan.targets().look(is.object());
            }
        });
        list.setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                plan.blocks().addLooked();
            }
        });
        list.setOnKeyPressed(e -> {
            Candidate selected = list.getSelectionModel().getSelectedItem();
            if (e.getCode() == KeyCode.DELETE && selected != null) {
                plan.targets().toggleAside(selected.object());
                e.consume();
            }
        });
        VBox.setVgrow(list, Priority.ALWAYS);
        chart.setOnFraming(f -> plan.looked().ifPresent(o -> plan.framings().set(o, f)));
        chart.setPrefWidth(260);
        HBox.setHgrow(hours, Priority.ALWAYS);
        HBox below = new HBox(8, chart, hours);
        below.setPrefHeight(184);
        below.setMinHeight(170);
        blockTools.setAlignment(Pos.CENTER_LEFT);
        nothing.getStyleClass().add("dim");
        list.setPlaceholder(nothing);
        makeLength();
        getChildren().addAll(tools(), weather, list, below, blockTools);
        acceptForecasts();
    }

    private HBox tools() {
        kind.getItems().setAll("all kinds", "galaxies", "nebulae", "clusters", ASIDE);
        kind.setValue("all kinds");
        kind.setId("class");
        kind.setMinWidth(120);
        kind.setOnAction(e -> fill());
        ToggleButton forecast = new ToggleButton("Weather");
        forecast.setId("weather");
        weather.visibleProperty().bind(forecast.selectedProperty());
        weather.managedProperty().bind(forecast.selectedProperty());
        ComboBox<Candidate.Level> level = new ComboBox<>();
        level.getItems().setAll(Candidate.Level.values());
        level.setValue(plan.targets().level());
        level.setButtonCell(new LevelCell());
        level.setCellFactory(v -> new LevelCell());
        level.setOnAction(e -> plan.targets().setLevel(level.getValue()));
        level.setMinWidth(130);
        forecast.setMinWidth(Region.USE_PREF_SIZE);
        level.setTooltip(new Tooltip("The most difficult objects that are wanted"));
        Button before = new Button("‹");
        Button after = new Button("›");
        before.setId("night-before");
        after.setId("night-after");
        before.setOnAction(e -> plan.setDate(plan.file().program().date().minusDays(1)));
        after.setOnAction(e -> plan.setDate(plan.file().program().date().plusDays(1)));
        date.setMinWidth(Region.USE_PREF_SIZE);
        date.getStyleClass().add("row-value");
        forecast.setTooltip(new Tooltip("What is foreseen for this night; a table can also be dropped here"));
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox row = new HBox(8, name, kind, level, gap, before, date, after, forecast);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private static final class LevelCell extends ListCell<Candidate.Level> {
        @Override
        protected void updateItem(Candidate.Level item, boolean empty) {
            super.updateItem(item, empty);
            setText(
                    empty || item == null
                            ? ""
                            : switch (item) {
                                case FIRST -> "first targets";
                                case PRACTISED -> "practised";
                                case EXPERT -> "expert";
                            });
        }
    }

    private void acceptForecasts() {
        setOnDragOver(e -> {
            if (hasTable(e.getDragboard())) {
                e.acceptTransferModes(TransferMode.COPY);
                e.consume();
            }
        });
        setOnDragDropped(e -> {
            Dragboard board = e.getDragboard();
            if (hasTable(board)) {
                plan.readForecast(board.getFiles().get(0).toPath());
                e.setDropCompleted(true);
                e.consume();
            }
        });
    }

    /** Frames that are dropped here belong to the desk. */
    private static boolean hasTable(Dragboard board) {
        return board.hasFiles()
                && board.getFiles().get(0).getName().toLowerCase(Locale.ROOT).matches(".*\\.(csv|txt)");
    }

    void refresh() {
        date.setText(plan.file().program().date().toString());
        weather.refresh();
        fill();
        Optional<DeepSkyObject> looked = plan.looked();
        showField(looked);
        showHours(looked);
        showBlockTools();
    }

    /** The field is that of the object and its frame, and not of the plan that is dragged. */
    private void showField(Optional<DeepSkyObject> looked) {
        Optional<Fielded> of = looked.map(o -> new Fielded(o, plan.framings().of(o)));
        if (!of.equals(fieldOf)) {
            fieldOf = of;
            chart.show(of.map(f -> fields.of(f.object(), f.framing(), FieldStates.Mosaic.ONE, 0)));
        }
    }

    /** What a field is drawn of. */
    private record Fielded(DeepSkyObject object, Framing framing) {}

    // ---- the list
    // ------------------------------------------------------------------------------------------------------

    private void fill() {
        String wanted = key(name.getText());
        String of = kind.getValue();
        String by = wanted + "/" + of;
        if (!by.equals(filteredBy)
                || filteredFrom != plan.targets().candidates()
                || filteredAside != plan.targets().setAside()) {
            filteredBy = by;
            filteredFrom = plan.targets().candidates();
            filteredAside = plan.targets().setAside();
            filtered = plan.targets().candidates().stream()
                    .filter(c -> isOf(c.object(), of, wanted))
                    .filter(c -> wanted.isEmpty()
                            || key(c.object().id()).contains(wanted)
                            || key(c.object().alias()).contains(wanted)
                            || key(c.object().name()).contains(wanted))
                    .limit(MOST_SHOWN)
                    .toList();
            filling = true;
            list.getItems().setAll(filtered);
            filling = false;
        }
        List<TargetPlan> standIns = plan.file().program().standIns();
        if (!standIns.equals(marked)) {
            marked = standIns;
            list.refresh();
        }
        nothing.setText(
                plan.isBusy()
                        ? "Weighing the catalogue…"
                        : "Nothing of that name or class is up in the dark tonight. Enter looks it up all the same.");
        filling = true;
        plan.looked().ifPresent(o -> {
            Candidate selected = list.getSelectionModel().getSelectedItem();
            if (selected == null || selected.object() != o) {
                filtered.stream()
                        .filter(c -> c.object() == o)
                        .findFirst()
                        .ifPresentOrElse(c -> list.getSelectionModel().select(c), () -> list.getSelectionModel()
                                .clearSelection());
            }
        });
        filling = false;
    }

    /** Whether an object is of a kind that is asked for; what was set aside shows when it is asked for by name. */
    private boolean isOf(DeepSkyObject object, String kindOfObject, String wanted) {
        boolean aside = plan.targets().setAside().contains(object.id());
        if (kindOfObject.equals(ASIDE)) {
            return aside;
        }
        boolean ofKind = kindOfObject.equals("all kinds")
                || ObjectClass.of(object.kind()).words().equals(kindOfObject);
        return ofKind && (!aside || wanted.length() > 2);
    }

    private static String key(String text) {
        return text.toLowerCase(Locale.ROOT).replaceAll("[\\s\\-_]+", "");
    }

    /** One candidate: what it is, what it gives, when, and how it fits. */
    private final class Cell extends ListCell<Candidate> {
        private final Label id = label("bench-title", 96);
        private final Label kind = label("dim", 176);
        private final HourBar bar = new HourBar();
        private final Label span = label("", 104);
        private final Label high = label("", 42);
        private final Label fit = label("dim", 10);
        private final HBox row = new HBox(8, id, kind, bar, span, high, fit);

        private final MenuItem add = new MenuItem("Add to the night");
        private final MenuItem standIn = new MenuItem();
        private final MenuItem aside = new MenuItem();
        private final MenuItem copy = new MenuItem("Copy name and place");
        private final ContextMenu menu = new ContextMenu(add, standIn, aside, copy);

        Cell() {
            add.setOnAction(e -> plan.blocks().addLooked());
            standIn.setOnAction(e -> plan.blocks().standInLooked());
            aside.setOnAction(e -> plan.targets().toggleAside(getItem().object()));
            copy.setOnAction(e -> {
                DeepSkyObject o = getItem().object();
                ClipboardContent text = new ClipboardContent();
                text.putString(o.id() + "  "
                        + Sexagesimal.text(o.position().raDeg(), o.position().decDeg()));
                Clipboard.getSystemClipboard().setContent(text);
            });
            row.setAlignment(Pos.CENTER_LEFT);
            bar.setPrefSize(136, 26);
            bar.setMinSize(136, 26);
            HBox.setHgrow(fit, Priority.ALWAYS);
            fit.setMaxWidth(Double.MAX_VALUE);
            setPrefWidth(0);
        }

        private static Label label(String style, double width) {
            Label label = new Label();
            if (!style.isEmpty()) {
                label.getStyleClass().add(style);
            }
            label.setPrefWidth(width);
            label.setMinWidth(width);
            return label;
        }

        @Override
        protected void updateItem(Candidate c, boolean empty) {
            super.updateItem(c, empty);
            if (empty || c == null) {
                setGraphic(null);
                setTooltip(null);
                setContextMenu(null);
                return;
            }
            DeepSkyObject o = c.object();
            ZoneId zone = plan.file().site().zone();
            String proper = o.name().isEmpty() ? o.alias() : o.name();
            id.setText(o.id());
            kind.setText(proper.isEmpty() ? o.kind().words() : proper);
            bar.show(c.effectiveHours(), c.usableHours());
            span.setText(c.longest()
                    .map(i -> Words.clock(i.from(), zone) + " to " + Words.clock(i.until(), zone))
                    .orElse(""));
            high.setText(Words.format("%.0f°", c.highestDeg()));
            boolean standsIn = plan.model().standsIn(o);
            fit.setText(standsIn ? "stands in" : c.fit().words());
            standIn.setText(standsIn ? "No longer a stand-in" : "Stands in under cloud");
            aside.setText(plan.targets().setAside().contains(o.id()) ? "Propose again" : "Set aside (Delete)");
            setContextMenu(menu);
            setTooltip(new Tooltip(o.kind().words() + "\n" + String.join("\n", c.reasons())));
            setGraphic(row);
        }
    }

    /** Effective hours as a filled bar in the outline of the usable ones. */
    private static final class HourBar extends DrawnPane {
        private static final double FULL_HOURS = 13;
        private double effective;
        private double usable;

        void show(double effectiveHours, double usableHours) {
            effective = effectiveHours;
            usable = usableHours;
            stale();
        }

        @Override
        protected void draw(javafx.scene.canvas.GraphicsContext g, double width, double height) {
            double room = width - 50;
            g.setStroke(line());
            g.strokeRoundRect(0.5, 6.5, Math.max(2, usable / FULL_HOURS * room), height - 13, 4, 4);
            g.setFill(accent());
            g.fillRoundRect(0.5, 6.5, Math.max(2, effective / FULL_HOURS * room), height - 13, 4, 4);
            g.setFill(text());
            g.setTextAlign(javafx.scene.text.TextAlignment.RIGHT);
            g.fillText(Words.format("%.1f h", effective), width - 2, height / 2 + 5);
        }
    }

    // ---- the hours of one target
    // ----------------------------------------------------------------------------------------

    private void showHours(Optional<DeepSkyObject> looked) {
        String of = looked.map(DeepSkyObject::id).orElse("")
                + plan.file().program().date()
                + plan.file().kit().name()
                + plan.file().site()
                + plan.forecasts().read();
        if (of.equals(hoursOf)) {
            return;
        }
        hoursOf = of;
        hours.show(looked.map(this::hours).orElse(Plot.State.EMPTY));
    }

    private Plot.State hours(DeepSkyObject o) {
        Interval span = plan.ribbon().shown();
        ZoneId zone = plan.file().site().zone();
        double[] direction = Vectors.of(o.position().raDeg(), o.position().decDeg());
        NightGrid clear = new NightGrid(Observer.at(plan.file().site()), span, HOUR_STEP, CloudForecast.CLEAR);
        boolean invented = !plan.clouds().isKnown();
        CloudForecast known = invented ? plan.forecasts().invented(plan.draft()) : plan.clouds();
        List<Interval> dark = plan.draft().plan().times().dark();
        List<double[]> worth = new ArrayList<>();
        List<double[]> cloudy = new ArrayList<>();
        List<double[]> cover = new ArrayList<>();
        for (int i = 0; i < clear.size(); i++) {
            double hour = PlotStates.hours(clear.time(i), zone);
            NightGrid.Seen seen = clear.seen(i, direction);
            int piece = i;
            boolean may = seen.up()
                    && seen.altitudeDeg() >= plan.file().program().minimumAltitudeDeg()
                    && dark.stream().anyMatch(d -> d.contains(clear.time(piece)));
            double w = may ? clear.weight(i, seen, direction, NightGrid.Light.VISUAL) : 0;
            double covered = known.coverAt(clear.time(i));
            worth.add(new double[] {hour, 100 * w});
            cloudy.add(new double[] {hour, 100 * w * (1 - covered)});
            cover.add(new double[] {hour, 100 * covered});
        }
        List<Curve> curves = new ArrayList<>(List.of(new Curve("clear", worth, Ink.ACCENT, Style.LINE)));
        if (known.isKnown()) {
            curves.add(new Curve(invented ? "under invented cloud" : "forecast", cloudy, Ink.COOL, Style.LINE));
            curves.add(new Curve(invented ? "invented cloud, rehearsals" : "cloud", cover, Ink.DIM, Style.LINE));
        }
        return new Plot.State("Worth of an hour, %", Plot.State.CLOCK, "", curves, List.of(), true);
    }

    // ---- the chosen block
    // ----------------------------------------------------------------------------------------------

    private void showBlockTools() {
        Optional<PlannedBlock> block = plan.chosenBlock();
        Optional<String> of = block.map(b -> b.target().name());
        filling = true;
        block.ifPresent(b -> length.setValue(b.target().longestSubSeconds()));
        filling = false;
        // While a block is dragged its tools stay as they are.
        if (of.isPresent()
                && of.equals(toolsOf)
                && plan.targets().gap().isEmpty()
                && !blockTools.getChildren().isEmpty()) {
            return;
        }
        toolsOf = of;
        if (block.isEmpty() || plan.targets().gap().isPresent()) {
            showHint();
            return;
        }
        Label title = new Label(of.get());
        title.getStyleClass().add("bench-title");
        blockTools
                .getChildren()
                .setAll(
                        title,
                        quarter("‹ start", "start-earlier", -1, -15),
                        quarter("start ›", "start-later", -1, 15),
                        quarter("‹ end", "end-earlier", 1, -15),
                        quarter("end ›", "end-later", 1, 15),
                        button("Split", "split", this::splitChosen),
                        button("If cloud comes", "stand-ins", () -> plan.chosenBlock()
                                .ifPresent(plan.targets()::weighStandIns)),
                        button("Remove", "remove", () -> plan.blocks()
                                .remove(plan.blocks().chosen())),
                        length);
    }

    /** Nothing is chosen: how the ribbon is worked, or what may fill the time that is free. */
    private void showHint() {
        blockTools.setMinHeight(38);
        ZoneId zone = plan.file().site().zone();
        Optional<Interval> gap = plan.targets().gap();
        List<Interval> gaps = plan.draft().gaps();
        if (gap.isPresent()) {
            Optional<String> covered =
                    plan.targets().covered().map(b -> b.target().name());
            Label hint = new Label(covered.map(name -> "If cloud covers " + name + ":")
                    .orElseGet(() -> "Weighed for " + between(gap.get(), zone) + "; what needs no flip comes first."));
            hint.getStyleClass().add("row-value");
            blockTools.getChildren().setAll(hint);
            if (covered.isPresent()) {
                plan.looked().ifPresent(o -> blockTools
                        .getChildren()
                        .add(button(
                                plan.model().standsIn(o) ? o.id() + " no longer stands in" : o.id() + " stands in",
                                "stand-in",
                                plan.blocks()::standInLooked)));
            }
            blockTools.getChildren().add(button("Whole night", "whole-night", () -> plan.targets()
                    .setGap(Optional.empty())));
            // Few enough to stand as long as they are.
            covered.ifPresent(
                    name -> blockTools.getChildren().forEach(n -> ((Region) n).setMinWidth(Region.USE_PREF_SIZE)));
            return;
        }
        Label hint = new Label(
                gaps.isEmpty()
                        ? "On the ribbon: drag a block to move it, its ends to stretch it, double-click to split it."
                        : "Dark and free:");
        hint.getStyleClass().add("dim");
        blockTools.getChildren().setAll(hint);
        for (int i = 0; i < Math.min(MOST_GAPS, gaps.size()); i++) {
            Interval free = gaps.get(i);
            blockTools.getChildren().add(button("Best for " + between(free, zone), "gap-" + i, () -> plan.targets()
                    .setGap(Optional.of(free))));
        }
    }

    private static String between(Interval span, ZoneId zone) {
        return Words.clock(span.from(), zone) + " to " + Words.clock(span.until(), zone);
    }

    private void splitChosen() {
        plan.chosenBlock().map(PlannedBlock::span).ifPresent(s -> plan.blocks()
                .split(plan.blocks().chosen(), s.from().plus(s.duration().dividedBy(2))));
    }

    private void makeLength() {
        length.getItems().setAll(15.0, 30.0, 60.0, 90.0, 120.0, 180.0, 240.0, 300.0, 420.0, 600.0);
        length.setId("sub-length");
        length.setConverter(new javafx.util.StringConverter<>() {
            @Override
            public String toString(Double seconds) {
                return seconds == null ? "" : Words.format("%.0f s subs", seconds);
            }

            @Override
            public Double fromString(String text) {
                return Double.valueOf(text.replaceAll("[^0-9.]", ""));
            }
        });
        length.setOnAction(e -> {
            if (!filling && length.getValue() != null) {
                plan.setSubSeconds(length.getValue());
            }
        });
    }

    private Button quarter(String text, String id, int end, int minutes) {
        Button button = button(text, id, () -> plan.blocks().nudge(end, minutes));
        String name = (end < 0 ? "begin" : "end") + " a quarter of an hour " + (minutes < 0 ? "earlier" : "later");
        button.setTooltip(new Tooltip(name));
        button.setAccessibleText(name);
        return button;
    }

    private static Button button(String text, String id, Runnable action) {
        Button button = new Button(text);
        button.setId(id);
        button.setOnAction(e -> action.run());
        return button;
    }
}
