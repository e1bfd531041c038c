package app.ironside.sky;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import uk.ac.starlink.table.ColumnInfo;
import uk.ac.starlink.table.RowListStarTable;
import uk.ac.starlink.table.StarTableOutput;

/** Writes tables that other programs read: CSV (RFC 4180), VOTable of the IVOA, or a FITS binary table (FITS 4.0, section 7.3). */
public final class TableWriter {
    /**
     * A column.
     *
     * @param unit as the IVOA writes units; empty for none
     * @param about what it holds; may be empty
     * @param kind of its values: String, Double or Integer
     */
    public record Column(String name, String unit, String about, Class<?> kind) {}

    private final String format;

    private TableWriter(String format) {
        this.format = format;
    }

    /** By the ending of a file's name; empty for one that is no table's. */
    public static Optional<TableWriter> of(String fileName) {
        String name = fileName.toLowerCase(Locale.ROOT);
        if (name.endsWith(".csv")) {
            return Optional.of(new TableWriter("csv"));
        }
        if (name.endsWith(".vot") || name.endsWith(".votable") || name.endsWith(".xml")) {
            return Optional.of(new TableWriter("votable-tabledata"));
        }
        return name.endsWith(".fits") || name.endsWith(".fit")
                ? Optional.of(new TableWriter("fits-basic"))
                : Optional.empty();
    }

    /**
     * Writes a table; the stream stays open.
     *
     * @param rows a value for each column, null where there is none
     */
    public void write(String name, List<Column> columns, List<Object[]> rows, OutputStream out) throws IOException {
        ColumnInfo[] infos = columns.stream()
                .map(c -> {
                    ColumnInfo info = new ColumnInfo(c.name(), c.kind(), c.about());
                    info.setUnitString(c.unit().isEmpty() ? null : c.unit());
                    return info;
                })
                .toArray(ColumnInfo[]::new);
        RowListStarTable table = new RowListStarTable(infos);
        table.setName(name);
        for (Object[] row : rows) {
            Object[] typed = new Object[row.length];
            for (int i = 0; i < row.length; i++) {
                typed[i] = typed(row[i], columns.get(i).kind());
            }
            table.addRow(typed);
        }
        StarTableOutput output = new StarTableOutput();
        output.writeStarTable(table, new Open(out), output.getHandler(format));
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
}
