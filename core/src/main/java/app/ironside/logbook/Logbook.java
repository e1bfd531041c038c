package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.guide.GuideSample;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
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
public final class Logbook implements AutoCloseable {
    static final String FILE = "logbook.sqlite";

    /** The number of the newest script in the folder migration. */
    static final int SCHEMA = 5;

    private final Path folder;
    private final Jdbi jdbi;
    private final LogbookWriter writer;
    private Optional<String> rescued = Optional.empty();

    private Logbook(Path folder, Jdbi jdbi) {
        this.folder = folder;
        this.jdbi = jdbi;
        this.writer = new LogbookWriter(jdbi.open());
    }

    /** Whether a data folder has a logbook. */
    public static boolean isIn(Path folder) {
        return Files.isRegularFile(folder.resolve(FILE));
    }

    /**
     * Opens the logbook of a data folder, or begins one. Of a file that was cut off, what is left of it is read into a new one, and the
     * old file is kept beside it.
     *
     * @throws BadInputException if the folder cannot hold one, naming it
     */
    public static Logbook open(Path folder) {
        Destination.folder(folder, "data folder");
        Path file = folder.resolve(FILE);
        Optional<LogbookRescue> damaged = LogbookRescue.ofCutOff(file);
        SQLiteDataSource source = source(file);
        try {
            migrate(source);
        } catch (FlywayException e) {
            damaged = LogbookRescue.ofBroken(file);
            if (damaged.isEmpty()) {
                throw new BadInputException(
                        file.toString(),
                        "is not a logbook that this version can read",
                        "a file made by Ironside; move it aside to begin a new one",
                        e);
            }
            migrate(source);
        }
        Logbook logbook = new Logbook(folder, Jdbi.create(source));
        logbook.rescued = damaged.map(d -> d.readInto(logbook.writer));
        logbook.lookThroughOlderNights();
        return logbook;
    }

    private static SQLiteDataSource source(Path file) {
        SQLiteConfig config = new SQLiteConfig();
        config.setJournalMode(SQLiteConfig.JournalMode.WAL);
        config.setSynchronous(SQLiteConfig.SynchronousMode.FULL);
        config.setBusyTimeout(10_000);
        SQLiteDataSource source = new SQLiteDataSource(config);
        source.setUrl("jdbc:sqlite:" + file);
        return source;
    }

    private static void migrate(SQLiteDataSource source) {
        if (isOfThisVersion(source)) {
            return; // asked so, as a start would otherwise wait for scripts to be found that have nothing to do
        }
        Flyway.configure()
                .dataSource(source)
                .locations("classpath:app/ironside/logbook/migration")
                .load()
                .migrate();
    }

    private static boolean isOfThisVersion(SQLiteDataSource source) {
        try (Connection connection = source.getConnection();
                Statement statement = connection.createStatement();
                ResultSet rs = statement.executeQuery(
                        "select max(cast(version as integer)), min(success) from flyway_schema_history")) {
            return rs.next() && rs.getInt(1) == SCHEMA && rs.getInt(2) == 1;
        } catch (SQLException e) {
            return false; // a new file, or one that Flyway has to tell of
        }
    }

    /** Nights from before their rows said what they are. */
    private void lookThroughOlderNights() {
        List<Long> unknown = jdbi.withHandle(h -> h.createQuery("select id from night where state is null order by id")
                .mapTo(Long.class)
                .list());
        unknown.forEach(writer::look);
    }

    /** What was done about a logbook that was cut off, in a sentence for the person; empty if it was whole. */
    public Optional<String> rescued() {
        return rescued;
    }

    public Path folder() {
        return folder;
    }

    /** Enters a new night; its folder is made by whoever writes frames to it. */
    public NightEntry begin(String title, String folderName, String document) {
        long id = writer.write(handle -> handle.createUpdate(
                        "insert into night (title, folder, document, state) values (:title, :folder, :document, 'begun')")
                .bind("title", title)
                .bind("folder", folderName)
                .bind("document", document)
                .executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class)
                .one());
        return new NightEntry(id, folder.resolve(folderName), title, document);
    }

    /** Takes back a night that was entered and never began: its devices could not be connected. One that has a journal stays. */
    public void withdraw(NightEntry night) {
        writer.write(handle -> handle.execute(
                "delete from night where id = ? and not exists (select 1 from event where night = ?)",
                night.id(),
                night.id()));
    }

    /** What nights tell of the gear and the places they were taken with. */
    public Habits habits() {
        return new Habits(jdbi);
    }

    /** What nights gave together. */
    public Harvest harvest() {
        return new Harvest(jdbi, this);
    }

    /** Asks all subs. */
    public SubSearch search() {
        return new SubSearch(jdbi);
    }

    /** All nights, oldest first. */
    public List<NightEntry> nights() {
        return nights("");
    }

    List<NightEntry> nights(String which) {
        return jdbi.withHandle(
                handle -> handle.createQuery("select id, title, folder, document from night " + which + " order by id")
                        .map((rs, context) -> new NightEntry(
                                rs.getLong("id"),
                                folder.resolve(rs.getString("folder")),
                                rs.getString("title"),
                                rs.getString("document")))
                        .list());
    }

    /** The last night if it was begun and not ended: the one to go on with. */
    public Optional<NightEntry> unfinished() {
        return nights("where state = 'begun' and id = (select max(id) from night)").stream()
                .findFirst();
    }

    /** How a night came to be, as it began; empty if it has not begun. */
    public Optional<Provenance> provenance(NightEntry night) {
        return events(jdbi, night.id(), "NIGHT_STARTED").stream()
                .filter(NightStarted.class::isInstance)
                .findFirst()
                .map(started -> ((NightStarted) started).provenance());
    }

    /** The journal of a night. */
    public Journal journal(NightEntry night) {
        return jdbi.withHandle(handle -> {
            List<EventRow> rows = handle.createQuery(
                            "select time, kind, version, text, facts from event where night = :night order by id")
                    .bind("night", night.id())
                    .map((rs, context) -> row(rs))
                    .list();
            List<GuideSample> samples = handle.createQuery(
                            "select time, ra_arcsec, dec_arcsec, ra_pulse_ms, dec_pulse_ms, snr from guide_sample"
                                    + " where night = :night order by rowid")
                    .bind("night", night.id())
                    .map((rs, context) -> sample(rs))
                    .list();
            return new SqliteJournal(writer, night.id(), rows, samples);
        });
    }

    static EventRow row(ResultSet rs) throws SQLException {
        return new EventRow(
                Instant.parse(rs.getString("time")),
                rs.getString("kind"),
                rs.getInt("version"),
                rs.getString("text"),
                rs.getString("facts"));
    }

    /** The events of one kind of a night, in order. */
    static List<NightEvent> events(Jdbi jdbi, long night, String kind) {
        return jdbi.withHandle(handle -> handle.createQuery(
                        "select time, kind, version, text, facts from event where night = :night and kind = :kind order by id")
                .bind("night", night)
                .bind("kind", kind)
                .map((rs, context) -> EventCodec.read(row(rs)))
                .list());
    }

    private static GuideSample sample(ResultSet rs) throws SQLException {
        return new GuideSample(
                Instant.parse(rs.getString("time")),
                rs.getDouble("ra_arcsec"),
                rs.getDouble("dec_arcsec"),
                number(rs, "ra_pulse_ms"),
                number(rs, "dec_pulse_ms"),
                number(rs, "snr"));
    }

    private static double number(ResultSet rs, String column) throws SQLException {
        double value = rs.getDouble(column);
        return rs.wasNull() ? Double.NaN : value;
    }

    /** How the origin of a night is written. */
    static String origin(Provenance provenance) {
        return switch (provenance) {
            case REAL -> "real";
            case BY_FOLDER, WATCHED -> "by-folder";
            case REHEARSED -> "rehearsed";
        };
    }

    /** Copies events into a night in one transaction, for nights that were recorded elsewhere. */
    public void importEvents(NightEntry night, List<EventRow> rows) {
        writer.copy(night.id(), rows);
    }

    /** Puts guide exposures of elsewhere into a night. */
    public void importGuiding(NightEntry night, List<GuideSample> samples) {
        writer.guided(night.id(), samples);
    }

    /**
     * Takes a night out. Its frames are not touched, and its journal is written beside them first.
     *
     * @return the file with the journal: a JSON object a line, as the rows were
     * @throws java.io.UncheckedIOException if that cannot be written; the night then stays
     */
    public Path remove(NightEntry night) {
        List<EventRow> rows = jdbi.withHandle(handle -> handle.createQuery(
                        "select time, kind, version, text, facts from event where night = :night order by id")
                .bind("night", night.id())
                .map((rs, context) -> row(rs))
                .list());
        Path file = night.folder().resolve("journal.jsonl");
        Destination.folder(night.folder(), "folder of the night");
        AtomicFile.write(file, out -> {
            for (EventRow row : rows) {
                out.write((EventCodec.line(row) + "\n").getBytes(StandardCharsets.UTF_8));
            }
        });
        writer.write(handle -> {
            handle.useTransaction(h -> {
                for (String table : List.of("sub", "guide_sample", "event")) {
                    h.execute("delete from " + table + " where night = ?", night.id());
                }
                h.execute("delete from night where id = ?", night.id());
            });
            return handle;
        });
        return file;
    }

    /** Lets go of the file. Journals of it can no longer be written to. */
    @Override
    public void close() {
        writer.close();
    }
}
