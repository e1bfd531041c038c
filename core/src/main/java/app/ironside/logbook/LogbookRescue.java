package app.ironside.logbook;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Optional;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.statement.UnableToExecuteStatementException;
import org.sqlite.SQLiteDataSource;

/**
 * Reads what is left of a logbook whose file was cut off, by a full disk or a copy that was not finished. Rows are written in their
 * order, so that what is missing is mostly the end.
 */
final class LogbookRescue {
    /** SQLite file format, section 1.3: the first bytes, the page size at 16, the number of pages at 28. */
    private static final byte[] MAGIC = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);

    private static final int HEADER_BYTES = 100;

    /** So far ahead a row is looked for behind a page that cannot be read. */
    private static final long FURTHEST = 1 << 20;

    private final Path damaged;

    private LogbookRescue(Path damaged) {
        this.damaged = damaged;
    }

    /**
     * Sets a file aside that is shorter than its own header says; empty if it is not. While a write-ahead log lies beside it, the rest
     * may still be in there.
     */
    static Optional<LogbookRescue> ofCutOff(Path file) {
        return isLogbook(file)
                .filter(LogbookRescue::isCutOff)
                .filter(start -> !hasLog(file))
                .map(start -> setAside(file));
    }

    private static boolean hasLog(Path file) {
        try {
            return Files.size(Path.of(file + "-wal")) > 0;
        } catch (IOException absent) {
            return false;
        }
    }

    /** Sets a file aside that SQLite made and cannot open any more; empty if it is not one of its files at all. */
    static Optional<LogbookRescue> ofBroken(Path file) {
        return isLogbook(file).map(start -> setAside(file));
    }

    /**
     * The first bytes of a file of SQLite with its length. It must not be read while this process has a connection to it: when any
     * handle of a file is closed, POSIX lets go of all locks that the process holds on it.
     */
    private record Start(byte[] bytes, long length) {}

    private static Optional<Start> isLogbook(Path file) {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] start = in.readNBytes(HEADER_BYTES);
            int known = Math.min(start.length, MAGIC.length);
            boolean sqlite = known > 0 && Arrays.equals(start, 0, known, MAGIC, 0, known);
            return sqlite ? Optional.of(new Start(start, Files.size(file))) : Optional.empty();
        } catch (IOException absent) {
            return Optional.empty();
        }
    }

    private static boolean isCutOff(Start start) {
        if (start.bytes().length < HEADER_BYTES) {
            return true;
        }
        ByteBuffer header = ByteBuffer.wrap(start.bytes());
        int page = Short.toUnsignedInt(header.getShort(16));
        long pageBytes = page == 1 ? 65_536 : page;
        long pages = Integer.toUnsignedLong(header.getInt(28));
        return start.length() < pages * pageBytes;
    }

    private static LogbookRescue setAside(Path file) {
        try {
            Path aside = file;
            for (int n = 1; Files.exists(aside); n++) {
                aside = file.resolveSibling("logbook-cut-" + n + ".sqlite");
            }
            for (String with : new String[] {"", "-wal"}) {
                Path part = Path.of(file + with);
                if (Files.exists(part)) {
                    Files.move(part, Path.of(aside + with));
                }
            }
            Files.deleteIfExists(Path.of(file + "-shm"));
            return new LogbookRescue(aside);
        } catch (IOException e) {
            throw new UncheckedIOException(
                    file + " is damaged and could not be set aside; make the folder writable", e);
        }
    }

    /** Reads what can be read into a new logbook; returns a sentence for the person. */
    String readInto(LogbookWriter writer) {
        SQLiteDataSource source = new SQLiteDataSource();
        source.setUrl("jdbc:sqlite:" + damaged);
        int[] counts = new int[2];
        try (Connection from = source.getConnection();
                Statement setting = from.createStatement()) {
            // Without it SQLite refuses to read any page of a file that is shorter than its header says.
            setting.execute("pragma writable_schema = on");
            writer.write(handle -> {
                handle.useTransaction(into -> {
                    counts[0] = copy(from, "night", row -> night(into, row));
                    counts[1] = copy(from, "event", row -> event(into, row));
                    copy(from, "guide_sample", row -> sample(into, row));
                });
                return handle;
            });
        } catch (SQLException unreadable) {
            // Nothing is left of it: the sentence says so.
        }
        return "The logbook was cut off, by a full disk or a copy that was not finished. " + counts[0] + " nights with "
                + counts[1] + " entries were read from it; the damaged file is kept as " + damaged.getFileName() + ".";
    }

    /** Puts a row into the new logbook; returns whether it was one. */
    @FunctionalInterface
    private interface RowTaker {
        boolean take(ResultSet row) throws SQLException;
    }

    private static int copy(Connection from, String table, RowTaker taker) {
        int copied = 0;
        long last = 0;
        long ahead = 0;
        while (ahead <= FURTHEST) {
            try (PreparedStatement query = from.prepareStatement(
                    "select rowid as place, * from " + table + " where rowid > ? order by rowid")) {
                query.setLong(1, last + ahead);
                try (ResultSet rows = query.executeQuery()) {
                    while (rows.next()) {
                        long place = rows.getLong("place");
                        if (place <= last + ahead) {
                            throw new SQLException("rows out of order: the page is damaged");
                        }
                        last = place;
                        ahead = 0;
                        copied += taken(taker, rows);
                    }
                }
                return copied;
            } catch (SQLException unreadable) {
                ahead = Math.max(1, 2 * ahead);
            }
        }
        return copied;
    }

    /** A page that is half there may give rows that are none: they are left out. */
    private static int taken(RowTaker taker, ResultSet row) throws SQLException {
        try {
            return taker.take(row) ? 1 : 0;
        } catch (UnableToExecuteStatementException noRow) {
            return 0;
        }
    }

    private static boolean night(Handle into, ResultSet row) throws SQLException {
        into.execute(
                "insert into night (id, title, folder, document) values (?, ?, ?, ?)",
                row.getLong("id"),
                row.getString("title"),
                row.getString("folder"),
                row.getString("document"));
        return true;
    }

    private static boolean event(Handle into, ResultSet row) throws SQLException {
        Optional<Instant> time = time(row);
        EventRow event = new EventRow(
                time.orElse(Instant.EPOCH),
                row.getString("kind"),
                version(row),
                row.getString("text"),
                row.getString("facts"));
        if (time.isEmpty() || !EventCodec.isWhole(event)) {
            return false;
        }
        into.execute(
                "insert into event (id, night, time, kind, version, text, facts) values (?, ?, ?, ?, ?, ?, ?)",
                row.getLong("id"),
                row.getLong("night"),
                event.time().toString(),
                event.kind(),
                event.version(),
                event.text(),
                event.facts());
        return true;
    }

    private static Optional<Instant> time(ResultSet row) throws SQLException {
        try {
            return Optional.ofNullable(row.getString("time")).map(Instant::parse);
        } catch (DateTimeException cut) {
            return Optional.empty();
        }
    }

    /** Logbooks of the first version have no column for it. */
    private static int version(ResultSet row) {
        try {
            return row.getInt("version");
        } catch (SQLException first) {
            return 1;
        }
    }

    private static boolean sample(Handle into, ResultSet row) throws SQLException {
        if (time(row).isEmpty()) {
            return false;
        }
        into.execute(
                "insert into guide_sample values (?, ?, ?, ?, ?, ?, ?)",
                row.getLong("night"),
                row.getString("time"),
                row.getObject("ra_arcsec"),
                row.getObject("dec_arcsec"),
                row.getObject("ra_pulse_ms"),
                row.getObject("dec_pulse_ms"),
                row.getObject("snr"));
        return true;
    }
}
