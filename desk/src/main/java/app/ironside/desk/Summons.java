package app.ironside.desk;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/**
 * How a second start asks the Ironside that has the data folder to show its window: by a file that the first one takes away. A night may
 * go on without a window, and is joined again like this.
 */
final class Summons {
    private static final String FILE = "show-window";
    private static final long PATIENCE_MILLIS = 4000;
    private static final long LOOK_MILLIS = 100;

    private final Path file;

    Summons(Path folder) {
        this.file = folder.resolve(FILE);
    }

    /** Asks, and waits a little; returns whether the other one has answered. */
    boolean ask() throws InterruptedException {
        try {
            Files.writeString(file, "");
        } catch (IOException e) {
            throw new UncheckedIOException(file + " could not be written", e);
        }
        for (long waited = 0; waited < PATIENCE_MILLIS; waited += LOOK_MILLIS) {
            if (!Files.exists(file)) {
                return true;
            }
            TimeUnit.MILLISECONDS.sleep(LOOK_MILLIS);
        }
        take();
        return false;
    }

    /** Whether somebody asks; a question is answered once. */
    boolean take() {
        try {
            return Files.deleteIfExists(file);
        } catch (IOException e) {
            return false; // asked again at the next look
        }
    }
}
