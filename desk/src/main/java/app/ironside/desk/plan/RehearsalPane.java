package app.ironside.desk.plan;

import app.ironside.desk.parts.Plot;
import app.ironside.desk.parts.Words;
import app.ironside.document.FaultKind;
import app.ironside.document.RehearsedFault;
import app.ironside.wiring.Outcome;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The plan rehearsed at the kitchen table: what is to go wrong, and what came of it. */
final class RehearsalPane extends VBox {
    private static final int WORST_SHOWN = 30;

    private final PlanDesk plan;
    private final ComboBox<FaultKind> kind = new ComboBox<>();
    private final TextField at = new TextField("23:40");
    private final TextField minutes = new TextField();
    private final Label fault = new Label();
    private final VBox faults = new VBox(4);
    private final ProgressBar bar = new ProgressBar(0);
    private final Label step = new Label();
    private final HBox progress = new HBox(8);
    private final Label heading = new Label();
    private final Plot histogram = new Plot();
    private final ListView<String> lines = new ListView<>();
    private List<RehearsedFault> shown;

    RehearsalPane(PlanDesk plan) {
        super(8);
        this.plan = plan;
        kind.setId("fault-kind");
        kind.getItems().setAll(FaultKind.values());
        kind.setConverter(Words.naming(FaultKind::sentence));
        kind.setValue(FaultKind.DEW);
        kind.setOnAction(e -> minutes.setPromptText(usual(kind.getValue())));
        minutes.setPromptText(usual(FaultKind.DEW));
        at.setId("fault-at");
        at.setPrefColumnCount(4);
        at.setMinWidth(70);
        minutes.setId("fault-minutes");
        minutes.setPrefColumnCount(7);
        minutes.setMinWidth(100);
        minutes.setOnAction(e -> add());
        at.setOnAction(e -> add());
        Button add = new Button("Set it");
        add.setId("add-fault");
        add.setOnAction(e -> add());
        kind.setMaxWidth(Double.MAX_VALUE);
        kind.setPrefWidth(260);
        HBox.setHgrow(kind, Priority.ALWAYS);
        Label drag = whole(new Label("⠿ drag"));
        drag.setId("drag-fault");
        drag.setTooltip(new Tooltip("Drag it onto the ribbon, to the time at which it is to happen"));
        drag.setOnDragDetected(e -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(Rehearsals.DRAGGED + kind.getValue().word());
            drag.startDragAndDrop(TransferMode.COPY).setContent(content);
            e.consume();
        });
        add.setMinWidth(USE_PREF_SIZE);
        HBox row = new HBox(
                6,
                kind,
                drag,
                whole(new Label("or at")),
                at,
                whole(new Label("for")),
                minutes,
                whole(new Label("min")),
                add);
        row.setAlignment(Pos.CENTER_LEFT);
        fault.getStyleClass().add("alert-text");
        fault.setId("fault-message");
        Button cancel = new Button("Cancel");
        cancel.setId("cancel-rehearsal");
        cancel.setOnAction(e -> plan.rehearsals().cancel());
        bar.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(bar, Priority.ALWAYS);
        progress.setAlignment(Pos.CENTER_LEFT);
        progress.getChildren().addAll(step, bar, cancel);
        heading.getStyleClass().add("bench-title");
        histogram.setId("outcome");
        histogram.setMinHeight(150);
        histogram.setPrefHeight(170);
        VBox.setVgrow(histogram, Priority.ALWAYS);
        lines.setId("rehearsal-lines");
        lines.setPlaceholder(
                new Label(
                        "Rehearsed in seconds, the night tells here what went wrong; a hundred times, which nights bring least."));
        lines.setPrefHeight(180);
        lines.setMinHeight(100);
        VBox.setVgrow(lines, Priority.ALWAYS);
        Label title = new Label("What is to go wrong");
        title.getStyleClass().add("bench-title");
        getChildren().addAll(title, row, fault, faults, progress, histogram, heading, lines);
    }

    /** A label that is never cut short. */
    private static Label whole(Label label) {
        label.setMinWidth(USE_PREF_SIZE);
        return label;
    }

    private static String usual(FaultKind kind) {
        return kind.usualMinutes() == 0 ? "stays" : "usually " + kind.usualMinutes();
    }

    private void add() {
        try {
            LocalTime time = LocalTime.parse(at.getText().strip());
            Optional<Double> length = minutes.getText().isBlank()
                    ? Optional.empty()
                    : Optional.of(Double.valueOf(minutes.getText().strip().replace(',', '.')));
            RehearsedFault next = new RehearsedFault(kind.getValue(), time, length, Optional.empty());
            say("");
            plan.setFaults(all -> all.add(next));
        } catch (DateTimeException e) {
            say("\"" + at.getText() + "\" is no time of the night; write it like 23:40.");
        } catch (NumberFormatException e) {
            say("\"" + minutes.getText() + "\" is no number of minutes.");
        } catch (IllegalArgumentException e) {
            say(e.getMessage());
        }
    }

    private void say(String words) {
        fault.setText(words);
        shown(fault, !words.isEmpty());
    }

    void refresh() {
        List<RehearsedFault> now = Rehearsals.faults(plan.file());
        if (!now.equals(shown)) {
            shown = now;
            faults.getChildren().clear();
            for (int i = 0; i < now.size(); i++) {
                faults.getChildren().add(row(now.get(i), i));
            }
        }
        Rehearsals rehearsals = plan.rehearsals();
        shown(fault, !fault.getText().isEmpty() || !rehearsals.failed().isEmpty());
        shown(progress, rehearsals.isBusy());
        bar.setProgress(rehearsals.share());
        step.setText(rehearsals.step());
        if (!rehearsals.isBusy() && !rehearsals.failed().isEmpty()) {
            say(rehearsals.failed());
        }
        Optional<Rehearsals.Answer> answer = rehearsals.answer(plan.file());
        Optional<Outcome> many = answer.flatMap(Rehearsals.Answer::many);
        shown(histogram, many.isPresent());
        many.ifPresent(o -> histogram.show(RehearsalStates.histogram(o)));
        heading.setText(many.isPresent() ? "The nights with least light" : "What was told on the way");
        shown(heading, answer.isPresent());
        lines.getItems()
                .setAll(many.map(o -> RehearsalStates.worst(o, WORST_SHOWN)).orElseGet(() -> answer.flatMap(
                                Rehearsals.Answer::one)
                        .map(n -> RehearsalStates.told(n, plan.file().site().zone()))
                        .orElse(List.of())));
    }

    private HBox row(RehearsedFault set, int index) {
        Label time = new Label(set.at().toString());
        time.setMinWidth(52);
        time.getStyleClass().add("mono");
        Label words = new Label(set.kind().sentence()
                + (set.lasts().isZero() ? ", and stays" : ", for " + set.lasts().toMinutes() + " minutes"));
        Button away = new Button("Take away");
        away.setId("remove-fault-" + index);
        away.setOnAction(e -> plan.setFaults(all -> all.remove(index)));
        HBox row = new HBox(8, time, words, away);
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private static void shown(javafx.scene.Node node, boolean visible) {
        node.setVisible(visible);
        node.setManaged(visible);
    }
}
