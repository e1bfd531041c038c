package app.ironside.desk.plan;

import app.ironside.desk.parts.Words;
import app.ironside.kit.FilterSpec;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.LightSplit;
import app.ironside.plan.MoonRule;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.Projects;
import app.ironside.plan.TargetPlan;
import app.ironside.plan.Wish;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What is wanted of the chosen target: by filter, how low, at which angle; and what was wanted of others before. */
final class WishesPane extends VBox {
    private static final int FIELD = 76;

    private final PlanDesk plan;
    private final Label title = new Label();
    private final Label about = new Label();
    private final GridPane grid = new GridPane();
    private final FlowPane split = new FlowPane(8, 8);
    private final FlowPane whole = new FlowPane(10, 8);
    private final FlowPane kept = new FlowPane(8, 8);
    private final TextField name = new TextField();
    private String shown = "";
    private boolean filling;

    WishesPane(PlanDesk plan) {
        super(10);
        this.plan = plan;
        setId("wishes");
        title.getStyleClass().add("bench-title");
        about.getStyleClass().add("dim");
        about.setWrapText(true);
        grid.setHgap(10);
        grid.setVgap(6);
        whole.setAlignment(Pos.CENTER_LEFT);
        split.setAlignment(Pos.CENTER_LEFT);
        kept.setAlignment(Pos.CENTER_LEFT);
        name.setPromptText("name");
        name.setId("wish-name");
        name.setPrefWidth(150);
        name.setOnAction(e -> keep());
        Label heading = new Label("Wishes to use again");
        heading.getStyleClass().add("bench-title");
        ScrollPane scroll = new ScrollPane(new VBox(14, title, grid, split, about, whole, heading, kept));
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().add(scroll);
    }

    void refresh() {
        Optional<PlannedBlock> block = plan.wishes().meant();
        Optional<TargetPlan> meant = plan.wishes().target();
        String now = meant.map(t -> t + " " + block.map(PlannedBlock::byFilter)).orElse("")
                + plan.file().kit()
                + plan.wishes().kept()
                + plan.wishes().account().hoursKept();
        if (now.equals(shown)) {
            return;
        }
        shown = now;
        filling = true;
        grid.getChildren().clear();
        whole.getChildren().clear();
        split.getChildren().clear();
        if (meant.isEmpty()) {
            title.setText("No target of the plan is chosen.");
            about.setText("Click a block on the ribbon, or add what you look at under Tonight.");
        } else {
            fill(meant.get(), block);
        }
        fillKept(meant.isPresent());
        filling = false;
    }

    // ---- by filter
    // ---------------------------------------------------------------------------------------------------------

    /** @param block empty for a target that only stands in */
    private void fill(TargetPlan target, Optional<PlannedBlock> block) {
        title.setText("What is wanted of " + target.name()
                + (block.isEmpty()
                        ? ", which stands in under cloud"
                        : plan.chosenBlock().isPresent() ? ", in the chosen block" : ", in all its blocks"));
        String[] heads = {"filter", "seconds", "subs tonight", "hours in all", "kept so far", "Moon", "planned"};
        for (int i = 0; i < heads.length; i++) {
            Label head = new Label(heads[i]);
            head.getStyleClass().add("dim");
            grid.add(head, i, 0);
        }
        List<String> order = new ArrayList<>(target.filters());
        plan.file().kit().filters().stream()
                .map(FilterSpec::name)
                .filter(f -> !order.contains(f))
                .forEach(order::add);
        for (int i = 0; i < order.size(); i++) {
            String filter = order.get(i);
            Optional<FilterGoal> goal = target.goals().stream()
                    .filter(g -> g.filter().equals(filter))
                    .findFirst();
            addRow(i + 1, filter, goal, target, block);
        }
        about.setText(about(block));
        block.ifPresent(this::fillSplit);
        addWhole(target);
    }

    /** The light of tonight, dealt out to the filters by one of two schools, or as it comes. */
    private void fillSplit(PlannedBlock block) {
        TargetPlan target = block.target();
        if (target.goals().size() < 2) {
            return;
        }
        Label label = new Label(Words.format("deal out %.1f h of light:", block.hoursOfLight()));
        label.getStyleClass().add("dim");
        split.getChildren().add(label);
        for (LightSplit way : LightSplit.values()) {
            way.of(target.goals(), plan.file().kit(), 3600 * block.hoursOfLight())
                    .ifPresent(goals -> {
                        Button button = new Button(way.words());
                        button.setId(
                                "split-" + way.name().toLowerCase(Locale.ROOT).replace('_', '-'));
                        button.setTooltip(new Tooltip(LightSplit.minutes(goals)));
                        button.setOnAction(e -> plan.wishes().change(t -> t.withGoals(goals)));
                        split.getChildren().add(button);
                    });
        }
        if (target.goals().stream().anyMatch(g -> g.subs().isPresent())) {
            Button asItComes = new Button("as it comes");
            asItComes.setId("split-none");
            asItComes.setTooltip(new Tooltip("No number of subs: filters take turns while there is time"));
            asItComes.setOnAction(e -> plan.wishes()
                    .change(t -> t.withGoals(t.goals().stream()
                            .map(g -> g.withSubs(Optional.empty()))
                            .toList())));
            split.getChildren().add(asItComes);
        }
    }

    private String about(Optional<PlannedBlock> block) {
        boolean rehearsed = plan.wishes().account().isRehearsedOnly()
                && !plan.wishes().account().nights().isEmpty();
        return block.map(b -> Words.format("%s: %.1f h of light.", b.words(), b.hoursOfLight()))
                        .orElse(
                                "No time is planned for it: it is taken while cloud covers the others, and in time that is left.")
                + (rehearsed ? " Kept so far is of rehearsed nights: the logbook has no real one." : "");
    }

    private void addRow(
            int row, String filter, Optional<FilterGoal> goal, TargetPlan of, Optional<PlannedBlock> block) {
        String target = of.name();
        CheckBox used = new CheckBox(filter);
        used.setId("wish-" + filter);
        used.setSelected(goal.isPresent());
        used.setOnAction(e -> use(filter, used.isSelected()));
        grid.add(used, 0, row);
        double keptHours = plan.wishes().hoursKept(target, filter);
        Label keptLabel = new Label(keptHours > 0 ? Words.format("%.1f h", keptHours) : "none");
        keptLabel.getStyleClass().add("dim");
        grid.add(keptLabel, 4, row);
        if (goal.isEmpty()) {
            return;
        }
        FilterGoal g = goal.get();
        grid.add(
                field(
                        "wish-seconds-" + filter,
                        Words.number(g.subSeconds()),
                        "s",
                        text -> goal(filter, x -> x.withSeconds(number(text)))),
                1,
                row);
        grid.add(
                field(
                        "wish-subs-" + filter,
                        g.subs().map(String::valueOf).orElse(""),
                        "all",
                        text -> goal(filter, x -> x.withSubs(count(text)))),
                2,
                row);
        grid.add(
                field(
                        "wish-hours-" + filter,
                        g.gathered().map(w -> Words.number(w.hoursWanted())).orElse(""),
                        "no end",
                        text -> goal(filter, x -> plan.wishes()
                                .wanting(x, target, text.isBlank() ? Optional.empty() : Optional.of(number(text))))),
                3,
                row);
        ComboBox<MoonRule> moon = new ComboBox<>();
        moon.getItems().setAll(MoonRule.values());
        moon.setButtonCell(new MoonCell());
        moon.setCellFactory(v -> new MoonCell());
        moon.setValue(g.moon());
        moon.setId("wish-moon-" + filter);
        moon.setMinWidth(150);
        moon.setTooltip(new Tooltip(g.moon().words()));
        moon.setOnAction(e -> {
            if (!filling && moon.getValue() != null) {
                goal(filter, x -> x.withMoon(moon.getValue()));
            }
        });
        grid.add(moon, 5, row);
        int subs = block.map(b -> b.byFilter().getOrDefault(filter, 0)).orElse(0);
        Label planned = new Label(
                subs == 0
                        ? block.isEmpty() ? "stands in" : "none"
                        : Words.format("%d, %.1f h", subs, subs * g.subSeconds() / 3600));
        planned.getStyleClass().add("row-value");
        planned.setMinWidth(Region.USE_PREF_SIZE);
        Button earlier = new Button("↑");
        earlier.setId("wish-earlier-" + filter);
        earlier.setAccessibleText(filter + " earlier");
        earlier.setTooltip(new Tooltip("Takes " + filter + " earlier"));
        earlier.setDisable(of.filters().indexOf(filter) == 0);
        earlier.setOnAction(e -> earlier(filter));
        HBox last = new HBox(8, planned, earlier);
        last.setAlignment(Pos.CENTER_LEFT);
        grid.add(last, 6, row);
    }

    private static final class MoonCell extends ListCell<MoonRule> {
        @Override
        protected void updateItem(MoonRule item, boolean empty) {
            super.updateItem(item, empty);
            setText(
                    empty || item == null
                            ? ""
                            : switch (item) {
                                case BY_FILTER -> "by its width";
                                case DARK -> "dark sky only";
                                case HALF -> "to half Moon";
                                case ANY -> "any Moon";
                            });
        }
    }

    private void goal(String filter, Function<FilterGoal, FilterGoal> change) {
        plan.wishes()
                .change(t -> t.withGoals(t.goals().stream()
                        .map(g -> g.filter().equals(filter) ? change.apply(g) : g)
                        .toList()));
    }

    private void use(String filter, boolean wanted) {
        FilterSpec spec = plan.file().kit().filter(filter);
        double seconds = Projects.subSeconds(plan.file().kit(), plan.file().site(), spec);
        if (!wanted && plan.wishes().target().filter(t -> t.goals().size() == 1).isPresent()) {
            plan.say("A target keeps one filter at least: choose another before you leave " + filter + " out.");
            shown = "";
            refresh();
            return;
        }
        plan.wishes().change(t -> {
            List<FilterGoal> goals = new ArrayList<>(t.goals());
            goals.removeIf(g -> g.filter().equals(filter));
            if (wanted) {
                goals.add(new FilterGoal(filter, seconds));
            }
            return goals.isEmpty() ? t : t.withGoals(goals);
        });
    }

    private void earlier(String filter) {
        plan.wishes().change(t -> {
            List<FilterGoal> goals = new ArrayList<>(t.goals());
            int at = t.filters().indexOf(filter);
            if (at > 0) {
                goals.add(at - 1, goals.remove(at));
            }
            return t.withGoals(goals);
        });
    }

    // ---- of the whole target
    // -----------------------------------------------------------------------------------------------

    private void addWhole(TargetPlan target) {
        whole.getChildren()
                .addAll(
                        labelled(
                                "subs in a filter before the next",
                                field("wish-turn", String.valueOf(target.subsPerFilter()), "", text -> plan.wishes()
                                        .change(t -> t.withTurn(count(text).orElse(1))))),
                        labelled(
                                "not below, °",
                                field(
                                        "wish-altitude",
                                        target.minimumAltitudeDeg()
                                                .map(Words::number)
                                                .orElse(""),
                                        Words.format(
                                                "%.0f", plan.file().program().minimumAltitudeDeg()),
                                        text -> plan.wishes().change(t -> t.withMinimumAltitude(optional(text))))),
                        labelled(
                                "camera at, °",
                                field(
                                        "wish-angle",
                                        target.angleDeg().map(Words::number).orElse(""),
                                        "as it is",
                                        text -> plan.wishes().change(t -> t.withAngle(optional(text))))),
                        labelled(
                                "subs in all tonight",
                                field(
                                        "wish-most",
                                        target.mostSubs().map(String::valueOf).orElse(""),
                                        "all",
                                        text -> plan.wishes().change(t -> t.withMostSubs(count(text))))));
    }

    private static HBox labelled(String words, TextField field) {
        Label label = new Label(words);
        label.getStyleClass().add("dim");
        HBox box = new HBox(6, label, field);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    /** A value that is taken when it is left or Enter is pressed; what is none is said, and the old one stands again. */
    private TextField field(String id, String value, String empty, java.util.function.Consumer<String> set) {
        TextField field = new TextField(value);
        field.setId(id);
        field.setPromptText(empty);
        field.setPrefWidth(FIELD);
        Runnable take = () -> {
            if (filling || field.getText().strip().equals(value)) {
                return;
            }
            try {
                set.accept(field.getText().strip().replace(',', '.'));
            } catch (NumberFormatException e) {
                plan.say("\"" + field.getText() + "\" is not a number.");
                field.setText(value);
            }
        };
        field.setOnAction(e -> take.run());
        field.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                take.run();
            }
        });
        return field;
    }

    private static double number(String text) {
        return Double.parseDouble(text);
    }

    private static Optional<Integer> count(String text) {
        return text.isBlank() ? Optional.empty() : Optional.of(Integer.parseInt(text));
    }

    private static Optional<Double> optional(String text) {
        return text.isBlank() ? Optional.empty() : Optional.of(number(text));
    }

    // ---- to use again
    // ------------------------------------------------------------------------------------------------------

    private void fillKept(boolean usable) {
        kept.getChildren().clear();
        for (Wish wish : plan.wishes().kept()) {
            Button use = new Button(wish.name());
            use.setId("use-wish-" + wish.name().replace(' ', '-'));
            use.setDisable(!usable);
            use.setTooltip(new Tooltip(String.join(
                    ", ",
                    wish.goals().stream()
                            .map(g -> Words.format("%s %.0f s", g.filter(), g.subSeconds()))
                            .toList())));
            use.setOnAction(e -> plan.wishes().use(wish));
            Button forget = new Button("×");
            forget.setAccessibleText("Forget " + wish.name());
            forget.setTooltip(new Tooltip("Forgets this wish"));
            forget.setOnAction(e -> plan.wishes().forget(wish));
            kept.getChildren().add(new HBox(2, use, forget));
        }
        if (usable) {
            Button keep = new Button("Keep this one as");
            keep.setId("keep-wish");
            keep.setOnAction(e -> keep());
            HBox row = new HBox(6, keep, name);
            row.setAlignment(Pos.CENTER_LEFT);
            kept.getChildren().add(row);
        }
    }

    private void keep() {
        if (name.getText().isBlank()) {
            plan.say("A wish to use again needs a name.");
            return;
        }
        plan.wishes().keep(name.getText().strip());
        name.clear();
    }
}
