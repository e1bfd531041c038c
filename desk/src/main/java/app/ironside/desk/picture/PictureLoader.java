package app.ironside.desk.picture;

import app.ironside.BadInputException;
import app.ironside.image.FitsFiles;
import app.ironside.star.Star;
import app.ironside.star.StarTable;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Supplier;
import javafx.application.Platform;

/** Gets one picture ready at a time, away from the interface thread; the answer to an older wish is dropped. */
public final class PictureLoader implements AutoCloseable {
    private final ExecutorService work = Executors.newSingleThreadExecutor(r -> {
        Thread thread = new Thread(r, "pictures");
        thread.setDaemon(true);
        return thread;
    });
    private final Runnable onReady;
    private String wanted = "";
    private String answered = "";
    private Optional<PictureLevels> picture = Optional.empty();

    /**
     * @param onReady called on the interface thread when the picture that was wanted is there
     */
    public PictureLoader(Runnable onReady) {
        this.onReady = onReady;
    }

    /** The picture wanted last, or the one before while it is being made. */
    public Optional<PictureLevels> picture() {
        return picture;
    }

    /** Whether the picture wanted last is there, or has turned out unreadable. */
    public boolean isReady() {
        return wanted.isEmpty() || wanted.equals(answered);
    }

    /** No picture is wanted. */
    public void clear() {
        wanted = "";
        answered = "";
        picture = Optional.empty();
    }

    /** Wants a frame that is in memory. */
    public void show(Shown shown) {
        make(shown.key(), () -> PictureLevels.of(shown));
    }

    /** Wants a frame from the disk; if it is not kept there, none. */
    public void load(Path file, String caption) {
        if (!Files.exists(file)) {
            clear();
            return;
        }
        String key = "file " + file;
        make(key, () -> PictureLevels.of(new Shown(key, caption, FitsFiles.read(file), marks(file))));
    }

    /** The brightest of the stars that are kept beside a frame, as a live frame marks them; a table that is damaged hides no picture. */
    private static List<Star> marks(Path file) {
        try {
            List<Star> kept = StarTable.kept(file).orElse(List.of());
            return kept.subList(0, Math.min(Shown.MARKED_STARS, kept.size()));
        } catch (BadInputException e) {
            return List.of();
        }
    }

    private void make(String key, Supplier<PictureLevels> maker) {
        if (key.equals(wanted)) {
            return;
        }
        wanted = key;
        work.execute(() -> {
            Optional<PictureLevels> made = attempt(maker);
            Platform.runLater(() -> {
                if (key.equals(wanted)) {
                    picture = made;
                    answered = key;
                    onReady.run();
                }
            });
        });
    }

    /** A file that cannot be read shows as no picture; what is wrong with it is said where it is used. */
    private static Optional<PictureLevels> attempt(Supplier<PictureLevels> maker) {
        try {
            return Optional.of(maker.get());
        } catch (BadInputException e) {
            return Optional.empty();
        }
    }

    @Override
    public void close() {
        work.shutdownNow();
    }
}
