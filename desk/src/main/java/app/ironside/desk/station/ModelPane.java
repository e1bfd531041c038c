package app.ironside.desk.station;

import app.ironside.BadInputException;
import app.ironside.desk.parts.Chore;
import app.ironside.desk.parts.Words;
import app.ironside.document.NightFile;
import app.ironside.point.ModelRun;
import app.ironside.point.ModelShelf;
import app.ironside.point.PointingModel;
import app.ironside.point.PointingModel.Fitted;
import app.ironside.point.PointingModel.NotFitted;
import app.ironside.point.PointingModel.Term;
import app.ironside.sky.Sexagesimal;
import app.ironside.wiring.Wiring;
import java.io.UncheckedIOException;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Spinner;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The pointing model of a permanent mount: points taken over the sky, the terms they prove, and what the model is worth. */
public final class ModelPane extends VBox implements AutoCloseable {
    private static final int USUAL_POINTS = 20;

    private final Wiring wiring;
    private final ModelShelf models;
    private final Label verdict = new Label();
    private final Label sentence = new Label();
    private final GridPane table = new GridPane();
    private final VBox failures = new VBox(4);
    private final Spinner<Integer> points = new Spinner<>(8, 120, USUAL_POINTS, 4);
    private final Button take = new Button("Take the points");
    private final Button clear = new Button("Clear the model");
    private final Chore chore;
    private Optional<NightFile> file = Optional.empty();

    public ModelPane(Wiring wiring, ModelShelf models) {
        super(10);
        this.wiring = wiring;
        this.models = models;
        getStyleClass().add("table");
        verdict.getStyleClass().add("verdict");
        verdict.setId("model-verdict");
        sentence.getStyleClass().add("sentence");
        sentence.setWrapText(true);
        sentence.setId("model-sentence");
        table.setHgap(24);
        table.setVgap(5);
        take.setId("take-points");
        take.getStyleClass().add("chief");
        take.setOnAction(e -> takePoints());
        clear.setId("clear-model");
        clear.setOnAction(e -> clearModel());
        points.setId("model-points");
        points.setPrefWidth(86);
        chore = new Chore("model", this::busy, sentence::setText);
        HBox.setHgrow(chore, Priority.ALWAYS);
        HBox tools = new HBox(8, new Label("points"), points, take, chore, clear);
        tools.setAlignment(Pos.CENTER_LEFT);
        ScrollPane scroll = new ScrollPane(new VBox(10, table, failures));
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(verdict, sentence, scroll, tools);
    }

    /** The night whose mount is meant. */
    public void setFile(NightFile night) {
        file = Optional.of(night);
        show();
    }

    private void show() {
        failures.getChildren().clear();
        table.getChildren().clear();
        try {
            Optional<PointingModel> model = models.of(kit());
            clear.setDisable(model.isEmpty());
            if (model.isPresent()) {
                show(model.get());
                return;
            }
            verdict.setText("No model yet.");
            sentence.setText(
                    "For a mount that stays where it is: points over the whole sky are solved, and the model then takes out what the"
                            + " mount does wrong everywhere in the same way; the nights of this kit are pointed by it until a frame"
                            + " contradicts it. A portable mount needs none: each target is solved anyway. Here they are taken with the"
                            + " simulated observatory, and the model serves rehearsals only.");
        } catch (UncheckedIOException | BadInputException e) {
            clear.setDisable(false);
            verdict.setText("The saved model cannot be read.");
            sentence.setText(e.getMessage() + " Clear it and take new points.");
        }
    }

    private String kit() {
        return file.orElseThrow().kit().name();
    }

    private void show(PointingModel model) {
        verdict.setText(Words.format("%.0f″ instead of %.0f″.", model.rmsUnseenArcsec(), model.rmsBeforeArcsec()));
        sentence.setText(Words.format(
                "Expected error at a place that was not measured, by leaving each of the %d points out in turn; %.0f″ at those that were. Made %s, with the simulated observatory: it points rehearsals, never a real mount.",
                model.points(),
                model.rmsAfterArcsec(),
                Words.clock(model.made(), file.orElseThrow().site().zone()) + " on "
                        + model.made().atZone(file.orElseThrow().site().zone()).toLocalDate()));
        String[] heads = {"what the mount does", "arcseconds", "±", "times its error"};
        for (int c = 0; c < heads.length; c++) {
            Label head = new Label(heads[c]);
            head.getStyleClass().add("dim");
            table.add(head, c, 0);
        }
        int row = 1;
        for (Term t : model.terms()) {
            table.add(new Label(t.kind().words()), 0, row);
            Label value = new Label(Words.format("%+.1f", t.arcsec()));
            value.getStyleClass().add("row-value");
            table.add(value, 1, row);
            table.add(new Label(Words.format("%.1f", t.sigmaArcsec())), 2, row);
            table.add(new Label(Words.format("%.0f", t.significance())), 3, row);
            row++;
        }
    }

    private void takePoints() {
        NightFile night = file.orElseThrow();
        int count = points.getValue();
        chore.begin(
                progress -> {
                    Wiring.ModelAnswer answer = wiring.rehearseModel(night, count, progress);
                    return () -> done(night, answer);
                },
                this::show,
                why -> {
                    show();
                    sentence.setText("This could not be done: " + why);
                });
    }

    private void done(NightFile night, Wiring.ModelAnswer answer) {
        if (answer.result() instanceof Fitted fitted) {
            models.keep(night.kit().name(), fitted.model());
            show();
        } else {
            show();
            verdict.setText("No model could be fitted.");
            sentence.setText(((NotFitted) answer.result()).reason());
        }
        for (ModelRun.Failure failure : answer.failures()) {
            Label line = new Label(Sexagesimal.text(
                            failure.place().place().raDeg(),
                            failure.place().place().decDeg()) + "   " + failure.reason());
            line.setWrapText(true);
            line.getStyleClass().add("dim");
            failures.getChildren().add(line);
        }
    }

    private void clearModel() {
        models.clear(kit());
        show();
    }

    private void busy(boolean now) {
        take.setDisable(now);
        clear.setDisable(now);
    }

    @Override
    public void close() {
        chore.close();
    }
}
