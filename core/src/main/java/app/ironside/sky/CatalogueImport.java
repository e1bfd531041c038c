package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
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

    /**
     * Reads a whole table. Rows without a place or a magnitude are left out.
     *
     * @param progress told after every 50,000 rows
     * @throws java.util.concurrent.CancellationException if it says so
     * @throws BadInputException if the file is no table, a column is missing, or a value is out of range
     */
    public static StarCatalogue read(Path file, Columns columns, Progress progress) {
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
            return new CatalogueImport(table, file.getFileName().toString(), columns).rows(progress);
        } catch (IOException e) {
            throw new BadInputException(
                    file.toString(), "is no table that can be read: " + e.getMessage(), "FITS, VOTable or CSV", e);
        }
    }

    private StarCatalogue rows(Progress progress) throws IOException {
        int ra = need(
                columns.ra(), "right ascension", List.of("pos.eq.ra"), "ra", "radeg", "raj2000", "ra_icrs", "_raj2000");
        int dec = need(
                columns.dec(),
                "declination",
                List.of("pos.eq.dec"),
                "dec",
                "decdeg",
                "dej2000",
                "decj2000",
                "de_icrs",
                "dec_icrs",
                "_dej2000");
        int magnitude = need(
                columns.magnitude(),
                "magnitude",
                List.of("phot.mag"),
                "magnitude",
                "mag",
                "vmag",
                "v",
                "gmag",
                "phot_g_mean_mag",
                "rmag");
        int colour = find(columns.colour(), List.of("phot.color"), "b-v", "bv", "colour", "color");
        int motionRa = find(columns.motionRa(), List.of("pos.pm;pos.eq.ra"), "pmra", "pm_ra", "pmra_cosdec");
        int motionDec = find(columns.motionDec(), List.of("pos.pm;pos.eq.dec"), "pmdec", "pm_dec", "pmde");
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
                if (Double.isNaN(star[1] + star[2] + star[3])) {
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

    private int need(String chosen, String what, List<String> ucds, String... usual) {
        int column = find(chosen, ucds, usual);
        if (column < 0) {
            throw new BadInputException(
                    name,
                    chosen.isEmpty()
                            ? "has no column of " + what + " under a usual name"
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

    private int find(String chosen, List<String> ucds, String... usual) {
        List<String> titles =
                titles().stream().map(t -> t.toLowerCase(Locale.ROOT)).toList();
        if (!chosen.isEmpty()) {
            return titles.indexOf(chosen.toLowerCase(Locale.ROOT));
        }
        for (int i = 0; i < titles.size(); i++) {
            String ucd = table.getColumnInfo(i).getUCD();
            if (ucd != null
                    && ucds.stream().anyMatch(u -> ucd.toLowerCase(Locale.ROOT).startsWith(u))) {
                return i;
            }
        }
        return Arrays.stream(usual)
                .mapToInt(titles::indexOf)
                .filter(i -> i >= 0)
                .findFirst()
                .orElse(-1);
    }
}
