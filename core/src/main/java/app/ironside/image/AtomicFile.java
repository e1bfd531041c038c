package app.ironside.image;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

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

    private AtomicFile() {}

    /**
     * @throws UncheckedIOException if the disk refuses; the message names the file and the unfinished neighbour is removed
     */
    public static void write(Path file, Content content) {
        Path part = file.resolveSibling(file.getFileName() + UNFINISHED);
        try {
            try (FileChannel channel = FileChannel.open(
                    part, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE)) {
                OutputStream out = new BufferedOutputStream(Channels.newOutputStream(channel), 1 << 20);
                content.writeTo(out);
                out.flush();
                channel.force(true);
            }
            Files.move(part, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (IOException e) {
            removeQuietly(part, e);
            throw new UncheckedIOException(
                    file + " could not be written (" + e.getMessage() + "); is the disk full or write-protected?", e);
        } catch (RuntimeException e) {
            removeQuietly(part, e);
            throw e;
        }
    }

    private static void removeQuietly(Path part, Exception cause) {
        try {
            Files.deleteIfExists(part);
        } catch (IOException e) {
            cause.addSuppressed(e); // the first failure is the one to tell
        }
    }
}
