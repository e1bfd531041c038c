package app.ironside.sky;

import app.ironside.BadInputException;
import app.ironside.image.AtomicFile;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.zip.CRC32;
import java.util.zip.GZIPInputStream;

/**
 * Stars sorted by declination, so that a field is cut from a narrow band. Immutable.
 *
 * <p>The shipped catalogue is Hipparcos, 118,216 stars, J2000, positions to 0.4″; complete to about V 7.3 and sparse below 9.
 */
public final class StarCatalogue {
    static final double SUN_COLOUR = 0.6;

    private static final String FORMAT =
            "Ironside stars 2: prefixes; number int, origin byte, ra dec double, magnitude colour float; motions float";

    /** With its point. */
    private static final int MOST_DIGITS = 15;

    private static final double[] TENS = IntStream.rangeClosed(0, MOST_DIGITS)
            .mapToDouble(k -> Double.parseDouble("1e" + k))
            .toArray();

    private final List<String> prefixes;
    private final Columns columns;
    private final SkyCells cells;

    /**
     * The stars, column by column, in rising declination.
     *
     * @param origin which of the prefixes goes before the star's number
     * @param motions eastward and northward, mas a year, two for each star; empty if the catalogue has none
     */
    private record Columns(
            int[] number,
            byte[] origin,
            double[] raDeg,
            double[] decDeg,
            float[] magnitude,
            float[] colour,
            float[] motions) {
        Columns(int n, boolean moving) {
            this(
                    new int[n],
                    new byte[n],
                    new double[n],
                    new double[n],
                    new float[n],
                    new float[n],
                    new float[moving ? 2 * n : 0]);
        }

        boolean moving() {
            return motions.length > 0;
        }

        void copy(Columns from, int index, int to, int firstOrigin) {
            number[to] = from.number[index];
            origin[to] = (byte) (firstOrigin + from.origin[index]);
            raDeg[to] = from.raDeg[index];
            decDeg[to] = from.decDeg[index];
            magnitude[to] = from.magnitude[index];
            colour[to] = from.colour[index];
            if (from.moving()) {
                motions[2 * to] = from.motions[2 * index];
                motions[2 * to + 1] = from.motions[2 * index + 1];
            }
        }
    }

    private StarCatalogue(List<String> prefixes, Columns columns) {
        this.prefixes = List.copyOf(prefixes);
        this.columns = columns;
        this.cells = new SkyCells(columns.raDeg, columns.decDeg);
    }

    /**
     * Makes a catalogue of rows in any order.
     *
     * @param prefix put before the number to name a star
     * @param rows number, right ascension and declination (degrees, J2000), magnitude, B−V, and, if {@code moving}, the motions
     *     eastward and northward in mas a year; sorted in place
     */
    static StarCatalogue of(String prefix, List<double[]> rows, boolean moving) {
        rows.sort(Comparator.comparingDouble(row -> row[2]));
        int n = rows.size();
        Columns c = new Columns(n, moving);
        for (int i = 0; i < n; i++) {
            double[] row = rows.get(i);
            c.number[i] = (int) row[0];
            c.raDeg[i] = row[1];
            c.decDeg[i] = row[2];
            c.magnitude[i] = (float) row[3];
            c.colour[i] = (float) row[4];
            if (moving) {
                c.motions[2 * i] = (float) row[5];
                c.motions[2 * i + 1] = (float) row[6];
            }
        }
        return new StarCatalogue(List.of(prefix), c);
    }

    /**
     * A catalogue of unmoving stars, given in any order.
     *
     * @param prefix put before a star's place in the list, from 1, to name it
     * @param places J2000
     * @param magnitudes one for each place
     */
    public static StarCatalogue of(String prefix, List<Equatorial> places, double[] magnitudes) {
        List<double[]> rows = new ArrayList<>(magnitudes.length);
        for (int i = 0; i < magnitudes.length; i++) {
            rows.add(new double[] {i + 1, places.get(i).raDeg(), places.get(i).decDeg(), magnitudes[i], SUN_COLOUR});
        }
        return of(prefix, rows, false);
    }

    /**
     * These stars, and those of another catalogue that are not among them.
     *
     * @param sameArcsec a star of the other that stands so near to one of these is the same
     */
    public StarCatalogue joined(StarCatalogue other, double sameArcsec) {
        int[] lacking = IntStream.range(0, other.size())
                .filter(i -> !holds(other.raDeg(i), other.decDeg(i), sameArcsec))
                .toArray();
        Columns theirs = other.columns;
        Columns all = new Columns(size() + lacking.length, columns.moving() || theirs.moving());
        int mine = 0;
        int next = 0;
        for (int i = 0; i < all.number.length; i++) {
            if (next == lacking.length || mine < size() && columns.decDeg[mine] <= theirs.decDeg[lacking[next]]) {
                all.copy(columns, mine++, i, 0);
            } else {
                all.copy(theirs, lacking[next++], i, prefixes.size());
            }
        }
        List<String> names = new ArrayList<>(prefixes);
        names.addAll(other.prefixes);
        return new StarCatalogue(names, all);
    }

    private boolean holds(double raDeg, double decDeg, double withinArcsec) {
        return indicesWithin(new Equatorial(raDeg, decDeg), withinArcsec / 3600).length > 0;
    }

    /** The Hipparcos stars that ship with Ironside. */
    public static StarCatalogue hipparcos() {
        try (InputStream in = StarCatalogue.class.getResourceAsStream("stars.csv.gz");
                BufferedReader reader = new BufferedReader(
                        new InputStreamReader(new GZIPInputStream(in, 1 << 16), StandardCharsets.US_ASCII), 1 << 16)) {
            return parse(reader, "stars.csv.gz", "HIP ");
        } catch (IOException e) {
            throw new UncheckedIOException("the star catalogue inside the application cannot be read", e);
        }
    }

    /**
     * Reads {@code number,raDeg,decDeg,magnitude[,colour]} lines below one line of titles.
     *
     * @param reader is left open
     * @param name for messages
     * @param prefix put before the number to name a star
     */
    public static StarCatalogue parse(BufferedReader reader, String name, String prefix) throws IOException {
        List<double[]> rows = new ArrayList<>(120_000);
        reader.readLine();
        int lineNumber = 1;
        for (String line = reader.readLine(); line != null; line = reader.readLine()) {
            lineNumber++;
            rows.add(row(line, name, lineNumber));
        }
        return of(prefix, rows, false);
    }

    private static double[] row(String line, String name, int lineNumber) {
        double[] row = {lineNumber, 0, 0, 0, SUN_COLOUR};
        int from = 0;
        int field = 0;
        try {
            while (field < row.length && from <= line.length()) {
                int comma = line.indexOf(',', from);
                int end = comma < 0 ? line.length() : comma;
                if (end > from) {
                    row[field] = number(line, from, end);
                }
                from = end + 1;
                field++;
            }
        } catch (NumberFormatException e) {
            field = 0;
        }
        if (field < 4 || !(Math.abs(row[2]) <= 90)) {
            throw new BadInputException(
                    name + " line " + lineNumber,
                    "\"" + line + "\" is not a star",
                    "number, right ascension and declination in degrees, magnitude");
        }
        return row;
    }

    /**
     * A decimal number in a line. One of few digits is a whole number over a power of ten, both exact, so that their ratio is what
     * {@link Double#parseDouble} gives; a hundred thousand stars are read twice as fast.
     */
    static double number(String line, int from, int end) {
        long digits = 0;
        int behindPoint = -1;
        int first = line.charAt(from) == '-' ? from + 1 : from;
        if (end - first > MOST_DIGITS || end == first) {
            return Double.parseDouble(line.substring(from, end));
        }
        for (int i = first; i < end; i++) {
            char c = line.charAt(i);
            if (c == '.' && behindPoint < 0) {
                behindPoint = end - i - 1;
            } else if (c >= '0' && c <= '9') {
                digits = 10 * digits + c - '0';
            } else {
                return Double.parseDouble(line.substring(from, end));
            }
        }
        if (behindPoint == 0 && end - first == 1) {
            return Double.parseDouble(line.substring(from, end));
        }
        double size = behindPoint > 0 ? digits / TENS[behindPoint] : digits;
        return first > from ? -size : size;
    }

    public int size() {
        return columns.number.length;
    }

    /** One star by its place in the order of declination, 0 up to {@link #size}. */
    public CatalogueStar star(int index) {
        boolean moving = columns.moving();
        return new CatalogueStar(
                prefixes.get(columns.origin[index]) + columns.number[index],
                new Equatorial(columns.raDeg[index], columns.decDeg[index]),
                columns.magnitude[index],
                columns.colour[index],
                moving ? columns.motions[2 * index] : 0,
                moving ? columns.motions[2 * index + 1] : 0);
    }

    public double raDeg(int index) {
        return columns.raDeg[index];
    }

    public double decDeg(int index) {
        return columns.decDeg[index];
    }

    public double magnitude(int index) {
        return columns.magnitude[index];
    }

    /** By what an index made of this catalogue is known to belong to it. */
    public long fingerprint() {
        CRC32 crc = new CRC32();
        ByteBuffer row = ByteBuffer.allocate(24);
        for (int i = 0; i < size(); i++) {
            row.clear();
            row.putDouble(columns.raDeg[i]).putDouble(columns.decDeg[i]).putFloat(columns.magnitude[i]);
            crc.update(row.array(), 0, 20);
        }
        return crc.getValue() ^ ((long) size() << 32);
    }

    /**
     * Writes the catalogue as one file, whole or not at all: a line of text that names the columns, then each column in big-endian
     * binary. {@link #open} reads it in a fraction of the time that the table took.
     */
    public void write(Path file) {
        AtomicFile.write(file, stream -> {
            DataOutputStream out = new DataOutputStream(new BufferedOutputStream(stream, 1 << 16));
            out.writeUTF(FORMAT);
            out.writeByte(prefixes.size());
            for (String prefix : prefixes) {
                out.writeUTF(prefix);
            }
            out.writeInt(size());
            out.writeBoolean(columns.moving());
            for (int i = 0; i < size(); i++) {
                out.writeInt(columns.number[i]);
                out.writeByte(columns.origin[i]);
                out.writeDouble(columns.raDeg[i]);
                out.writeDouble(columns.decDeg[i]);
                out.writeFloat(columns.magnitude[i]);
                out.writeFloat(columns.colour[i]);
            }
            for (float motion : columns.motions) {
                out.writeFloat(motion);
            }
            out.flush();
        });
    }

    /**
     * Opens a catalogue that was written by {@link #write}.
     *
     * @throws BadInputException if the file is another kind or is cut short
     */
    public static StarCatalogue open(Path file) {
        try (DataInputStream in = new DataInputStream(new BufferedInputStream(Files.newInputStream(file), 1 << 20))) {
            if (!in.readUTF().equals(FORMAT)) {
                throw new IOException("it begins otherwise");
            }
            List<String> prefixes = new ArrayList<>();
            for (int left = in.readUnsignedByte(); left > 0; left--) {
                prefixes.add(in.readUTF());
            }
            int n = in.readInt();
            Columns c = new Columns(n, in.readBoolean());
            for (int i = 0; i < n; i++) {
                c.number[i] = in.readInt();
                c.origin[i] = in.readByte();
                c.raDeg[i] = in.readDouble();
                c.decDeg[i] = in.readDouble();
                c.magnitude[i] = in.readFloat();
                c.colour[i] = in.readFloat();
            }
            for (int i = 0; i < c.motions.length; i++) {
                c.motions[i] = in.readFloat();
            }
            return new StarCatalogue(prefixes, c);
        } catch (IOException e) {
            throw new BadInputException(
                    file.toString(), "is no whole star catalogue of Ironside", "import the table of stars again", e);
        }
    }

    /** Stars within a circle, brightest first. */
    public List<CatalogueStar> within(Equatorial centre, double radiusDeg) {
        return Arrays.stream(indicesWithin(centre, radiusDeg))
                .mapToObj(this::star)
                .toList();
    }

    /** As {@link #within}, the stars' indices only. */
    public int[] indicesWithin(Equatorial centre, double radiusDeg) {
        double cosRadius = Angles.cosDeg(Math.min(180, radiusDeg));
        double[] middle = Vectors.of(centre.raDeg(), centre.decDeg());
        LongStream.Builder keys = LongStream.builder();
        cells.near(centre.raDeg(), centre.decDeg(), Math.min(180, radiusDeg), i -> {
            double[] there = Vectors.of(columns.raDeg[i], columns.decDeg[i]);
            if (Vectors.dot(middle, there) >= cosRadius) {
                keys.add(brightnessKey(i));
            }
        });
        return keys.build().sorted().mapToInt(key -> (int) key).toArray();
    }

    /** Magnitude above, index below: sorted as primitives, stars come brightest first. */
    private long brightnessKey(int index) {
        return Math.round((columns.magnitude[index] + 30.0) * 1000) << 32 | index;
    }

    /** The same indices, brightest first. */
    public int[] brightestFirst(IntStream indices) {
        return indices.mapToLong(this::brightnessKey)
                .sorted()
                .mapToInt(key -> (int) key)
                .toArray();
    }
}
