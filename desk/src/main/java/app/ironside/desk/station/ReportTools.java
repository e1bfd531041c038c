package app.ironside.desk.station;

import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.FilePane;
import app.ironside.document.NightFile;
import app.ironside.document.NightReport;
import app.ironside.journal.NightState;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;

/** Writes the night on the desk as a report on paper. */
public final class ReportTools extends FlowPane implements AutoCloseable {
    private final BackgroundWork work = new BackgroundWork("report");
    private final Label saved = new Label();
    private Optional<NightFile> file = Optional.empty();
    private Optional<Path> folder = Optional.empty();
    private NightState night = NightState.EMPTY;

    ReportTools() {
        super(6, 6);
        setId("report-tools");
        setAlignment(Pos.CENTER_LEFT);
        for (String format : List.of("pdf", "html")) {
            Button button = new Button("Report as " + format.toUpperCase(Locale.ROOT) + "…");
            button.setId("report-" + format);
            button.setTooltip(
                    new Tooltip("What was kept, how the subs went, what went wrong, and what to do next time"));
            button.setOnAction(e -> choose(format));
            getChildren().add(button);
        }
        saved.getStyleClass().add("dim");
        saved.setId("report-saved");
        saved.setWrapText(true);
        getChildren().add(saved);
    }

    void setFile(NightFile shown) {
        file = Optional.of(shown);
    }

    /**
     * The night to report.
     *
     * @param itsFolder where its stacks lie; empty for a night that is only planned
     */
    void show(NightState shown, Optional<Path> itsFolder) {
        night = shown;
        folder = itsFolder;
        setDisable(file.isEmpty() || !night.started());
    }

    private void choose(String format) {
        String name = "night-" + file.orElseThrow().program().date() + "-report." + format;
        FilePane.ask(
                this,
                FilePane.Ask.save("Save the night's report", name, Optional.empty()),
                files -> save(files.get(0)));
    }

    /** Writes the report; says where it is, or why not. */
    public void save(Path to) {
        NightFile of = file.orElseThrow();
        NightState told = night;
        Optional<Path> stacks = folder;
        saved.setText("Writing " + to.getFileName() + "…");
        work.ask(progress -> {
                    NightReport.of(of, told, stacks).write(to);
                    return to;
                })
                .failed(why -> saved.setText("Not saved: " + why))
                .then(done -> saved.setText("Saved: " + done.getFileName()));
    }

    @Override
    public void close() {
        work.close();
    }
}
