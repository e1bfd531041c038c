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
import javafx.scene.layout.Pane;
import javafx.scene.layout.StackPane;

/** What is looked at over the desk: single frames, and the stars to go by. */
final class FilesOver implements AutoCloseable {
    private final StackPane desk;
    private final Consumer<String> say;
    private final Later<InspectPane> inspect;
    private final Later<StarsPane> stars;
    private final Later<DarkroomPane> darkroom;
    private Optional<NightFile> file = Optional.empty();

    /**
     * A pane that is made when it is wanted: hundreds of fields and buttons, styled before anybody has seen one of them, would keep the
     * window waiting at each start.
     */
    private static final class Later<P extends Pane> {
        private final StackPane room = new StackPane();
        private final Supplier<P> maker;
        private Optional<P> made = Optional.empty();

        Later(Supplier<P> maker) {
            this.maker = maker;
            room.setPickOnBounds(false);
        }

        P get() {
            if (made.isEmpty()) {
                P pane = maker.get();
                pane.setVisible(false);
                room.getChildren().add(pane);
                made = Optional.of(pane);
            }
            return made.get();
        }

        boolean isVisible() {
            return made.filter(Node::isVisible).isPresent();
        }

        void hide() {
            made.ifPresent(pane -> pane.setVisible(false));
        }
    }

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
        this.inspect = new Later<>(() -> new InspectPane(
                wiring.shelf(),
                wiring.objects(),
                wiring::names,
                kit,
                bestSize,
                this::showStars,
                this::closeInspection));
        this.stars = new Later<>(() -> {
            StarsPane pane = new StarsPane(wiring.shelf(), this::closeStars);
            file.ifPresent(pane::setFile);
            return pane;
        });
        this.darkroom = new Later<>(() -> new DarkroomPane(wiring.placer(), data, opener, this::closeDarkroom));
    }

    List<Node> nodes() {
        return List.of(darkroom.room, inspect.room, stars.room);
    }

    /** The night that is on the desk: its place and kit are hints for what is looked at. */
    void setFile(NightFile file) {
        this.file = Optional.of(file);
        stars.made.ifPresent(pane -> pane.setFile(file));
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
            stars.get().open(tables);
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
        stars.hide();
        inspect.get().setVisible(true);
        inspect.get().inspect(files);
    }

    /** Shows what lies in folders, to be judged and developed. */
    void develop(List<Path> folders) {
        closeAll();
        darkroom.get().setVisible(true);
        darkroom.get().open(folders);
    }

    /** The darkroom as it was left. */
    void showDarkroom(Optional<Path> folderOfNight) {
        closeAll();
        darkroom.get().offer(folderOfNight);
        darkroom.get().setVisible(true);
    }

    void showStars() {
        stars.get().setVisible(true);
        stars.get().refresh();
    }

    /** Whether anything lies over the desk. */
    boolean isOpen() {
        return inspect.isVisible() || stars.isVisible() || darkroom.isVisible();
    }

    /** The inspection, while it is seen. */
    Optional<Node> seenInspection() {
        return inspect.made.map(Node.class::cast).filter(Node::isVisible);
    }

    /** The uppermost goes. */
    void closeTop() {
        if (stars.isVisible()) {
            closeStars();
        } else if (inspect.isVisible()) {
            closeInspection();
        } else if (!darkroom.get().closeForm()) {
            closeDarkroom();
        }
    }

    void closeAll() {
        closeStars();
        closeInspection();
        closeDarkroom();
    }

    private void closeDarkroom() {
        darkroom.hide();
        desk.requestFocus();
    }

    private void closeInspection() {
        inspect.hide();
        desk.requestFocus();
    }

    private void closeStars() {
        stars.hide();
        desk.requestFocus();
    }

    InspectPane inspection() {
        return inspect.get();
    }

    StarsPane stars() {
        return stars.get();
    }

    DarkroomPane darkroom() {
        return darkroom.get();
    }

    @Override
    public void close() {
        inspect.made.ifPresent(InspectPane::close);
        darkroom.made.ifPresent(DarkroomPane::close);
        stars.made.ifPresent(StarsPane::close);
    }
}
