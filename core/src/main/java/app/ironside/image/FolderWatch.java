package app.ironside.image;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Notices each new frame in a folder, wherever a camera's own software puts them. Asked again and again; a file counts when it has not
 * changed between two questions, so that none is read half-written.
 */
public final class FolderWatch {
    private final Path folder;

    /** What was told, or was there before. */
    private final Set<Path> told = new HashSet<>();

    /** What was seen last time and not told yet, with when it was changed. */
    private Map<Path, FileTime> growing = Map.of();

    /** What is there already does not count as new. */
    public FolderWatch(Path folder) {
        this.folder = folder;
        told.addAll(frames());
    }

    /** The frames that came since it was last asked, oldest first, without those that are still being written. */
    public List<Path> next() {
        Map<Path, FileTime> seen = new HashMap<>();
        List<Path> whole = new ArrayList<>();
        for (Path file : frames()) {
            if (told.contains(file)) {
                continue;
            }
            FileTime now = modified(file);
            if (now.equals(growing.get(file))) {
                whole.add(file);
            } else {
                seen.put(file, now);
            }
        }
        growing = seen;
        told.addAll(whole);
        whole.sort(Comparator.comparing(FolderWatch::modified).thenComparing(Path::toString));
        return whole;
    }

    private List<Path> frames() {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(f -> isFrame(f.getFileName().toString())).toList();
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be looked into", e);
        }
    }

    /** Whether a file, by its name, is a FITS image. */
    public static boolean isFrame(String name) {
        return name.toLowerCase(Locale.ROOT).matches(".*\\.(fits?|fts)(\\.gz)?");
    }

    private static FileTime modified(Path file) {
        try {
            return Files.getLastModifiedTime(file);
        } catch (IOException e) {
            return FileTime.fromMillis(0);
        }
    }
}
