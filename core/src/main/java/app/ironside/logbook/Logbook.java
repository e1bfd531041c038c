package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.image.Destination;
import app.ironside.night.EventKind;
import app.ironside.night.Journal;
import app.ironside.night.NightEvent;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.jdbi.v3.core.Jdbi;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteDataSource;

/**
 * All nights of one data folder. An event is on the disk when its call returns (write-ahead log, synchronous), so that a power
 * cut loses nothing that was told.
 */
public final class Logbook {
    private static final String FILE = "logbook.sqlite";

    private final Path folder;
    private final Jdbi jdbi;

    private Logbook(Path folder, Jdbi jdbi) {
        this.folder = folder;
        this.jdbi = jdbi;
    }

    /**
     * Opens the logbook of a data folder, or begins one.
     *
     * @throws BadInputException if the folder cannot hold one, naming it
     */
    public static Logbook open(Path folder) {
        Destination.folder(folder, "data folder");
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        config.setBusyTimeout(10_000);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + folder.resolve(FILE));
        try {
            Flyway.configure()
                    .dataSource(source)
                    .locations("classpath:app/ironside/logbook/migration")
                    .load()
                    .migrate();
        } catch (FlywayException e) {
            throw new BadInputException(
                    folder.resolve(FILE).toString(),
                    "is not a logbook that this version can read",
                    "a file made by Ironside; move it aside to begin a new one",
                    e);
        }
        return new Logbook(folder, Jdbi.create(source));
    }

    public Path folder() {
        return folder;
    }

    /** Enters a new night; its folder is made by whoever writes frames to it. */
    public NightEntry begin(String title, String folderName, String document) {
        long id = jdbi.withHandle(handle -> handle.createUpdate(
                        "insert into night (title, folder, document) values (:title, :folder, :document)")
                .bind("title", title)
                .bind("folder", folderName)
                .bind("document", document)
                .executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class)
                .one());
        return new NightEntry(id, folder.resolve(folderName), title, document);
    }

    /** All nights, oldest first. */
    public List<NightEntry> nights() {
        return jdbi.withHandle(handle -> handle.createQuery("select id, title, folder, document from night order by id")
                .map((rs, context) -> new NightEntry(
                        rs.getLong("id"),
                        folder.resolve(rs.getString("folder")),
                        rs.getString("title"),
                        rs.getString("document")))
                .list());
    }

    /** The last night if it was begun and not ended: the one to go on with. */
    public Optional<NightEntry> unfinished() {
        List<NightEntry> nights = nights();
        if (nights.isEmpty()) {
            return Optional.empty();
        }
        NightEntry last = nights.get(nights.size() - 1);
        boolean ended = journal(last).events().stream().anyMatch(e -> e.kind() == EventKind.NIGHT_ENDED);
        return ended ? Optional.empty() : Optional.of(last);
    }

    /** The journal of a night. */
    public Journal journal(NightEntry night) {
        return new SqliteJournal(jdbi, night.id());
    }

    /**
     * Best positions of the accepted focus runs of a kit on other nights, the last of each night.
     *
     * @param except the night under way
     * @param provenance of the nights: a simulated focuser stands elsewhere than the real one
     */
    public List<Double> focusPositions(String kit, NightEntry except, Provenance provenance) {
        List<Double> positions = new ArrayList<>();
        for (NightEntry night : nights()) {
            List<NightEvent> events =
                    night.id() == except.id() ? List.of() : journal(night).events();
            boolean sameKit = events.stream()
                    .anyMatch(e -> e.kind() == EventKind.NIGHT_STARTED
                            && e.text("kit").orElse("").equals(kit)
                            // Nights from before this was told were rehearsals: there was no other way.
                            && e.text("provenance")
                                    .orElse(Provenance.REHEARSED.word())
                                    .equals(provenance.word()));
            if (sameKit) {
                events.stream()
                        .filter(e -> e.kind() == EventKind.FOCUS && e.isTrue("accepted"))
                        .flatMap(e -> e.number("bestPosition").stream().boxed())
                        .reduce((a, b) -> b)
                        .ifPresent(positions::add);
            }
        }
        return positions;
    }

    /** Copies events into a night in one transaction, for nights that were recorded elsewhere. */
    public void importEvents(NightEntry night, List<NightEvent> events) {
        jdbi.useTransaction(handle -> events.forEach(e -> SqliteJournal.insert(handle, night.id(), e)));
    }
}
