package app.ironside.desk.station;

import app.ironside.FileNames;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.desk.parts.FilePane;
import app.ironside.document.NightFile;
import app.ironside.document.NightReport;
import app.ironside.document.Project;
import app.ironside.document.ProjectReport;
import app.ironside.journal.NightState;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.FlowPane;

/** Writes what is shown as a report on paper. */
public abstract class ReportTools extends FlowPane implements AutoCloseable {
    private final BackgroundWork work = new BackgroundWork("report");
    private final Label saved = new Label();

    /**
     * @param id begins the ids of its parts
     * @param what the report tells
     */
    private ReportTools(String id, String what) {
        super(6, 6);
        setId(id + "-tools");
        setAlignment(Pos.CENTER_LEFT);
        for (String format : List.of("pdf", "html")) {
            Button button = new Button("Report as " + format.toUpperCase(Locale.ROOT) + "…");
            button.setId(id + "-" + format);
            button.setTooltip(new Tooltip(what));
            button.setOnAction(e -> FilePane.ask(
                    this,
                    FilePane.Ask.save("Save the report", name() + "." + format, Optional.empty()),
                    files -> save(files.get(0))));
            getChildren().add(button);
        }
        saved.getStyleClass().add("dim");
        saved.setId(id + "-saved");
        saved.setWrapText(true);
        getChildren().add(saved);
        setDisable(true);
    }

    /** What a file of it is called, without its kind. */
    abstract String name();

    /** Writes what is shown now to a file. */
    abstract Consumer<Path> report();

    /** Writes the report; says where it is, or why not. */
    public void save(Path to) {
        Consumer<Path> shown = report();
        saved.setText("Writing " + to.getFileName() + "…");
        work.ask(progress -> {
                    shown.accept(to);
                    return to;
                })
                .failed(why -> saved.setText("Not saved: " + why))
                .then(done -> saved.setText("Saved: " + done.getFileName()));
    }

    /** Whether nothing is being written. */
    boolean isReady() {
        return work.isIdle();
    }

    @Override
    public void close() {
        work.close();
    }

    /** Of the night on the desk. */
    static final class OfNight extends ReportTools {
        private Optional<NightFile> file = Optional.empty();
        private Optional<Path> folder = Optional.empty();
        private NightState night = NightState.EMPTY;

        OfNight() {
            super("report", "What was kept, how the subs went, what went wrong, and what to do next time");
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

        @Override
        String name() {
            return "night-" + file.orElseThrow().program().date() + "-report";
        }

        @Override
        Consumer<Path> report() {
            NightFile of = file.orElseThrow();
            NightState told = night;
            Optional<Path> stacks = folder;
            return to -> NightReport.of(of, told, stacks).write(to);
        }
    }

    /** Of a picture that takes many nights. */
    static final class OfProject extends ReportTools {
        private Optional<Project> project = Optional.empty();

        OfProject() {
            super("project", "What was kept of what is wanted, what each night gave and lost, and what is to be done");
        }

        void show(Project shown) {
            project = Optional.of(shown);
            setDisable(false);
        }

        @Override
        String name() {
            return FileNames.plain(project.orElseThrow().of().target(), "-") + "-report";
        }

        @Override
        Consumer<Path> report() {
            return new ProjectReport(project.orElseThrow())::write;
        }
    }
}
