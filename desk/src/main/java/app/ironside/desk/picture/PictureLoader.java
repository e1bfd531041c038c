package app.ironside.desk.picture;

import app.ironside.BadInputException;
import app.ironside.desk.parts.BackgroundWork;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.star.Star;
import app.ironside.star.StarTable;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** Gets one picture ready at a time, away from the interface thread; the answer to an older wish is dropped. */
public final class PictureLoader implements AutoCloseable {
    private final BackgroundWork work = new BackgroundWork("pictures");
    private final Runnable onReady;
    private String wanted = "";
    private String answered = "";
    private String fault = "";
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
        fault = "";
        picture = Optional.empty();
    }

    /** Wants a frame that is in memory. */
    public void show(Shown shown) {
        make(shown.key(), () -> Optional.of(PictureLevels.of(shown)));
    }

    /** Makes a frame that is not on the disk; empty if it cannot. */
    @FunctionalInterface
    public interface Maker {
        Optional<Frame> frame() throws InterruptedException;
    }

    /**
     * Wants a frame from the disk.
     *
     * @param otherwise asked for a likeness where the file is not there
     */
    public void load(Path file, String caption, Maker otherwise) {
        String key = "file " + file;
        make(key, () -> {
            if (Files.exists(file)) {
                return Optional.of(
                        PictureLevels.of(new Shown(key, caption, FrameFiles.readPicture(file), marks(file))));
            }
            Optional<Frame> likeness = otherwise.frame();
            if (likeness.isEmpty()) {
                throw new BadInputException(file.toString(), "is not on the disk", "it where the night left it");
            }
            return likeness.map(frame -> PictureLevels.of(
                    new Shown(key, caption + "   Drawn again; its file is not on the disk.", frame, List.of())));
        });
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

    private void make(String key, Made maker) {
        if (key.equals(wanted)) {
            return;
        }
        wanted = key;
        fault = "";
        work.ask(progress -> maker.levels())
                .onlyNewest()
                .failed(why -> answer(key, Optional.empty(), why))
                .then(made -> answer(key, made, ""));
    }

    private void answer(String key, Optional<PictureLevels> made, String why) {
        if (key.equals(wanted)) {
            picture = made;
            answered = key;
            fault = why;
            onReady.run();
        }
    }

    /** Gets a picture ready. */
    @FunctionalInterface
    private interface Made {
        Optional<PictureLevels> levels() throws InterruptedException;
    }

    /** Why the picture wanted last cannot be shown, in a sentence; empty if it can, or is being made. */
    public String fault() {
        return fault;
    }

    @Override
    public void close() {
        work.close();
    }
}
