package app.ironside.desk.reckon;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.css.PseudoClass;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;

/** The right column. */
public final class ReckoningView extends VBox {
    private static final PseudoClass ALERT = PseudoClass.getPseudoClass("alert");
    private static final PseudoClass OURS = PseudoClass.getPseudoClass("ours");

    private final Label verdict = styled(new Label(), "verdict");
    private final Label sentence = styled(new Label(), "sentence");
    private final VBox rows = new VBox();
    private final VBox actions = new VBox(6);
    private final Map<String, Button> buttons = new LinkedHashMap<>();
    private final Label working = styled(new Label(), "working");
    private final Button showWorking = new Button("Show the working");
    private final VBox schools = new VBox(6);
    private final Label caution = styled(new Label(), "caution");
    private final Consumer<Intent> obey;
    private final List<RowView> rowsShown = new ArrayList<>();
    private ReckoningState state;

    /** Of what asks nothing of anybody. */
    public ReckoningView() {
        this(intent -> {});
    }

    /**
     * @param obey carries out what a button or card is for
     */
    public ReckoningView(Consumer<Intent> obey) {
        this.obey = obey;
        getStyleClass().add("reckoning");
        verdict.setId("verdict");
        working.setId("working");
        showWorking.setId("show-working");
        showWorking.setMaxWidth(Double.MAX_VALUE);
        showWorking.setVisible(false);
        showWorking.setManaged(false);
        caution.setVisible(false);
        working.setVisible(false);
        working.setManaged(false);
        showWorking.setOnAction(e -> toggleWorking());
        verdict.setMinHeight(Region.USE_PREF_SIZE);
        sentence.setMinHeight(Region.USE_PREF_SIZE);
        working.setMinHeight(Region.USE_PREF_SIZE);
        VBox middle = new VBox(8, rows, showWorking, working, schools);
        middle.setPadding(new Insets(4, 6, 0, 0));
        ScrollPane scroll = new ScrollPane(middle);
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        caution.setMinHeight(Region.USE_PREF_SIZE);
        getChildren().addAll(verdict, sentence, scroll, actions, caution);
    }

    private static Label styled(Label label, String style) {
        label.getStyleClass().add(style);
        return label;
    }

    private void toggleWorking() {
        boolean open = !working.isVisible();
        working.setVisible(open);
        working.setManaged(open);
        showWorking.setText(open ? "Hide the working" : "Show the working");
    }

    /**
     * @param warning one line about what can hurt somebody here, or empty
     */
    public void show(ReckoningState next, String warning) {
        caution.setText(warning);
        caution.setVisible(!warning.isEmpty());
        caution.setManaged(!warning.isEmpty());
        if (next.equals(state)) {
            return;
        }
        boolean sameSchools = state != null && next.schools().equals(state.schools());
        state = next;
        verdict.setText(next.verdict());
        verdict.pseudoClassStateChanged(ALERT, next.alert());
        sentence.setText(next.sentence());
        working.setText(next.working());
        showWorking.setVisible(!next.working().isEmpty());
        showWorking.setManaged(!next.working().isEmpty());
        showRows(next.rows());
        showActions(next.actions());
        if (!sameSchools) {
            schools.getChildren().clear();
            if (!next.schools().isEmpty()) {
                schools.getChildren().add(styled(new Label("Schools"), "schools-title"));
                next.schools().forEach(s -> schools.getChildren().add(school(s)));
            }
        }
    }

    /** A button under the pointer stays while what it is for, or whether it can be pressed, changes. */
    private void showActions(List<ReckoningState.Action> next) {
        List<String> ids = next.stream().map(ReckoningState.Action::id).toList();
        if (!ids.equals(List.copyOf(buttons.keySet()))) {
            buttons.clear();
            next.forEach(a -> buttons.put(a.id(), new Button()));
            HBox lesser = new HBox(6);
            actions.getChildren().clear();
            next.stream().filter(a -> !a.chief()).map(a -> buttons.get(a.id())).forEach(b -> {
                HBox.setHgrow(b, Priority.ALWAYS);
                b.setPrefWidth(0);
                lesser.getChildren().add(b);
            });
            if (!lesser.getChildren().isEmpty()) {
                actions.getChildren().add(lesser);
            }
            next.stream()
                    .filter(ReckoningState.Action::chief)
                    .map(a -> buttons.get(a.id()))
                    .forEach(actions.getChildren()::add);
        }
        next.forEach(this::fill);
    }

    private void fill(ReckoningState.Action action) {
        Button button = buttons.get(action.id());
        button.setText(action.label());
        button.setId(action.id());
        button.setMaxWidth(Double.MAX_VALUE);
        button.setMinHeight(38);
        button.setDisable(!action.enabled());
        button.getStyleClass().remove("chief");
        if (action.chief()) {
            button.getStyleClass().add("chief");
        }
        button.setOnAction(e -> obey.accept(action.intent()));
    }

    /** Rows stay while only what they say changes: new ones cost more than a frame's time. */
    private void showRows(List<ReckoningState.Row> next) {
        while (rowsShown.size() > next.size()) {
            rowsShown.remove(rowsShown.size() - 1);
        }
        while (rowsShown.size() < next.size()) {
            rowsShown.add(new RowView());
        }
        for (int i = 0; i < next.size(); i++) {
            rowsShown.get(i).show(next.get(i));
        }
        if (rows.getChildren().size() != rowsShown.size()) {
            rows.getChildren().setAll(rowsShown);
        }
    }

    private static final class RowView extends HBox {
        private final Label name = styled(new Label(), "row-name");
        private final Label value = styled(new Label(), "row-value");

        RowView() {
            super(8);
            name.setMinWidth(Region.USE_PREF_SIZE);
            value.setWrapText(true);
            value.setTextAlignment(TextAlignment.RIGHT);
            Region gap = new Region();
            HBox.setHgrow(gap, Priority.ALWAYS);
            getChildren().addAll(name, gap, value);
            getStyleClass().add("row");
        }

        void show(ReckoningState.Row row) {
            name.setText(row.name());
            value.setText(row.value());
        }
    }

    private VBox school(ReckoningState.School school) {
        Label name = styled(new Label(school.ours() ? school.name() + " (in use)" : school.name()), "row-value");
        Label reason = styled(new Label(school.reason()), "dim");
        reason.setMinHeight(Region.USE_PREF_SIZE);
        VBox box = new VBox(2, name, reason);
        // What can be chosen looks like a card; what is only told of does not.
        box.getStyleClass().add(school.choice().isPresent() ? "school" : "school-told");
        box.pseudoClassStateChanged(OURS, school.ours());
        school.choice().filter(c -> !school.ours()).ifPresent(choice -> {
            box.getStyleClass().add("choosable");
            box.setFocusTraversable(true);
            box.setOnMouseClicked(e -> obey.accept(choice));
            box.setOnKeyPressed(e -> {
                if (e.getCode() == KeyCode.ENTER) {
                    obey.accept(choice);
                    e.consume();
                }
            });
            name.setText(school.name() + " (choose)");
        });
        return box;
    }
}
