package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import uk.ac.starlink.table.ColumnInfo;
import uk.ac.starlink.table.StarTable;
import uk.ac.starlink.table.TableSink;

/**
 * Reads a table of stars (FITS, VOTable, CSV) into a catalogue. Columns are found by their usual names or their UCDs, or named by the
 * user; positions of another epoch are brought to J2000 by the proper motions, if the table has them.
 */
public final class CatalogueImport {
    private static final long ROWS_A_REPORT = 50_000;

    /** So many rows of a table that does not tell their number are counted for a first look. */
    private static final int COUNTED = 100_000;

    /** 80 bytes each while they are read: a third of the memory that is given by default. */
    private static final int MOST_STARS = 10_000_000;

    /** No star is so faint: catalogues write 99 or -999 for "not measured". */
    private static final int FAINTEST = 40;

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

    private final String name;
    private final Columns columns;

    /** Of the table that is being read; empty until its head is known. */
    private List<ColumnInfo> infos = List.of();

    private CatalogueImport(Path file, Columns columns) {
        this.name = file.getFileName().toString();
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
        CatalogueImport table = new CatalogueImport(file, Columns.USUAL);
        FirstRows first = table.new FirstRows(rows);
        try {
            TableFile.open(file).read(first);
        } catch (TableFile.Enough seen) {
            return first.sample();
        }
        return first.sample();
    }

    /**
     * Reads a whole table. Rows without a place or a magnitude are left out.
     *
     * @param progress told after every 50,000 rows
     * @throws java.util.concurrent.CancellationException if it says so
     * @throws BadInputException if the file is no table, a column is missing, a value is out of range, or it has more rows than can be held
     */
    public static StarCatalogue read(Path file, Columns columns, Progress progress) {
        CatalogueImport table = new CatalogueImport(file, columns);
        AllRows all = table.new AllRows(progress);
        TableFile.open(file).read(all);
        return all.catalogue();
    }

    private void head(StarTable table) {
        infos = new ArrayList<>();
        for (int i = 0; i < table.getColumnCount(); i++) {
            infos.add(table.getColumnInfo(i));
        }
    }

    /** Keeps the first rows as text. */
    private final class FirstRows implements TableSink {
        private final int most;
        private final List<List<String>> first = new ArrayList<>();
        private long rows = -1;
        private long beyond;

        FirstRows(int most) {
            this.most = most;
        }

        @Override
        public void acceptMetadata(StarTable table) {
            head(table);
            rows = table.getRowCount();
        }

        @Override
        public void acceptRow(Object[] cells) {
            if (first.size() == most) {
                if (rows >= 0 || ++beyond > COUNTED) {
                    throw new TableFile.Enough();
                }
                return;
            }
            List<String> row = new ArrayList<>();
            for (Object cell : cells) {
                row.add(cell == null ? "" : Printable.line(cell.toString()));
            }
            first.add(row);
        }

        @Override
        public void endRows() {
            rows = rows < 0 ? first.size() + beyond : rows;
        }

        Sample sample() {
            return new Sample(
                    titles(),
                    new Columns(
                            titled(Role.RA),
                            titled(Role.DEC),
                            titled(Role.MAGNITUDE),
                            titled(Role.COLOUR),
                            titled(Role.MOTION_RA),
                            titled(Role.MOTION_DEC),
                            2000),
                    rows,
                    first);
        }
    }

    private String titled(Role role) {
        int column = find("", role);
        return column < 0 ? "" : titles().get(column);
    }

    /** Takes every row that is a star. */
    private final class AllRows implements TableSink {
        private final Progress progress;
        private final List<double[]> stars = new ArrayList<>();
        private int[] at = {};
        private boolean moving;
        private double hours = 1;
        private long total = -1;
        private long row;

        AllRows(Progress progress) {
            this.progress = progress;
        }

        @Override
        public void acceptMetadata(StarTable table) {
            head(table);
            total = table.getRowCount();
            at = new int[] {
                need(columns.ra(), Role.RA),
                need(columns.dec(), Role.DEC),
                need(columns.magnitude(), Role.MAGNITUDE),
                find(columns.colour(), Role.COLOUR),
                find(columns.motionRa(), Role.MOTION_RA),
                find(columns.motionDec(), Role.MOTION_DEC)
            };
            moving = at[4] >= 0 && at[5] >= 0;
            hours = hours(infos.get(at[0]));
            if (!moving && columns.epochYear() != 2000) {
                throw new BadInputException(
                        name,
                        String.format(Locale.ROOT, "has positions of %.1f and no proper motions", columns.epochYear()),
                        "columns of proper motions, or positions of J2000");
            }
        }

        @Override
        public void acceptRow(Object[] cells) {
            row++;
            double[] star = {
                row,
                number(cells, at[0]) * hours,
                number(cells, at[1]),
                number(cells, at[2]),
                at[3] < 0 ? Double.NaN : number(cells, at[3]),
                moving ? number(cells, at[4]) : 0,
                moving ? number(cells, at[5]) : 0
            };
            if (row % ROWS_A_REPORT == 0) {
                progress.step("Reading " + name, total > 0 ? (double) row / total : 0);
            }
            if (!Double.isFinite(star[1] + star[2] + star[3]) || Math.abs(star[3]) > FAINTEST) {
                return;
            }
            check(star, row);
            if (stars.size() == MOST_STARS) {
                throw new BadInputException(
                        name,
                        "has more than " + MOST_STARS / 1_000_000 + " million stars",
                        "a table cut to a region or a magnitude");
            }
            stars.add(atJ2000(star, moving));
        }

        @Override
        public void endRows() {
            progress.step("Reading " + name, 1);
        }

        StarCatalogue catalogue() {
            if (stars.isEmpty()) {
                throw new BadInputException(name, "has no row with a place and a magnitude", "a table of stars");
            }
            return StarCatalogue.of(name + " row ", stars, moving);
        }
    }

    private void check(double[] star, long row) {
        if (Math.abs(star[2]) > 90 || star[1] < -360 || star[1] > 720) {
            throw new BadInputException(
                    name + " row " + row,
                    String.format(Locale.ROOT, "is at right ascension %.7g, declination %.7g", star[1], star[2]),
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

    private static double number(Object[] cells, int column) {
        return cells[column] instanceof Number n ? n.doubleValue() : Double.NaN;
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
        infos.forEach(i -> titles.add(Printable.line(String.valueOf(i.getName()))));
        return titles;
    }

    private int find(String chosen, Role role) {
        List<String> titles =
                titles().stream().map(t -> t.toLowerCase(Locale.ROOT)).toList();
        if (!chosen.isEmpty()) {
            return titles.indexOf(chosen.toLowerCase(Locale.ROOT));
        }
        for (int i = 0; i < titles.size(); i++) {
            String ucd = infos.get(i).getUCD();
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
