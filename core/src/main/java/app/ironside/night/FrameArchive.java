package app.ironside.night;

import app.ironside.FileNames;
import app.ironside.image.AtomicFile;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.star.StarField;
import app.ironside.star.StarTable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.BooleanSupplier;
import java.util.stream.Stream;

/**
 * The folder of a night: raw frames that are written once, whole, and never touched again, in folders that a person can read:
 * {@code lights/M_33/L/M_33_L_180s_0001.fits}.
 */
public final class FrameArchive {
    private final Path root;

    /** How many frames have been named in each folder, where none are written; empty where they are. */
    private final Optional<Map<String, Integer>> named;

    private final BooleanSupplier full;

    /**
     * @param root the night's own folder; made if it is missing
     */
    public FrameArchive(Path root) {
        this(make(root), Optional.empty(), () -> false);
    }

    private FrameArchive(Path root, Optional<Map<String, Integer>> named, BooleanSupplier full) {
        this.root = root;
        this.named = named;
        this.full = full;
    }

    /** The same archive on a disk that is full whenever this says so: of a rehearsal. */
    public FrameArchive fullWhen(BooleanSupplier says) {
        return new FrameArchive(root, named, says);
    }

    /**
     * An archive that gives frames their names and keeps none of them: of a rehearsal whose frames are not drawn. Touches no disk.
     *
     * @param given names that were given already, paths relative to the root
     */
    public static FrameArchive ofNames(Path root, Collection<String> given) {
        Map<String, Integer> named = new HashMap<>();
        given.forEach(file -> named.merge(file.substring(0, file.lastIndexOf('/')), 1, Integer::sum));
        return new FrameArchive(root, Optional.of(named), () -> false);
    }

    /** Whether frames are on the disk once they are saved: only then is there something to combine. */
    public boolean keepsFrames() {
        return named.isEmpty();
    }

    public Path root() {
        return root;
    }

    /** Room on its disk, bytes; empty where nothing is written. */
    public OptionalLong freeBytes() {
        return keepsFrames() ? OptionalLong.of(root.toFile().getUsableSpace()) : OptionalLong.empty();
    }

    /**
     * Saves a raw frame under a name of its own.
     *
     * @param folder below the night's, with {@code /} between
     * @param name without number and ending
     * @return path relative to the night's folder
     */
    public String save(String folder, String name, Frame frame) {
        if (full.getAsBoolean()) {
            throw new UncheckedIOException(
                    "The disk is full: free some room, and the night goes on from here.",
                    new IOException("No space left on device"));
        }
        if (named.isPresent()) {
            return folder + "/" + numbered(name, named.get().merge(folder, 1, Integer::sum));
        }
        Path directory = make(root.resolve(folder));
        int number = count(directory) + 1;
        Path file = directory.resolve(numbered(name, number));
        while (Files.exists(file)) {
            number++;
            file = directory.resolve(numbered(name, number));
        }
        FitsFiles.write(file, frame, FitsFiles.Encoding.UNSIGNED_16);
        return relative(file);
    }

    /** Writes a saved frame anew under its name, with a better header: the old one stands until the new one is whole. */
    void rewrite(String file, Frame frame) {
        if (keepsFrames()) {
            FitsFiles.write(resolve(file), frame, FitsFiles.Encoding.UNSIGNED_16);
        }
    }

    /** Keeps the stars that were measured on a saved frame beside it. */
    void keepStars(String file, StarField stars) {
        if (keepsFrames()) {
            StarTable.keep(resolve(file), stars);
        }
    }

    private static String numbered(String name, int number) {
        return String.format(java.util.Locale.ROOT, "%s_%04d.fits", name, number);
    }

    /** A path below the night's folder for something derived (masters, stacks), with its folder made. */
    public Path derived(String folder, String fileName) {
        return make(root.resolve(folder)).resolve(fileName);
    }

    /** A file's path relative to the night's folder, with {@code /} between. */
    public String relative(Path file) {
        return root.relativize(file).toString().replace('\\', '/');
    }

    public Path resolve(String relative) {
        return root.resolve(relative);
    }

    /** A target's name as that of a folder or file. */
    public static String plainName(String name) {
        return FileNames.plain(name, "_");
    }

    /** An exposure as a part of a name, whole to the last digit: no two exposures are one. */
    public static String seconds(double seconds) {
        return BigDecimal.valueOf(seconds).stripTrailingZeros().toPlainString() + "s";
    }

    /** Removes what a power cut left half-written. */
    public List<String> removeUnfinished() {
        if (!keepsFrames()) {
            return List.of();
        }
        try (Stream<Path> files = Files.walk(root)) {
            List<Path> parts = files.filter(f -> f.toString().endsWith(AtomicFile.UNFINISHED))
                    .toList();
            for (Path part : parts) {
                Files.delete(part);
            }
            return parts.stream().map(this::relative).toList();
        } catch (IOException e) {
            throw new UncheckedIOException(root + " could not be searched for unfinished files", e);
        }
    }

    /** Finished lights on the disk, relative paths in order of name. */
    public List<String> lights() {
        Path lights = root.resolve("lights");
        if (!Files.isDirectory(lights)) {
            return List.of();
        }
        try (Stream<Path> files = Files.walk(lights)) {
            return files.filter(f -> f.toString().endsWith(".fits"))
                    .map(this::relative)
                    .sorted()
                    .toList();
        } catch (IOException e) {
            throw new UncheckedIOException(lights + " could not be read", e);
        }
    }

    private static int count(Path directory) {
        try (Stream<Path> files = Files.list(directory)) {
            return (int) files.filter(f -> f.toString().endsWith(".fits")).count();
        } catch (IOException e) {
            throw new UncheckedIOException(directory + " could not be read", e);
        }
    }

    private static Path make(Path directory) {
        try {
            return Files.createDirectories(directory);
        } catch (IOException e) {
            throw new UncheckedIOException(directory + " could not be made: " + e.getMessage(), e);
        }
    }
}
