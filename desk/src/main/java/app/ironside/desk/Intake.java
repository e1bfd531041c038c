package app.ironside.desk;

import app.ironside.desk.inspect.StarsPane;
import app.ironside.desk.parts.FilePane;
import app.ironside.image.FrameFiles;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.input.TransferMode;

/** The ways by which files come onto the desk: dropped anywhere on it, or chosen. */
final class Intake {
    /** Who takes them. */
    interface Taker {
        /** Takes what it can; false if that is nothing. */
        boolean take(List<Path> files);
    }

    private final Taker taker;

    Intake(Taker taker) {
        this.taker = taker;
    }

    /** A frame or picture dropped anywhere is looked at, a table of stars is offered for import, a folder is developed. */
    void attach(Node desk) {
        desk.setOnDragOver(e -> {
            if (e.getDragboard().hasFiles()
                    && e.getDragboard().getFiles().stream()
                            .anyMatch(f -> f.isDirectory()
                                    || FrameFiles.isPicture(f.getName())
                                    || StarsPane.isTable(f.getName()))) {
                e.acceptTransferModes(TransferMode.COPY);
                e.consume();
            }
        });
        desk.setOnDragDropped(e -> {
            e.setDropCompleted(taker.take(
                    e.getDragboard().getFiles().stream().map(File::toPath).toList()));
            e.consume();
        });
    }

    /** Has the person choose frames. */
    static void choose(Node desk, Consumer<List<Path>> then) {
        FilePane.ask(
                desk,
                FilePane.Ask.open(
                        FilePane.Kind.OPEN_MANY,
                        "A frame to look at",
                        ".fits",
                        ".fit",
                        ".fts",
                        ".fits.gz",
                        ".fit.gz",
                        ".tif",
                        ".tiff",
                        ".jpg",
                        ".jpeg"),
                then);
    }
}
