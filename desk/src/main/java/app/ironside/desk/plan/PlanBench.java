package app.ironside.desk.plan;

import app.ironside.desk.night.Bench;
import app.ironside.desk.night.Look;
import app.ironside.desk.parts.NameField;
import app.ironside.kit.FilterSpec;
import app.ironside.plan.NightBudget;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The Plan station: nine views of one night. */
public final class PlanBench implements Bench {
    private final PlanDesk plan;
    private final FieldStates fields;
    private final TonightPane tonight;
    private final WishesPane wishes;
    private final RulesPane rules;
    private final FramingPane framing;
    private final SeasonPane season;
    private final VBox seasonWithSearch;
    private final ExposurePane exposure;
    private final CostsPane costs;
    private final RehearsalPane rehearsal;
    private final ProfilePane profiles;
    private final Map<PlanDesk.Tab, ToggleButton> buttons = new EnumMap<>(PlanDesk.Tab.class);
    private final Button undo = new Button("↶");
    private final Button redo = new Button("↷");
    private final StackPane middle = new StackPane();
    private final VBox box = new VBox(8);

    public PlanBench(PlanDesk plan) {
        this.plan = plan;
        fields = new FieldStates(plan.wiring());
        tonight = new TonightPane(plan, fields);
        wishes = new WishesPane(plan);
        rules = new RulesPane(plan);
        framing = new FramingPane(plan, fields);
        season = new SeasonPane(plan);
        NameField name = new NameField(plan.wiring()::names, "season-find", "anything in the catalogue, then Enter");
        name.setOnMeant(plan.targets()::find);
        VBox.setVgrow(season, Priority.ALWAYS);
        seasonWithSearch = new VBox(8, name, season);
        exposure = new ExposurePane(plan);
        costs = new CostsPane(plan);
        rehearsal = new RehearsalPane(plan);
        profiles = new ProfilePane(plan);
        ToggleGroup group = new ToggleGroup();
        FlowPane tabs = new FlowPane(3, 3);
        for (PlanDesk.Tab tab : PlanDesk.Tab.values()) {
            ToggleButton button = new ToggleButton(tab.title());
            button.getStyleClass().add("narrow");
            button.setMinWidth(Region.USE_PREF_SIZE);
            button.setId("plan-" + tab.name().toLowerCase(java.util.Locale.ROOT));
            button.setToggleGroup(group);
            button.setOnAction(e -> {
                button.setSelected(true);
                plan.setTab(tab);
            });
            buttons.put(tab, button);
            tabs.getChildren().add(button);
        }
        undo.setId("undo");
        undo.setTooltip(new Tooltip("Takes the last change back (Ctrl Z)"));
        undo.setOnAction(e -> plan.undo());
        redo.setId("redo");
        redo.setTooltip(new Tooltip("Does it again (Ctrl Y)"));
        redo.setOnAction(e -> plan.redo());
        for (Button step : List.of(undo, redo)) {
            step.getStyleClass().add("narrow");
            step.setMinWidth(Region.USE_PREF_SIZE);
        }
        undo.setAccessibleText("Undo");
        redo.setAccessibleText("Redo");
        HBox.setHgrow(tabs, Priority.ALWAYS);
        HBox top = new HBox(3, tabs, undo, redo);
        VBox.setVgrow(middle, Priority.ALWAYS);
        box.getChildren().addAll(top, middle);
    }

    /** The filter that exposures are reckoned in. */
    public FilterSpec filter() {
        return exposure.filter();
    }

    public CostsPane costs() {
        return costs;
    }

    @Override
    public Node node() {
        return box;
    }

    private Region pane() {
        return switch (plan.tab()) {
            case TONIGHT -> tonight;
            case WISHES -> wishes;
            case RULES -> rules;
            case FRAMING -> framing;
            case SEASON -> seasonWithSearch;
            case EXPOSURE -> exposure;
            case COSTS -> costs;
            case REHEARSAL -> rehearsal;
            case PROFILES -> profiles;
        };
    }

    @Override
    public void show(Look look) {
        // Told apart from what is shown: the plan does not change with the night that runs.
    }

    /** Copies the plan to what is visible of it. */
    public void refresh(NightBudget budget) {
        buttons.forEach((tab, button) -> button.setSelected(tab == plan.tab()));
        undo.setDisable(!plan.canUndo());
        redo.setDisable(!plan.canRedo());
        Region pane = pane();
        if (middle.getChildren().isEmpty() || middle.getChildren().get(0) != pane) {
            middle.getChildren().setAll(pane);
        }
        switch (plan.tab()) {
            case TONIGHT -> tonight.refresh();
            case WISHES -> wishes.refresh();
            case RULES -> rules.refresh();
            case FRAMING -> framing.refresh();
            case SEASON -> season.refresh();
            case EXPOSURE -> exposure.refresh();
            case COSTS -> costs.refresh(budget);
            case REHEARSAL -> rehearsal.refresh();
            case PROFILES -> profiles.refresh();
        }
    }
}
