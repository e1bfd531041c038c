package app.ironside.sky;

import app.ironside.BadInputException;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.zip.GZIPInputStream;

/**
 * Stars sorted by declination, so that a field is cut from a narrow band. Immutable.
 *
 * <p>The shipped catalogue is Hipparcos, 118,216 stars, J2000, positions to 0.4″; complete to about V 7.3 and sparse below 9.
 */
public final class StarCatalogue {
    private static final double SUN_COLOUR = 0.6;

    private final String prefix;
    private final int[] number;
    private final double[] raDeg;
    private final double[] decDeg;
    private final float[] magnitude;
    private final float[] colour;

    private StarCatalogue(String prefix, List<double[]> rows) {
        rows.sort(Comparator.comparingDouble(row -> row[2]));
        this.prefix = prefix;
        int n = rows.size();
        number = new int[n];
        raDeg = new double[n];
        decDeg = new double[n];
        magnitude = new float[n];
        colour = new float[n];
        for (int i = 0; i < n; i++) {
            double[] row = rows.get(i);
            number[i] = (int) row[0];
            raDeg[i] = row[1];
            decDeg[i] = row[2];
            magnitude[i] = (float) row[3];
            colour[i] = (float) row[4];
        }
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
        return new StarCatalogue(prefix, rows);
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
                    row[field] = Double.parseDouble(line.substring(from, end));
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

    public int size() {
        return number.length;
    }

    /** One star by its place in the order of declination, 0 up to {@link #size}. */
    public CatalogueStar star(int index) {
        return new CatalogueStar(
                prefix + number[index], new Equatorial(raDeg[index], decDeg[index]), magnitude[index], colour[index]);
    }

    public double raDeg(int index) {
        return raDeg[index];
    }

    public double decDeg(int index) {
        return decDeg[index];
    }

    public double magnitude(int index) {
        return magnitude[index];
    }

    /** Stars within a circle, brightest first. */
    public List<CatalogueStar> within(Equatorial centre, double radiusDeg) {
        int first = firstAtOrAbove(centre.decDeg() - radiusDeg);
        double cosRadius = Angles.cosDeg(Math.min(180, radiusDeg));
        double[] middle = Vectors.of(centre.raDeg(), centre.decDeg());
        List<CatalogueStar> found = new ArrayList<>();
        for (int i = first; i < decDeg.length && decDeg[i] <= centre.decDeg() + radiusDeg; i++) {
            if (Vectors.dot(middle, Vectors.of(raDeg[i], decDeg[i])) >= cosRadius) {
                found.add(star(i));
            }
        }
        found.sort(Comparator.comparingDouble(CatalogueStar::magnitude));
        return found;
    }

    private int firstAtOrAbove(double dec) {
        int at = Arrays.binarySearch(decDeg, dec);
        while (at > 0 && decDeg[at - 1] >= dec) {
            at--;
        }
        return at >= 0 ? at : -at - 1;
    }
}
