package app.ironside.logbook;

import app.ironside.BadInputException;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.sky.TableWriter;
import java.nio.file.Path;
import java.util.List;

/** Subs of a logbook as a table for other programs, with units: CSV (RFC 4180), VOTable 1.x of the IVOA, or a FITS binary table. */
public final class SubTable {
    private static final String EXPECTED = "a name that ends in .csv, .vot or .fits";

    /** A column with what the database calls it. */
    private record Column(TableWriter.Column table, String sql) {
        Column(String name, String unit, String about, String sql, Class<?> kind) {
            this(new TableWriter.Column(name, unit, about, kind), sql);
        }
    }

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
        TableWriter writer = TableWriter.of(file.getFileName().toString())
                .orElseThrow(() -> new BadInputException(file.toString(), "has no known ending", EXPECTED));
        Destination.file(file, "the table", List.of());
        List<Object[]> rows = search.rows(question, COLUMNS.size());
        AtomicFile.write(
                file,
                out -> writer.write("subs", COLUMNS.stream().map(Column::table).toList(), rows, out));
        return rows.size();
    }
}
