package app.ironside.logbook;

import app.ironside.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A backup taken back into a folder that holds data and is in use: it is unpacked and proven beside it, and takes its place at the next start, before
 * anything is opened. What was there is set aside, whole.
 */
public final class TakingBack {
    private static final DateTimeFormatter NAMED =
            DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss").withZone(ZoneOffset.UTC);

    private final Path folder;
    private final Path waiting;

    /** @param folder of the data in use */
    public TakingBack(Path folder) {
        this.folder = folder.toAbsolutePath().normalize();
        this.waiting = this.folder.resolveSibling(this.folder.getFileName() + ".at-next-start");
    }

    /**
     * Unpacks and proves a backup, in place of one that waits already. A refused one changes nothing but that.
     *
     * @throws app.ironside.BadInputException naming the backup
     */
    public Backup.Told prepare(Path zip, Progress progress) {
        withdraw();
        return Backup.restore(zip, waiting, progress);
    }

    /** Whether one waits for the next start. */
    public boolean waits() {
        return Files.isRegularFile(waiting.resolve(Logbook.FILE));
    }

    /** The data that is there stays. */
    public void withdraw() {
        Backup.delete(waiting);
    }

    /**
     * Puts the backup in its place; nobody may have the folder open. A power cut in the middle leaves both, and the next start goes on.
     *
     * @return where what was there lies now; empty where no backup waits, or nothing was there but the mark of whoever has it
     * @throws UncheckedIOException if the folders cannot be renamed; both are as they were
     */
    public Optional<Path> takeOver(Clock clock) {
        if (!waits()) {
            return Optional.empty();
        }
        Path aside = folder.resolveSibling(folder.getFileName() + ".before-" + NAMED.format(clock.instant()));
        try {
            boolean held = holdsAnything();
            if (held) {
                Files.move(folder, aside, StandardCopyOption.ATOMIC_MOVE);
            } else {
                Backup.delete(folder);
            }
            try {
                Files.move(waiting, folder, StandardCopyOption.ATOMIC_MOVE);
            } catch (IOException e) {
                if (held) {
                    Files.move(aside, folder, StandardCopyOption.ATOMIC_MOVE);
                }
                throw e;
            }
            return held ? Optional.of(aside) : Optional.empty();
        } catch (IOException e) {
            throw new UncheckedIOException(
                    "the backup in " + waiting + " could not take the place of " + folder + ": " + e.getMessage(), e);
        }
    }

    private boolean holdsAnything() throws IOException {
        if (!Files.exists(folder)) {
            return false;
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.anyMatch(f -> !f.getFileName().toString().equals(FolderLock.FILE));
        }
    }
}
