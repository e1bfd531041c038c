package app.ironside.desk.inspect;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Notices each new frame in a folder, wherever a camera's own software puts them. Asked again and again; a file counts when it has not
 * changed between two questions, so that none is read half-written.
 */
public final class FolderWatch {
    private final Path folder;
    private Optional<Path> told;
    private Optional<Path> growing = Optional.empty();
    private FileTime grown = FileTime.fromMillis(0);

    /** What is there already does not count as new. */
    public FolderWatch(Path folder) {
        this.folder = folder;
        this.told = newest();
    }

    /** A frame that came since it was last asked; empty if there is none, or it is still being written. */
    public Optional<Path> next() {
        Optional<Path> file = newest();
        if (file.isEmpty() || file.equals(told)) {
            return Optional.empty();
        }
        FileTime now = modified(file.get());
        boolean still = file.equals(growing) && now.equals(grown);
        growing = file;
        grown = now;
        if (still) {
            told = file;
            return file;
        }
        return Optional.empty();
    }

    private Optional<Path> newest() {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(f ->
                            f.getFileName().toString().toLowerCase(Locale.ROOT).matches(".*\\.(fits?|fts)"))
                    .max(Comparator.comparing(FolderWatch::modified).thenComparing(Path::toString));
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be looked into", e);
        }
    }

    private static FileTime modified(Path file) {
        try {
            return Files.getLastModifiedTime(file);
        } catch (IOException e) {
            return FileTime.fromMillis(0);
        }
    }
}
