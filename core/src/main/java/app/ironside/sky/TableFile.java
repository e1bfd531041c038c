package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.image.FitsFiles;
import java.io.BufferedInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CancellationException;
import java.util.zip.GZIPInputStream;
import uk.ac.starlink.fits.FitsTableBuilder;
import uk.ac.starlink.table.RowSequence;
import uk.ac.starlink.table.StarTable;
import uk.ac.starlink.table.StoragePolicy;
import uk.ac.starlink.table.TableSink;
import uk.ac.starlink.table.formats.CsvTableBuilder;
import uk.ac.starlink.util.Compression;
import uk.ac.starlink.util.DataSource;
import uk.ac.starlink.votable.VOTableBuilder;

/**
 * A table in a file that may come from anywhere: read row by row, kept nowhere, and with nothing fetched that the file names. What it is
 * follows from its first bytes.
 */
final class TableFile {
    private static final String EXPECTED = "a FITS, VOTable or CSV table of stars";

    /** More than any catalogue of stars that a computer beside a telescope can hold, packed or not. */
    private static final long MOST_BYTES = 8L << 30;

    private static final int LONGEST_LINE = 1 << 20;

    private enum Kind {
        FITS,
        VOTABLE,
        CSV
    }

    private final Path file;
    private final Kind kind;
    private final boolean packed;

    private TableFile(Path file, Kind kind, boolean packed) {
        this.file = file;
        this.kind = kind;
        this.packed = packed;
    }

    /** Thrown by a sink that has seen enough. */
    static final class Enough extends RuntimeException {
        Enough() {
            super("enough", null, false, false);
        }
    }

    /**
     * Opens a table.
     *
     * @throws BadInputException if the file cannot be read, or holds what is not taken from a file of unknown origin
     */
    static TableFile open(Path file) {
        if (!Files.isRegularFile(file) || !Files.isReadable(file)) {
            throw new BadInputException(file.toString(), "cannot be read", EXPECTED);
        }
        boolean packed = begins(file, false, 2).equals("\u001f\u008b");
        String start = begins(file, packed, 512);
        Kind kind = start.startsWith("SIMPLE  =") ? Kind.FITS : isXml(start) ? Kind.VOTABLE : Kind.CSV;
        if (kind == Kind.FITS) {
            FitsFiles.checkClaims(file, "a FITS table, not cut short");
        } else if (kind == Kind.VOTABLE) {
            TableFile table = new TableFile(file, kind, packed);
            SafeVoTable.check(file.toString(), table::stream);
        }
        return new TableFile(file, kind, packed);
    }

    /** Text in any encoding that XML may have begins so, marks and zeros of wide characters aside. */
    private static boolean isXml(String start) {
        return start.replaceAll("[^\\x21-\\x7E]+", "").startsWith("<");
    }

    private static String begins(Path file, boolean unpack, int count) {
        try (InputStream raw = new BufferedInputStream(Files.newInputStream(file));
                InputStream in = unpack ? new GZIPInputStream(raw) : raw) {
            return new String(in.readNBytes(count), StandardCharsets.ISO_8859_1);
        } catch (IOException e) {
            throw unreadable(file, e);
        }
    }

    private static BadInputException unreadable(Path file, Exception e) {
        String why = e.getMessage() == null ? e.getClass().getSimpleName() : e.getMessage();
        return new BadInputException(
                file.toString(), "is no table that can be read (" + why + ")", "FITS, VOTable or CSV, whole", e);
    }

    /** The bytes, unpacked, up to the limits. */
    private InputStream stream() throws IOException {
        InputStream raw = new BufferedInputStream(Files.newInputStream(file), 1 << 16);
        return new Limited(
                packed ? new GZIPInputStream(raw, 1 << 16) : raw, kind == Kind.CSV ? LONGEST_LINE : Long.MAX_VALUE);
    }

    /**
     * Hands the table to a sink, row by row.
     *
     * @throws BadInputException if it turns out not to be one
     */
    void read(TableSink sink) {
        try {
            switch (kind) {
                case FITS -> stream(in -> new FitsTableBuilder().streamStarTable(in, sink, null));
                case VOTABLE -> stream(in -> new VOTableBuilder(false).streamStarTable(in, sink, "0"));
                default -> rows(
                        new CsvTableBuilder().makeStarTable(new Bytes(), false, StoragePolicy.PREFER_MEMORY), sink);
            }
        } catch (IOException e) {
            throw own(e).orElseGet(() -> unreadable(file, e));
        } catch (BadInputException | Enough | CancellationException e) {
            throw e;
        } catch (RuntimeException e) {
            // The library is written for tables that are right; what it trips over is the table.
            throw own(e).orElseGet(() -> unreadable(file, e));
        }
    }

    /** What a sink threw, if the library put it into something of its own. */
    private static java.util.Optional<RuntimeException> own(Throwable e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof Enough
                    || cause instanceof BadInputException
                    || cause instanceof CancellationException) {
                return java.util.Optional.of((RuntimeException) cause);
            }
        }
        return java.util.Optional.empty();
    }

    private interface Reading {
        void from(InputStream in) throws IOException;
    }

    private void stream(Reading reading) throws IOException {
        try (InputStream in = stream()) {
            reading.from(in);
        }
    }

    private static void rows(StarTable table, TableSink sink) throws IOException {
        sink.acceptMetadata(table);
        try (RowSequence sequence = table.getRowSequence()) {
            while (sequence.next()) {
                sink.acceptRow(sequence.getRow());
            }
        }
        sink.endRows();
    }

    /** The file under no name: a name is taken apart and followed by the library, its bytes are not. */
    private final class Bytes extends DataSource {
        Bytes() {
            setName(file.getFileName().toString());
            setCompression(Compression.NONE);
        }

        @Override
        protected InputStream getRawInputStream() throws IOException {
            return stream();
        }
    }

    /** Ends a stream that does not end by itself. */
    private static final class Limited extends FilterInputStream {
        private final long longestLine;
        private long read;
        private long line;

        Limited(InputStream in, long longestLine) {
            super(in);
            this.longestLine = longestLine;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
        }

        @Override
        public int read(byte[] bytes, int from, int count) throws IOException {
            int got = in.read(bytes, from, count);
            read += Math.max(0, got);
            if (read > MOST_BYTES) {
                throw new IOException("it holds more than " + (MOST_BYTES >> 30) + " GB");
            }
            for (int i = from; i < from + got && longestLine != Long.MAX_VALUE; i++) {
                line = bytes[i] == '\n' || bytes[i] == '\r' ? 0 : line + 1;
                if (line > longestLine) {
                    throw new IOException("it has a line of more than " + longestLine + " bytes");
                }
            }
            return got;
        }

        @Override
        public boolean markSupported() {
            return false;
        }
    }
}
