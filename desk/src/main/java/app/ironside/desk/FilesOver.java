package app.ironside.desk;

import app.ironside.desk.inspect.InspectPane;
import app.ironside.desk.inspect.StarsPane;
import app.ironside.document.NightFile;
import app.ironside.image.FrameFiles;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** What is looked at over the desk: single frames, and the stars to go by. */
final class FilesOver implements AutoCloseable {
    private final StackPane desk;
    private final Consumer<String> say;
    private final InspectPane inspect;
    private final StarsPane stars;

    /**
     * @param desk over which they lie, and which has the keys when they go
     */
    FilesOver(StackPane desk, Wiring wiring, Consumer<String> say) {
        this.desk = desk;
        this.say = say;
        this.inspect = new InspectPane(wiring.shelf(), wiring.objects(), this::showStars, this::closeInspection);
        this.stars = new StarsPane(wiring.shelf(), this::closeStars);
        inspect.setVisible(false);
        stars.setVisible(false);
    }

    List<Node> nodes() {
        return List.of(inspect, stars);
    }

    /** The night that is on the desk: its place and kit are hints for what is looked at. */
    void setFile(NightFile file) {
        stars.setFile(file);
    }

    /** Takes all files that can be looked at: frames to step through, tables one after the other. Says which it cannot take. */
    boolean take(List<Path> files) {
        List<Path> frames = files.stream()
                .filter(f -> FrameFiles.isPicture(f.getFileName().toString()))
                .toList();
        List<Path> tables = files.stream()
                .filter(f -> StarsPane.isTable(f.getFileName().toString()))
                .toList();
        List<String> others = files.stream()
                .filter(f -> !frames.contains(f) && !tables.contains(f))
                .map(f -> f.getFileName().toString())
                .toList();
        if (!tables.isEmpty()) {
            showStars();
            stars.open(tables);
        }
        if (!frames.isEmpty()) {
            inspect(frames);
        }
        say.accept(
                others.isEmpty()
                        ? ""
                        : String.join(", ", others) + (others.size() == 1 ? " is" : " are")
                                + " neither a FITS, TIFF or JPEG image nor a table of stars, and not taken.");
        return !frames.isEmpty() || !tables.isEmpty();
    }

    /** Measures and solves files, and shows them over the desk; tables that wait to be imported wait on. */
    void inspect(List<Path> files) {
        stars.setVisible(false);
        inspect.setVisible(true);
        inspect.inspect(files);
    }

    void showStars() {
        stars.setVisible(true);
        stars.refresh();
    }

    /** Whether anything lies over the desk. */
    boolean isOpen() {
        return inspect.isVisible() || stars.isVisible();
    }

    /** The inspection, while it is seen. */
    Optional<Node> seenInspection() {
        return inspect.isVisible() ? Optional.of(inspect) : Optional.empty();
    }

    /** The uppermost goes. */
    void closeTop() {
        if (stars.isVisible()) {
            closeStars();
        } else {
            closeInspection();
        }
    }

    void closeAll() {
        closeStars();
        closeInspection();
    }

    private void closeInspection() {
        inspect.setVisible(false);
        desk.requestFocus();
    }

    private void closeStars() {
        stars.setVisible(false);
        desk.requestFocus();
    }

    InspectPane inspection() {
        return inspect;
    }

    StarsPane stars() {
        return stars;
    }

    @Override
    public void close() {
        inspect.close();
        stars.close();
    }
}
