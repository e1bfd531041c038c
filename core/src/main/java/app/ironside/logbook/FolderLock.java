package app.ironside.logbook;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Optional;

/**
 * Keeps a data folder to one process: two would write one night's journal. The operating system lets go of it when the process ends,
 * however it ends.
 */
public final class FolderLock implements AutoCloseable {
    /** What is locked; it holds nothing. */
    static final String FILE = "in-use";

    private final FileChannel channel;
    private final FileLock lock;

    private final Path folder;

    private FolderLock(Path folder, FileChannel channel, FileLock lock) {
        this.folder = folder;
        this.channel = channel;
        this.lock = lock;
    }

    /**
     * Takes a folder; empty if another has it.
     *
     * @throws UncheckedIOException if the folder cannot be written to
     */
    public static Optional<FolderLock> take(Path folder) {
        try {
            Files.createDirectories(folder);
            FileChannel channel =
                    FileChannel.open(folder.resolve(FILE), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
            FileLock lock = tryLock(channel);
            if (lock == null) {
                channel.close();
                return Optional.empty();
            }
            return Optional.of(new FolderLock(folder, channel, lock));
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be used: " + e.getMessage(), e);
        }
    }

    private static FileLock tryLock(FileChannel channel) throws IOException {
        try {
            return channel.tryLock();
        } catch (OverlappingFileLockException e) {
            return null; // this very process has it
        }
    }

    /** The folder that is kept. */
    public Path folder() {
        return folder;
    }

    @Override
    public void close() {
        try {
            lock.release();
            channel.close();
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " could not be let go", e);
        }
    }
}
