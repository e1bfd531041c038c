package app.ironside.image;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.Channels;
import java.nio.channels.ClosedByInterruptException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Writes a file so that it appears whole or not at all: to a neighbour with the ending {@value #UNFINISHED}, forced to the
 * disk, then renamed over. What a power cut leaves is at most such a neighbour, which may be deleted.
 */
public final class AtomicFile {
    /** The ending of a file that is still being written. */
    public static final String UNFINISHED = ".part";

    /** Writes a file's content. */
    @FunctionalInterface
    public interface Content {
        void writeTo(OutputStream out) throws IOException;
    }

    /** What is being written at this moment, for whoever has to end the process. */
    private static final Set<Path> OPEN = ConcurrentHashMap.newKeySet();

    private static volatile boolean ending;

    private AtomicFile() {}

    /** Removes what is half-written, and lets nothing more be begun: for the hook that runs when the process is told to end. */
    public static void endOfProcess() {
        ending = true;
        for (Path part : OPEN) {
            try {
                Files.deleteIfExists(part);
            } catch (IOException e) {
                continue; // the process ends; the next start removes it
            }
        }
    }

    /**
     * @throws UncheckedIOException if the disk refuses or the thread is interrupted; the message names the file and the unfinished neighbour is removed
     */
    public static void write(Path file, Content content) {
        Path part = file.resolveSibling(file.getFileName() + UNFINISHED);
        OPEN.add(part);
        try {
            if (ending) {
                throw new IOException("the process is ending");
            }
            try (FileChannel channel = FileChannel.open(
                    part, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
                OutputStream out = new BufferedOutputStream(Channels.newOutputStream(channel), 1 << 20);
                content.writeTo(out);
                out.flush();
                channel.force(true);
            }
            Files.move(part, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (ClosedByInterruptException e) {
            removeQuietly(part, e);
            throw new UncheckedIOException(file + " was not written: the work was stopped", e);
        } catch (IOException e) {
            removeQuietly(part, e);
            throw new UncheckedIOException(
                    file + " could not be written (" + e.getMessage() + "); is the disk full or write-protected?", e);
        } catch (RuntimeException | Error e) {
            removeQuietly(part, e);
            throw e;
        } finally {
            OPEN.remove(part);
        }
    }

    private static void removeQuietly(Path part, Throwable cause) {
        try {
            Files.deleteIfExists(part);
        } catch (IOException e) {
            cause.addSuppressed(e); // the first failure is the one to tell
        }
    }
}
