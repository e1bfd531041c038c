package app.ironside.desk;

import app.ironside.desk.darkroom.DarkroomPane;
import app.ironside.desk.inspect.InspectPane;
import app.ironside.desk.inspect.StarsPane;
import app.ironside.document.NightFile;
import app.ironside.image.FrameFiles;
import app.ironside.kit.Kit;
import app.ironside.logbook.SharpStars;
import app.ironside.wiring.Wiring;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** What is looked at over the desk: single frames, and the stars to go by. */
final class FilesOver implements AutoCloseable {
    private final StackPane desk;
    private final Consumer<String> say;
    private final InspectPane inspect;
    private final StarsPane stars;
    private final DarkroomPane darkroom;

    /**
     * @param desk over which they lie, and which has the keys when they go
     * @param kit of the plan
     * @param bestSize the smallest stars of a kit's own record
     * @param data the user's folder
     * @param opener opens a folder as the system does
     */
    FilesOver(
            StackPane desk,
            Wiring wiring,
            Supplier<Kit> kit,
            Function<String, SharpStars> bestSize,
            Consumer<String> say,
            Path data,
            Consumer<Path> opener) {
        this.desk = desk;
        this.say = say;
        this.inspect = new InspectPane(
                wiring.shelf(), wiring.objects(), wiring::names, kit, bestSize, this::showStars, this::closeInspection);
        this.stars = new StarsPane(wiring.shelf(), this::closeStars);
        this.darkroom = new DarkroomPane(wiring.placer(), data, opener, this::closeDarkroom);
        inspect.setVisible(false);
        stars.setVisible(false);
        darkroom.setVisible(false);
    }

    List<Node> nodes() {
        return List.of(darkroom, inspect, stars);
    }

    /** The night that is on the desk: its place and kit are hints for what is looked at. */
    void setFile(NightFile file) {
        stars.setFile(file);
    }

    /** Takes folders to be developed, or all files that can be looked at: frames to step through, tables one after the other. Says which it cannot take. */
    boolean take(List<Path> files) {
        List<Path> folders = files.stream().filter(Files::isDirectory).toList();
        if (!folders.isEmpty()) {
            develop(folders);
            say.accept(
                    folders.size() == files.size()
                            ? ""
                            : "The folders are taken; single files are dropped apart from them.");
            return true;
        }
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

    /** Shows what lies in folders, to be judged and developed. */
    void develop(List<Path> folders) {
        closeAll();
        darkroom.setVisible(true);
        darkroom.open(folders);
    }

    /** The darkroom as it was left. */
    void showDarkroom(Optional<Path> folderOfNight) {
        closeAll();
        darkroom.offer(folderOfNight);
        darkroom.setVisible(true);
    }

    void showStars() {
        stars.setVisible(true);
        stars.refresh();
    }

    /** Whether anything lies over the desk. */
    boolean isOpen() {
        return inspect.isVisible() || stars.isVisible() || darkroom.isVisible();
    }

    /** The inspection, while it is seen. */
    Optional<Node> seenInspection() {
        return inspect.isVisible() ? Optional.of(inspect) : Optional.empty();
    }

    /** The uppermost goes. */
    void closeTop() {
        if (stars.isVisible()) {
            closeStars();
        } else if (inspect.isVisible()) {
            closeInspection();
        } else if (!darkroom.closeForm()) {
            closeDarkroom();
        }
    }

    void closeAll() {
        closeStars();
        closeInspection();
        closeDarkroom();
    }

    private void closeDarkroom() {
        darkroom.setVisible(false);
        desk.requestFocus();
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

    DarkroomPane darkroom() {
        return darkroom;
    }

    @Override
    public void close() {
        inspect.close();
        darkroom.close();
        stars.close();
    }
}
