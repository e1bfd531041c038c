package app.ironside.library;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FrameFiles;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Predicate;

/**
 * What lies in some folders: every FITS and TIFF file by its head, gathered in sets, with what fits which lights and what is missing.
 *
 * @param frames in the order of their paths
 * @param unusable files that cannot be read, with the reason
 */
public record Library(
        List<Indexed> frames, List<Unusable> unusable, List<FrameSet> sets, List<Match> matches, List<Gap> gaps) {
    /** Deeper than anybody sorts by hand; a loop of links ends here. */
    private static final int DEPTH = 16;

    /** A frame with what its header tells. */
    public record Indexed(Path file, FrameFacts facts) {}

    /** A file that cannot be used. */
    public record Unusable(Path file, String reason) {}

    public Library {
        frames = List.copyOf(frames);
        unusable = List.copyOf(unusable);
        sets = List.copyOf(sets);
        matches = List.copyOf(matches);
        gaps = List.copyOf(gaps);
    }

    /** As below, every head from its file. */
    public static Library read(
            List<Path> folders, Predicate<Path> leftOut, Told told, Workers workers, Progress progress) {
        return read(folders, leftOut, told, HeadShelf.NONE, workers, progress);
    }

    /**
     * Reads folders, heads only.
     *
     * @param folders or single files
     * @param leftOut folders that are not looked into, for instance that of one's own results
     * @param told what a person said beside the headers
     * @param heads that were read before; takes up those that are new
     * @throws BadInputException if a folder is not there
     */
    public static Library read(
            List<Path> folders,
            Predicate<Path> leftOut,
            Told told,
            HeadShelf heads,
            Workers workers,
            Progress progress) {
        heads.open();
        List<Unusable> unusable = new ArrayList<>();
        List<Path> files = files(folders, leftOut, unusable);
        Object[] read = new Object[files.size()];
        AtomicInteger done = new AtomicInteger();
        workers.forEach(files.size(), i -> {
            int count = done.incrementAndGet();
            if (count % 64 == 1) {
                progress.step("reading headers, " + count + " of " + files.size(), (double) count / files.size());
            }
            read[i] = head(files.get(i), told, heads);
        });
        heads.keep();
        List<Indexed> frames = new ArrayList<>();
        for (Object one : read) {
            if (one instanceof Indexed frame) {
                frames.add(frame);
            } else {
                unusable.add((Unusable) one);
            }
        }
        return of(frames, unusable, told);
    }

    /** A library of frames that are known already. */
    public static Library of(List<Indexed> frames, List<Unusable> unusable, Told told) {
        List<FrameSet> sets = Sets.of(frames);
        List<Match> matches = Matching.of(sets, told);
        return new Library(frames, unusable, sets, matches, Gap.of(sets, matches));
    }

    private static Object head(Path file, Told told, HeadShelf heads) {
        try {
            return new Indexed(file, told.of(file, FrameFacts.of(file, heads.of(file))));
        } catch (BadInputException e) {
            return new Unusable(file, e.reasonFor(file.toString()));
        } catch (RuntimeException e) {
            // One file of thousands: whatever is wrong with it must not cost the others.
            return new Unusable(file, "cannot be read (" + e.getMessage() + "); expected a whole FITS or TIFF image");
        }
    }

    /** All frames, each once, by absolute path. */
    private static List<Path> files(List<Path> folders, Predicate<Path> leftOut, List<Unusable> unusable) {
        TreeSet<Path> files = new TreeSet<>();
        for (Path folder : folders) {
            Path root = folder.toAbsolutePath().normalize();
            if (!Files.exists(root)) {
                throw new BadInputException(
                        folder.toString(), "there is no such folder", "a folder with FITS or TIFF files");
            }
            try {
                Files.walkFileTree(
                        root, EnumSet.of(FileVisitOption.FOLLOW_LINKS), DEPTH, new Collect(files, leftOut, unusable));
            } catch (IOException e) {
                throw new UncheckedIOException(folder + " cannot be looked into (" + e.getMessage() + ")", e);
            }
        }
        return new ArrayList<>(files);
    }

    private static final class Collect extends SimpleFileVisitor<Path> {
        private final TreeSet<Path> files;
        private final Predicate<Path> leftOut;
        private final List<Unusable> unusable;

        Collect(TreeSet<Path> files, Predicate<Path> leftOut, List<Unusable> unusable) {
            this.files = files;
            this.leftOut = leftOut;
            this.unusable = unusable;
        }

        @Override
        public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes facts) {
            return leftOut.test(folder) ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
        }

        @Override
        public FileVisitResult visitFile(Path file, BasicFileAttributes facts) {
            if (facts.isRegularFile() && FrameFiles.isFrame(file.getFileName().toString()) && !leftOut.test(file)) {
                files.add(file);
            }
            return FileVisitResult.CONTINUE;
        }

        @Override
        public FileVisitResult visitFileFailed(Path file, IOException why) {
            unusable.add(new Unusable(
                    file, "cannot be read (" + why.getMessage() + "); expected a file or folder that may be read"));
            return FileVisitResult.CONTINUE;
        }
    }
}
