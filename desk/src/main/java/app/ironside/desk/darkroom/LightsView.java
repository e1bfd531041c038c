package app.ironside.desk.darkroom;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MultipleSelectionModel;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** All lights of a series at once: a chart of any measure, and below it the sheet, both in one order and both with what the list has chosen. */
final class LightsView extends VBox implements AutoCloseable {
    private final ComboBox<SubMeasure> charted = new ComboBox<>();
    private final ComboBox<SubMeasure> sorted = new ComboBox<>();
    private final MultipleSelectionModel<DarkroomLine> selection;
    private final SubChart chart;
    private final ContactSheet sheet;
    private List<JudgedLight> lights = List.of();
    private int anchor = -1;

    /**
     * @param selection of the list, whose lines are the lights in the same order
     * @param onOpen shows the chosen light in large
     * @param onSort told when another order is wanted
     */
    LightsView(MultipleSelectionModel<DarkroomLine> selection, Runnable onOpen, Consumer<SubMeasure> onSort) {
        this.selection = selection;
        chart = new SubChart((place, all) -> pick(place, all ? ContactSheet.Pick.UP_TO : ContactSheet.Pick.ALONE));
        sheet = new ContactSheet(this::pick, place -> onOpen.run());
        setSpacing(6);
        charted.setId("chart-of");
        charted.getItems().setAll(SubMeasure.values());
        charted.setValue(SubMeasure.WEIGHT);
        charted.setOnAction(e -> chart.show(lights, charted.getValue()));
        sorted.setId("sort-by");
        sorted.getItems().setAll(SubMeasure.values());
        sorted.setValue(SubMeasure.TIME);
        sorted.setOnAction(e -> onSort.accept(sorted.getValue()));
        ToggleButton corners = new ToggleButton("Corners");
        corners.setId("sheet-corners");
        corners.setTooltip(
                new Tooltip("Middle, edges and corners of each light at full size: how round the stars are there"));
        corners.setOnAction(
                e -> sheet.look(corners.isSelected() ? ContactSheet.Look.CORNERS : ContactSheet.Look.WHOLE));
        corners.setMinWidth(USE_PREF_SIZE);
        charted.setMinWidth(110);
        sorted.setMinWidth(110);
        HBox tools = new HBox(8, dim("Chart of"), charted, dim("in order of"), sorted, corners);
        tools.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(sheet, Priority.ALWAYS);
        getChildren().addAll(tools, chart, sheet);
        selection.getSelectedIndices().addListener((ListChangeListener<Integer>) change -> choose());
    }

    private static Label dim(String text) {
        Label label = new Label(text);
        label.getStyleClass().add("dim");
        label.setMinWidth(USE_PREF_SIZE);
        return label;
    }

    void show(List<JudgedLight> next) {
        lights = next;
        chart.show(next, charted.getValue());
        sheet.show(next);
        choose();
    }

    private void choose() {
        Set<Integer> chosen = new HashSet<>(selection.getSelectedIndices());
        chart.choose(chosen);
        sheet.choose(chosen, at());
    }

    private void pick(int place, ContactSheet.Pick how) {
        switch (how) {
            case ALONE -> {
                selection.clearAndSelect(place);
                anchor = place;
            }
            case AS_WELL -> {
                if (selection.isSelected(place)) {
                    selection.clearSelection(place);
                } else {
                    selection.select(place);
                }
                anchor = place;
            }
            case UP_TO -> {
                int from = anchor < 0 ? place : anchor;
                selection.clearSelection();
                selection.selectRange(Math.min(from, place), Math.max(from, place) + 1);
            }
        }
    }

    /** Moves the choice over the sheet: cells to the right, rows down. */
    void step(int cells, int rows) {
        if (lights.isEmpty()) {
            return;
        }
        int next = at() + cells + rows * sheet.columns();
        pick(Math.max(0, Math.min(lights.size() - 1, next)), ContactSheet.Pick.ALONE);
    }

    /** The light that was chosen last, by whichever way; the model's own index is lost when its lines are renewed. */
    private int at() {
        List<Integer> chosen = selection.getSelectedIndices();
        return chosen.contains(anchor) ? anchor : chosen.isEmpty() ? -1 : chosen.get(chosen.size() - 1);
    }

    /** Whether all that can be seen has its likeness. */
    boolean isReady() {
        return sheet.isReady();
    }

    @Override
    public void close() {
        sheet.close();
    }
}
