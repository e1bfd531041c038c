package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import uk.ac.starlink.table.ColumnInfo;
import uk.ac.starlink.table.RowListStarTable;
import uk.ac.starlink.table.StarTable;
import uk.ac.starlink.table.StarTableOutput;

/** Subs of a logbook as a table for other programs, with units: CSV (RFC 4180), VOTable 1.x of the IVOA, or a FITS binary table. */
public final class SubTable {
    private static final String EXPECTED = "a name that ends in .csv, .vot or .fits";

    /** A column: its name, unit, what it is, what the database calls it, and the kind of its values. */
    private record Column(String name, String unit, String about, String sql, Class<?> kind) {}

    private static final List<Column> COLUMNS = List.of(
            new Column("night", "", "local date of the evening", "n.date", String.class),
            new Column("site", "", "", "n.site", String.class),
            new Column("kit", "", "", "n.kit", String.class),
            new Column("origin", "", "real, by-folder or rehearsed", "n.origin", String.class),
            new Column("time", "", "end of the exposure, UTC", "s.time", String.class),
            new Column("target", "", "", "s.target", String.class),
            new Column("filter", "", "", "s.filter", String.class),
            new Column("exposure", "s", "", "s.seconds", Double.class),
            new Column("file", "", "below the night's folder", "s.file", String.class),
            new Column("keep", "", "1 kept, 0 left out", "s.keep", Integer.class),
            new Column("cause", "", "what lowers it most", "s.cause", String.class),
            new Column("reason", "", "", "s.reason", String.class),
            new Column("stars", "", "", "s.stars", Integer.class),
            new Column("hfr", "pixel", "half-flux radius", "s.hfr_px", Double.class),
            new Column("fwhm", "pixel", "full width at half maximum", "s.fwhm_px", Double.class),
            new Column("eccentricity", "", "", "s.eccentricity", Double.class),
            new Column("background", "adu", "", "s.background_adu", Double.class),
            new Column("noise", "adu", "of the background", "s.noise_adu", Double.class),
            new Column("altitude", "deg", "apparent", "s.altitude_deg", Double.class),
            new Column("temperature", "Celsius", "of the tube", "s.temperature_c", Double.class),
            new Column("focus", "", "steps", "s.focus_steps", Integer.class),
            new Column("guide_rms", "arcsec", "both axes", "s.guide_rms_arcsec", Double.class));

    private SubTable() {}

    /** The columns as they are asked for. */
    static String select() {
        return "select " + String.join(", ", COLUMNS.stream().map(Column::sql).toList());
    }

    /**
     * Writes what a question is about, whole or not at all; the format is by the name's ending.
     *
     * @return how many rows were written
     * @throws BadInputException if the ending is none of these, or the place takes no file
     */
    public static long write(SubSearch search, Question question, Path file) {
        String format =
                format(file).orElseThrow(() -> new BadInputException(file.toString(), "has no known ending", EXPECTED));
        Destination.file(file, "the table", List.of());
        StarTable table = table(search.rows(question, COLUMNS.size()));
        AtomicFile.write(file, out -> {
            StarTableOutput output = new StarTableOutput();
            output.writeStarTable(table, new Open(out), output.getHandler(format));
        });
        return table.getRowCount();
    }

    /** A stream that stays open: whoever writes the file finishes it. */
    private static final class Open extends FilterOutputStream {
        Open(OutputStream out) {
            super(out);
        }

        @Override
        public void write(byte[] bytes, int from, int count) throws IOException {
            out.write(bytes, from, count);
        }

        @Override
        public void close() throws IOException {
            flush();
        }
    }

    private static Optional<String> format(Path file) {
        String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
        if (name.endsWith(".csv")) {
            return Optional.of("csv");
        }
        if (name.endsWith(".vot") || name.endsWith(".votable") || name.endsWith(".xml")) {
            return Optional.of("votable-tabledata");
        }
        return name.endsWith(".fits") || name.endsWith(".fit") ? Optional.of("fits-basic") : Optional.empty();
    }

    private static StarTable table(List<Object[]> rows) {
        ColumnInfo[] infos = COLUMNS.stream()
                .map(c -> {
                    ColumnInfo info = new ColumnInfo(c.name(), c.kind(), c.about());
                    info.setUnitString(c.unit().isEmpty() ? null : c.unit());
                    return info;
                })
                .toArray(ColumnInfo[]::new);
        RowListStarTable table = new RowListStarTable(infos);
        table.setName("subs");
        for (Object[] row : rows) {
            Object[] typed = new Object[row.length];
            for (int i = 0; i < row.length; i++) {
                typed[i] = typed(row[i], COLUMNS.get(i).kind());
            }
            table.addRow(typed);
        }
        return table;
    }

    private static Object typed(Object value, Class<?> kind) {
        if (value == null) {
            return kind == Double.class ? (Object) Double.NaN : kind == Integer.class ? null : "";
        }
        if (kind == Double.class) {
            return ((Number) value).doubleValue();
        }
        return kind == Integer.class ? (Object) ((Number) value).intValue() : value.toString();
    }
}
