package app.ironside.solve;

import app.ironside.BadInputException;
import app.ironside.TextFiles;
import app.ironside.image.AtomicFile;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Stars that a user's own solved frames hold and no catalogue at hand does. A wide frame is recognised by the few bright stars of the
 * catalogue; what else it shows is then known to a second of arc or so, and narrow fields inside it are recognised by that. Immutable;
 * kept as CSV, which any table reader takes.
 */
public final class OwnStars {
    public static final OwnStars NONE = new OwnStars(List.of());

    private static final String TITLES = "raDeg,decDeg,magnitude,placeErrorArcsec,year";

    /** Fainter ones have places that lead astray. */
    private static final double FAINTEST_SNR = 10;

    /** From a frame so coarse that its stars are known no better, none is kept: a narrow field could not be recognised by them. */
    private static final double LARGEST_ERROR_ARCSEC = 4;

    /** Two places that differ by less than so many of their errors are one star's. */
    private static final double SAME_SIGMAS = 4;

    private static final double SAME_AT_LEAST_ARCSEC = 2;

    private final List<Entry> entries;

    /**
     * One star.
     *
     * @param place at the frame's epoch; the motion of some years is below the error
     * @param errorArcsec of the place, an axis
     * @param year Julian year of the frame
     */
    private record Entry(Equatorial place, double magnitude, double errorArcsec, double year) {}

    private OwnStars(List<Entry> entries) {
        this.entries = List.copyOf(entries);
    }

    public int size() {
        return entries.size();
    }

    /** As a catalogue, to be joined to another. */
    public StarCatalogue catalogue() {
        return StarCatalogue.of(
                "own ",
                entries.stream().map(Entry::place).toList(),
                entries.stream().mapToDouble(Entry::magnitude).toArray());
    }

    /**
     * These and the stars of a solved frame that the catalogue does not hold. Of a star that was known less well, the new place counts.
     *
     * @param field the stars by which it was solved
     * @param catalogue by which it was solved; magnitudes are put on its scale
     * @param year Julian year of the frame
     * @throws BadInputException if the frame's places are too coarse to serve a narrower field
     */
    public OwnStars with(PlateSolution solution, StarField field, StarCatalogue catalogue, double year) {
        double axisRms = solution.rmsArcsec() / Math.sqrt(2);
        double scale = solution.scaleArcsecPerPixel();
        if (axisRms > LARGEST_ERROR_ARCSEC) {
            throw new BadInputException(
                    "the frame",
                    String.format(
                            Locale.ROOT,
                            "has %.1f″ a pixel, and its stars' places are known to %.1f″ only",
                            scale,
                            axisRms),
                    String.format(
                            Locale.ROOT,
                            "places to %.0f″: a longer lens or smaller pixels, in focus",
                            LARGEST_ERROR_ARCSEC));
        }
        double zero = ZeroPoint.of(solution, field, catalogue)
                .orElseThrow(() ->
                        new IllegalArgumentException("no matched star is one of the field's and the catalogue's"));
        List<Entry> seen = new ArrayList<>();
        for (Star star : field.stars()) {
            double error = Math.hypot(axisRms, scale * Verifier.sigmaPx(star));
            Equatorial place = solution.wcs().toSky(star.x(), star.y());
            double same = Math.max(SAME_AT_LEAST_ARCSEC, SAME_SIGMAS * error);
            if (star.snr() >= FAINTEST_SNR
                    && error <= LARGEST_ERROR_ARCSEC
                    && catalogue.indicesWithin(place, same / 3600).length == 0) {
                seen.add(new Entry(place, zero - 2.5 * Math.log10(star.fluxAdu()), error, year));
            }
        }
        return merged(seen);
    }

    private OwnStars merged(List<Entry> seen) {
        StarCatalogue before = catalogue();
        boolean[] worse = new boolean[entries.size()];
        List<Entry> kept = new ArrayList<>();
        // The catalogue is sorted by declination; an entry is found again by its name, which is its place in the list.
        for (Entry entry : seen) {
            int[] known = Arrays.stream(
                            before.indicesWithin(entry.place, 2 * SAME_SIGMAS * LARGEST_ERROR_ARCSEC / 3600))
                    .map(i -> Integer.parseInt(before.star(i).name().substring("own ".length())) - 1)
                    .filter(i -> isSame(entries.get(i), entry))
                    .toArray();
            boolean better = Arrays.stream(known).allMatch(i -> entry.errorArcsec < entries.get(i).errorArcsec);
            if (better) {
                Arrays.stream(known).forEach(i -> worse[i] = true);
                kept.add(entry);
            }
        }
        List<Entry> all = new ArrayList<>();
        for (int i = 0; i < worse.length; i++) {
            if (!worse[i]) {
                all.add(entries.get(i));
            }
        }
        all.addAll(kept);
        return new OwnStars(all);
    }

    private static boolean isSame(Entry a, Entry b) {
        double reach = Math.max(SAME_AT_LEAST_ARCSEC, SAME_SIGMAS * Math.hypot(a.errorArcsec, b.errorArcsec));
        return a.place.separationDeg(b.place) * 3600 < reach;
    }

    /** Writes the stars as CSV, whole or not at all. */
    public void write(Path file) {
        StringBuilder csv = new StringBuilder(TITLES).append('\n');
        for (Entry e : entries) {
            csv.append(String.format(
                    Locale.ROOT,
                    "%.6f,%.6f,%.3f,%.2f,%.2f%n",
                    e.place.raDeg(),
                    e.place.decDeg(),
                    e.magnitude,
                    e.errorArcsec,
                    e.year));
        }
        AtomicFile.write(file, out -> out.write(csv.toString().getBytes(StandardCharsets.UTF_8)));
    }

    /**
     * Reads what {@link #write} wrote.
     *
     * @throws BadInputException at the first line that is no star
     */
    public static OwnStars read(Path file) {
        List<String> lines = TextFiles.lines(file, TITLES);
        List<Entry> entries = new ArrayList<>(lines.size());
        for (int i = 1; i < lines.size(); i++) {
            try {
                double[] v = Arrays.stream(lines.get(i).split(",", -1))
                        .mapToDouble(Double::parseDouble)
                        .toArray();
                entries.add(new Entry(new Equatorial(v[0], v[1]), v[2], v[3], v[4]));
            } catch (IllegalArgumentException | ArrayIndexOutOfBoundsException e) {
                throw new BadInputException(
                        file + " line " + (i + 1), "\"" + lines.get(i) + "\" is no star", TITLES + " as numbers", e);
            }
        }
        return new OwnStars(entries);
    }
}
