package app.ironside.desk.reckon;

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
    private final Label working = styled(new Label(), "working");
    private final Button showWorking = new Button("Show the working");
    private final VBox schools = new VBox(6);
    private final Label caution = styled(new Label(), "caution");
    private ReckoningState state;

    public ReckoningView() {
        getStyleClass().add("reckoning");
        verdict.setId("verdict");
        working.setId("working");
        showWorking.setId("show-working");
        showWorking.setMaxWidth(Double.MAX_VALUE);
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
        boolean sameActions = state != null && next.actions().equals(state.actions());
        state = next;
        verdict.setText(next.verdict());
        verdict.pseudoClassStateChanged(ALERT, next.alert());
        sentence.setText(next.sentence());
        working.setText(next.working());
        showWorking.setVisible(!next.working().isEmpty());
        showWorking.setManaged(!next.working().isEmpty());
        rows.getChildren().setAll(next.rows().stream().map(ReckoningView::row).toList());
        if (!sameActions) {
            HBox lesser = new HBox(6);
            next.actions().stream()
                    .filter(a -> !a.chief())
                    .map(ReckoningView::action)
                    .forEach(b -> {
                        HBox.setHgrow(b, Priority.ALWAYS);
                        b.setPrefWidth(0);
                        lesser.getChildren().add(b);
                    });
            actions.getChildren().clear();
            if (!lesser.getChildren().isEmpty()) {
                actions.getChildren().add(lesser);
            }
            next.actions().stream()
                    .filter(ReckoningState.Action::chief)
                    .map(ReckoningView::action)
                    .forEach(actions.getChildren()::add);
        }
        schools.getChildren().clear();
        if (!next.schools().isEmpty()) {
            schools.getChildren().add(styled(new Label("Schools"), "schools-title"));
            next.schools().forEach(s -> schools.getChildren().add(school(s)));
        }
    }

    private static HBox row(ReckoningState.Row row) {
        Label name = styled(new Label(row.name()), "row-name");
        Label value = styled(new Label(row.value()), "row-value");
        name.setMinWidth(Region.USE_PREF_SIZE);
        value.setWrapText(true);
        value.setTextAlignment(TextAlignment.RIGHT);
        Region gap = new Region();
        HBox.setHgrow(gap, Priority.ALWAYS);
        HBox box = new HBox(8, name, gap, value);
        box.getStyleClass().add("row");
        return box;
    }

    private static Button action(ReckoningState.Action action) {
        Button button = new Button(action.label());
        button.setId(action.id());
        button.setMaxWidth(Double.MAX_VALUE);
        button.setMinHeight(38);
        button.setDisable(!action.enabled());
        if (action.chief()) {
            button.getStyleClass().add("chief");
        }
        button.setOnAction(e -> action.run().run());
        return button;
    }

    private static VBox school(ReckoningState.School school) {
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
            box.setOnMouseClicked(e -> choice.run());
            box.setOnKeyPressed(e -> {
                if (e.getCode() == KeyCode.ENTER) {
                    choice.run();
                    e.consume();
                }
            });
            name.setText(school.name() + " (choose)");
        });
        return box;
    }
}
