package app.ironside.solve;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.sky.CatalogueImport;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.StarField;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The stars by which frames are recognised: those that ship with Ironside, a deeper table that the user imported, and those of the
 * user's own frames. What was added is kept in a folder, beside the index made of it. Thread-safe.
 */
public final class StarShelf {
    private static final Logger LOG = LoggerFactory.getLogger(StarShelf.class);
    private static final String IMPORTED = "stars.bin";
    private static final String OWN = "own-stars.csv";
    private static final String INDEX = "index";

    /** Places of two catalogues differ by their errors and by the motions that one of them leaves out. */
    private static final double SAME_ARCSEC = 4;

    private final StarCatalogue shipped;
    private final Workers workers;
    private final Optional<Path> folder;
    private Optional<StarCatalogue> imported = Optional.empty();
    private OwnStars own = OwnStars.NONE;
    private Optional<String> trouble = Optional.empty();
    private volatile PlateSolver solver;

    /** Told without waiting for an import that is under way: the interface asks. */
    private volatile Holding holding;

    /**
     * How many stars there are of each kind.
     *
     * @param trouble why something kept could not be read; the rest is used
     */
    public record Holding(int shipped, int imported, int own, Optional<String> trouble) {}

    /**
     * @param folder in which stars and index are kept; without one, nothing outlives the process
     */
    public StarShelf(StarCatalogue shipped, Workers workers, Optional<Path> folder) {
        this.shipped = shipped;
        this.workers = workers;
        this.folder = folder;
        imported = kept(IMPORTED, StarCatalogue::open);
        own = kept(OWN, OwnStars::read).orElse(OwnStars.NONE);
        solver = solverOf(all(imported, own));
        holding = count();
    }

    private <T> Optional<T> kept(String name, Function<Path, T> reader) {
        try {
            return folder.map(f -> f.resolve(name)).filter(Files::isReadable).map(reader);
        } catch (BadInputException | UncheckedIOException e) {
            // A night must not fail because of stars that it can do without.
            LOG.warn("kept stars cannot be read", e);
            trouble = Optional.of(e.getMessage());
            return Optional.empty();
        }
    }

    private StarCatalogue all(Optional<StarCatalogue> deeper, OwnStars seen) {
        StarCatalogue base = deeper.map(d -> d.joined(shipped, SAME_ARCSEC)).orElse(shipped);
        return seen.size() == 0 ? base : base.joined(seen.catalogue(), SAME_ARCSEC);
    }

    /** Of all the stars, with its index kept in the folder. Another one follows when stars are added or taken away. */
    public PlateSolver solver() {
        return solver;
    }

    /** A solver of a catalogue that is not on the shelf, its index kept all the same if the folder can be written to. */
    public PlateSolver solverOf(StarCatalogue catalogue) {
        Optional<Path> index = folder.filter(f -> Files.isWritable(f) || !Files.exists(f))
                .map(f -> f.resolve(INDEX).resolve(name(catalogue)));
        return new PlateSolver(catalogue, workers, index);
    }

    private static String name(StarCatalogue catalogue) {
        return Long.toHexString(catalogue.fingerprint());
    }

    public Holding holding() {
        return holding;
    }

    private Holding count() {
        return new Holding(shipped.size(), imported.map(StarCatalogue::size).orElse(0), own.size(), trouble);
    }

    /**
     * Imports a deeper table of stars in place of an earlier one: read, indexed, and only then put in place. What was indexed before a
     * stop is found again.
     *
     * @throws java.util.concurrent.CancellationException if the progress says so; all stays as it was
     * @throws BadInputException if the table cannot be used
     */
    public synchronized void importTable(Path table, CatalogueImport.Columns columns, Progress progress) {
        StarCatalogue deeper = CatalogueImport.read(table, columns, progress);
        PlateSolver next = solverOf(all(Optional.of(deeper), own));
        next.prepare(progress);
        writable().ifPresent(f -> deeper.write(f.resolve(IMPORTED)));
        imported = Optional.of(deeper);
        replace(next);
    }

    /** Takes the imported table away. */
    public synchronized void removeImported() {
        remove(IMPORTED);
        imported = Optional.empty();
        replace(solverOf(all(imported, own)));
    }

    /**
     * Keeps the stars of a solved frame that are not on the shelf yet.
     *
     * @param year Julian year of the frame
     * @return how many more there are now
     * @throws BadInputException if the frame is too coarse for that
     */
    public synchronized int keep(PlateSolution solution, StarField field, double year) {
        StarCatalogue base = all(imported, OwnStars.NONE);
        OwnStars more = own.with(solution, field, base, year);
        writable().ifPresent(f -> more.write(f.resolve(OWN)));
        int added = more.size() - own.size();
        own = more;
        replace(solverOf(all(imported, own)));
        return added;
    }

    /** Takes the stars of the user's own frames away. */
    public synchronized void removeOwn() {
        remove(OWN);
        own = OwnStars.NONE;
        replace(solverOf(all(imported, own)));
    }

    private Optional<Path> writable() {
        folder.ifPresent(f -> {
            try {
                Files.createDirectories(f);
            } catch (IOException e) {
                throw new UncheckedIOException(f + " cannot be made", e);
            }
        });
        return folder;
    }

    private void remove(String name) {
        folder.map(f -> f.resolve(name)).ifPresent(file -> {
            try {
                Files.deleteIfExists(file);
            } catch (IOException e) {
                throw new UncheckedIOException(file + " cannot be removed", e);
            }
        });
    }

    /** The next solver, and away with indexes of what the shelf held before: each is some hundred megabytes of a deep table. */
    private void replace(PlateSolver next) {
        trouble = Optional.empty();
        solver = next;
        holding = count();
        List<String> wanted = List.of(name(shipped), name(next.catalogue()));
        Path indexes =
                folder.map(f -> f.resolve(INDEX)).filter(Files::isDirectory).orElse(null);
        if (indexes == null) {
            return;
        }
        try (Stream<Path> there = Files.list(indexes)) {
            for (Path old : there.filter(p -> !wanted.contains(p.getFileName().toString()))
                    .toList()) {
                try (Stream<Path> files = Files.walk(old)) {
                    for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                        Files.delete(file);
                    }
                }
            }
        } catch (IOException e) {
            LOG.warn("an old index could not be removed", e);
        }
    }
}
