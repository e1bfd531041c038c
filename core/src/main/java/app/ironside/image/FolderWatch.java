package app.ironside.image;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * Notices each new frame in a folder and in the folders in it, wherever a camera's own software puts them. Asked again and again; a file
 * counts when it has not changed between two questions, so that none is read half-written. One that is changed after it was told of
 * counts anew.
 */
public final class FolderWatch {
    /** Programs put frames below the folder by night, object and filter; what lies deeper is somebody's archive. */
    private static final int DEPTH = 4;

    private final Path folder;
    private final Predicate<String> wanted;

    /** What was told, or was there before. */
    private final Map<Path, Stamp> told;

    /** What was seen last time and not told yet. */
    private Map<Path, Stamp> growing = Map.of();

    /** How a file stands: each write changes one or the other. */
    private record Stamp(FileTime modified, long bytes) {}

    /** Looks for frames; what is there already does not count as new. */
    public FolderWatch(Path folder) {
        this(folder, FrameFiles::isFrame);
    }

    /**
     * As above.
     *
     * @param wanted by the file's name
     */
    public FolderWatch(Path folder, Predicate<String> wanted) {
        this.folder = folder;
        this.wanted = wanted;
        this.told = frames();
    }

    /** As above, and what is there already counts as new. */
    public static FolderWatch fromTheStart(Path folder, Predicate<String> wanted) {
        FolderWatch watch = new FolderWatch(folder, wanted);
        watch.told.clear();
        return watch;
    }

    /** The frames that came since it was last asked, oldest first, without those that are still being written. */
    public List<Path> next() {
        Map<Path, Stamp> seen = frames();
        seen.entrySet().removeIf(file -> file.getValue().equals(told.get(file.getKey())));
        List<Path> whole = new ArrayList<>();
        seen.forEach((file, stamp) -> {
            if (stamp.equals(growing.get(file))) {
                whole.add(file);
            }
        });
        whole.sort(
                Comparator.comparing((Path file) -> seen.get(file).modified()).thenComparing(Path::toString));
        whole.forEach(file -> told.put(file, seen.remove(file)));
        growing = seen;
        return whole;
    }

    private Map<Path, Stamp> frames() {
        Map<Path, Stamp> frames = new HashMap<>();
        try (Stream<Path> files = Files.walk(folder, DEPTH)) {
            files.filter(f -> wanted.test(f.getFileName().toString()))
                    .forEach(f -> stamp(f).ifPresent(stamp -> frames.put(f, stamp)));
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " cannot be looked into", e);
        }
        return frames;
    }

    /** Empty for a file that has just been renamed or taken away, and for what is no file. */
    private static Optional<Stamp> stamp(Path file) {
        try {
            BasicFileAttributes now = Files.readAttributes(file, BasicFileAttributes.class);
            return now.isRegularFile() ? Optional.of(new Stamp(now.lastModifiedTime(), now.size())) : Optional.empty();
        } catch (IOException e) {
            return Optional.empty();
        }
    }
}
