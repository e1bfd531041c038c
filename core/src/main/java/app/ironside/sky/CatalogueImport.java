package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import uk.ac.starlink.table.ColumnInfo;
import uk.ac.starlink.table.RowSequence;
import uk.ac.starlink.table.StarTable;
import uk.ac.starlink.table.StarTableFactory;

/**
 * Reads a table of stars (FITS, VOTable, CSV) into a catalogue. Columns are found by their usual names or their UCDs, or named by the
 * user; positions of another epoch are brought to J2000 by the proper motions, if the table has them.
 */
public final class CatalogueImport {
    private static final long ROWS_A_REPORT = 50_000;

    /**
     * Which column is which. An empty name is looked for under its usual names.
     *
     * @param epochYear Julian year of the positions
     */
    public record Columns(
            String ra,
            String dec,
            String magnitude,
            String colour,
            String motionRa,
            String motionDec,
            double epochYear) {
        /** All by their usual names, positions of J2000. */
        public static final Columns USUAL = new Columns("", "", "", "", "", "", 2000);

        public Columns withPlace(String raColumn, String decColumn) {
            return new Columns(raColumn, decColumn, magnitude, colour, motionRa, motionDec, epochYear);
        }

        public Columns withMagnitude(String column) {
            return new Columns(ra, dec, column, colour, motionRa, motionDec, epochYear);
        }

        public Columns withEpochYear(double year) {
            return new Columns(ra, dec, magnitude, colour, motionRa, motionDec, year);
        }
    }

    private final StarTable table;
    private final String name;
    private final Columns columns;

    private CatalogueImport(StarTable table, String name, Columns columns) {
        this.table = table;
        this.name = name;
        this.columns = columns;
    }

    /** A column that a table of stars may have, with the names and UCDs (IVOA UCD1+ 1.4) by which it is usually found. */
    private enum Role {
        RA("right ascension", "pos.eq.ra", "ra", "radeg", "raj2000", "ra_icrs", "_raj2000"),
        DEC("declination", "pos.eq.dec", "dec", "decdeg", "dej2000", "decj2000", "de_icrs", "dec_icrs", "_dej2000"),
        MAGNITUDE("magnitude", "phot.mag", "magnitude", "mag", "vmag", "v", "gmag", "phot_g_mean_mag", "rmag"),
        COLOUR("colour", "phot.color", "b-v", "bv", "colour", "color"),
        MOTION_RA("motion in right ascension", "pos.pm;pos.eq.ra", "pmra", "pm_ra", "pmra_cosdec"),
        MOTION_DEC("motion in declination", "pos.pm;pos.eq.dec", "pmdec", "pm_dec", "pmde");

        private final String words;
        private final String ucd;
        private final List<String> usual;

        Role(String words, String ucd, String... usual) {
            this.words = words;
            this.ucd = ucd;
            this.usual = List.of(usual);
        }
    }

    /**
     * What a table looks like before it is imported.
     *
     * @param titles of its columns
     * @param guess the columns that have usual names; an empty name where none was found
     * @param rows how many there are; negative if only reading would tell
     * @param first the first rows, as text
     */
    public record Sample(List<String> titles, Columns guess, long rows, List<List<String>> first) {}

    /**
     * Looks at a table's first rows.
     *
     * @throws BadInputException if the file is no table
     */
    public static Sample look(Path file, int rows) {
        return reading(file, Columns.USUAL, table -> table.sample(rows));
    }

    /**
     * Reads a whole table. Rows without a place or a magnitude are left out.
     *
     * @param progress told after every 50,000 rows
     * @throws java.util.concurrent.CancellationException if it says so
     * @throws BadInputException if the file is no table, a column is missing, or a value is out of range
     */
    public static StarCatalogue read(Path file, Columns columns, Progress progress) {
        return reading(file, columns, table -> table.rows(progress));
    }

    @FunctionalInterface
    private interface Reading<T> {
        T of(CatalogueImport table) throws IOException;
    }

    private static <T> T reading(Path file, Columns columns, Reading<T> reading) {
        if (!Files.isReadable(file)) {
            throw new BadInputException(file.toString(), "cannot be read", "a FITS, VOTable or CSV table of stars");
        }
        try {
            StarTableFactory factory = new StarTableFactory();
            String lower = file.toString().toLowerCase(Locale.ROOT);
            // CSV carries no mark of its own by which it could be told.
            StarTable table = lower.endsWith(".csv")
                    ? factory.makeStarTable(file.toString(), "csv")
                    : factory.makeStarTable(file.toString());
            return reading.of(new CatalogueImport(table, file.getFileName().toString(), columns));
        } catch (IOException e) {
            throw new BadInputException(
                    file.toString(), "is no table that can be read: " + e.getMessage(), "FITS, VOTable or CSV", e);
        }
    }

    private Sample sample(int most) throws IOException {
        List<String> titles = titles();
        List<List<String>> first = new ArrayList<>();
        try (RowSequence sequence = table.getRowSequence()) {
            while (first.size() < most && sequence.next()) {
                List<String> row = new ArrayList<>();
                for (Object cell : sequence.getRow()) {
                    row.add(cell == null ? "" : cell.toString());
                }
                first.add(row);
            }
        }
        Columns guess = new Columns(
                titled(Role.RA),
                titled(Role.DEC),
                titled(Role.MAGNITUDE),
                titled(Role.COLOUR),
                titled(Role.MOTION_RA),
                titled(Role.MOTION_DEC),
                2000);
        return new Sample(titles, guess, table.getRowCount(), first);
    }

    private String titled(Role role) {
        int column = find("", role);
        return column < 0 ? "" : titles().get(column);
    }

    private StarCatalogue rows(Progress progress) throws IOException {
        int ra = need(columns.ra(), Role.RA);
        int dec = need(columns.dec(), Role.DEC);
        int magnitude = need(columns.magnitude(), Role.MAGNITUDE);
        int colour = find(columns.colour(), Role.COLOUR);
        int motionRa = find(columns.motionRa(), Role.MOTION_RA);
        int motionDec = find(columns.motionDec(), Role.MOTION_DEC);
        boolean moving = motionRa >= 0 && motionDec >= 0;
        if (!moving && columns.epochYear() != 2000) {
            throw new BadInputException(
                    name,
                    String.format(Locale.ROOT, "has positions of %.1f and no proper motions", columns.epochYear()),
                    "columns of proper motions, or positions of J2000");
        }
        double hours = hours(table.getColumnInfo(ra));
        List<double[]> rows = new ArrayList<>();
        try (RowSequence sequence = table.getRowSequence()) {
            long total = table.getRowCount();
            for (long row = 1; sequence.next(); row++) {
                double[] star = {
                    row,
                    number(sequence, ra) * hours,
                    number(sequence, dec),
                    number(sequence, magnitude),
                    colour < 0 ? Double.NaN : number(sequence, colour),
                    moving ? number(sequence, motionRa) : 0,
                    moving ? number(sequence, motionDec) : 0
                };
                if (!Double.isFinite(star[1] + star[2] + star[3])) {
                    continue;
                }
                check(star, row);
                rows.add(atJ2000(star, moving));
                if (row % ROWS_A_REPORT == 0) {
                    progress.step("Reading " + name, total > 0 ? (double) row / total : 0);
                }
            }
        }
        if (rows.isEmpty()) {
            throw new BadInputException(name, "has no row with a place and a magnitude", "a table of stars");
        }
        return StarCatalogue.of(name + " row ", rows, moving);
    }

    private void check(double[] star, long row) {
        if (Math.abs(star[2]) > 90 || star[1] < -360 || star[1] > 720) {
            throw new BadInputException(
                    name + " row " + row,
                    String.format(Locale.ROOT, "is at right ascension %.4f, declination %.4f", star[1], star[2]),
                    "degrees (hours only where the column's unit says so)");
        }
    }

    private double[] atJ2000(double[] star, boolean moving) {
        star[1] = Angles.wrap360(star[1]);
        star[4] = Double.isNaN(star[4]) ? StarCatalogue.SUN_COLOUR : star[4];
        if (moving) {
            star[5] = Double.isNaN(star[5]) ? 0 : star[5];
            star[6] = Double.isNaN(star[6]) ? 0 : star[6];
            if (columns.epochYear() != 2000) {
                // The motion carried back: as far before 2000 as the table's epoch is after it.
                Equatorial then = new CatalogueStar("", new Equatorial(star[1], star[2]), 0, 0, star[5], star[6])
                        .positionAt(4000 - columns.epochYear());
                star[1] = then.raDeg();
                star[2] = then.decDeg();
            }
        }
        return star;
    }

    private static double number(RowSequence row, int column) throws IOException {
        return row.getCell(column) instanceof Number n ? n.doubleValue() : Double.NaN;
    }

    private static double hours(ColumnInfo info) {
        String unit = info.getUnitString() == null ? "" : info.getUnitString().toLowerCase(Locale.ROOT);
        return unit.equals("h") || unit.startsWith("hour") ? 15 : 1;
    }

    private int need(String chosen, Role role) {
        int column = find(chosen, role);
        if (column < 0) {
            throw new BadInputException(
                    name,
                    chosen.isEmpty()
                            ? "has no column of " + role.words + " under a usual name"
                            : "has no column \"" + chosen + "\"",
                    "one of its columns: " + String.join(", ", titles()));
        }
        return column;
    }

    private List<String> titles() {
        List<String> titles = new ArrayList<>();
        for (int i = 0; i < table.getColumnCount(); i++) {
            titles.add(table.getColumnInfo(i).getName());
        }
        return titles;
    }

    private int find(String chosen, Role role) {
        List<String> titles =
                titles().stream().map(t -> t.toLowerCase(Locale.ROOT)).toList();
        if (!chosen.isEmpty()) {
            return titles.indexOf(chosen.toLowerCase(Locale.ROOT));
        }
        for (int i = 0; i < titles.size(); i++) {
            String ucd = table.getColumnInfo(i).getUCD();
            if (ucd != null && ucd.toLowerCase(Locale.ROOT).startsWith(role.ucd)) {
                return i;
            }
        }
        return role.usual.stream()
                .mapToInt(titles::indexOf)
                .filter(i -> i >= 0)
                .findFirst()
                .orElse(-1);
    }
}
