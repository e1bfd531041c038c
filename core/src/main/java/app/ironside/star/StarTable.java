package app.ironside.star;

import app.ironside.BadInputException;
import app.ironside.image.AtomicFile;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/**
 * Measured stars as a table that any program reads: CSV, brightest first; and, compressed, as they are kept beside a sub so that nobody
 * need measure it again to see its stars.
 */
public final class StarTable {
    public static final String HEADER = "x,y,flux,peak,hfr,fwhm,eccentricity,angleDeg,snr,saturated";

    /** What follows a frame's name in that of its table. */
    private static final String ENDING = ".stars.csv.gz";

    /** Of a crowded frame the faintest are left out: they judge nothing. */
    private static final int MOST_KEPT = 2000;

    private static final int COLUMNS = HEADER.split(",").length;

    private StarTable() {}

    /** One star as a line without its end. */
    public static String line(Star s) {
        return String.format(
                Locale.ROOT,
                "%.4f,%.4f,%.2f,%.2f,%.4f,%.4f,%.4f,%.2f,%.2f,%b",
                s.x(),
                s.y(),
                s.fluxAdu(),
                s.peakAdu(),
                s.halfFluxRadiusPx(),
                s.fwhmPx(),
                s.eccentricity(),
                s.angleDeg(),
                s.snr(),
                s.saturated());
    }

    /** All stars of a field as text. */
    public static String text(StarField field) {
        StringBuilder text = new StringBuilder(HEADER).append('\n');
        field.stars().forEach(s -> text.append(line(s)).append('\n'));
        return text.toString();
    }

    /** Where a frame's stars are kept. */
    public static Path beside(Path frame) {
        return frame.resolveSibling(frame.getFileName().toString().replaceFirst("\\.fits$", "") + ENDING);
    }

    /** Keeps a frame's brightest stars beside it. */
    public static void keep(Path frame, StarField field) {
        List<Star> kept =
                field.stars().subList(0, Math.min(MOST_KEPT, field.stars().size()));
        AtomicFile.write(beside(frame), out -> {
            GZIPOutputStream packed = new GZIPOutputStream(out);
            Writer writer = new OutputStreamWriter(packed, StandardCharsets.UTF_8);
            writer.write(String.format(
                            Locale.ROOT,
                            "# width=%d height=%d background=%.3f noise=%.4f found=%d%n",
                            field.width(),
                            field.height(),
                            field.backgroundAdu(),
                            field.noiseAdu(),
                            field.stars().size())
                    .replace("\r", ""));
            writer.write(HEADER + "\n");
            for (Star star : kept) {
                writer.write(line(star) + "\n");
            }
            writer.flush();
            packed.finish();
        });
    }

    /**
     * The stars that are kept beside a frame, brightest first; empty if none are.
     *
     * @throws BadInputException if the table cannot be read, naming it
     */
    public static Optional<List<Star>> kept(Path frame) {
        Path file = beside(frame);
        if (!Files.exists(file)) {
            return Optional.empty();
        }
        try (BufferedReader lines = new BufferedReader(
                new InputStreamReader(new GZIPInputStream(Files.newInputStream(file)), StandardCharsets.UTF_8))) {
            List<Star> stars = new ArrayList<>();
            for (String line = lines.readLine(); line != null && stars.size() < MOST_KEPT; line = lines.readLine()) {
                if (!line.startsWith("#") && !line.equals(HEADER)) {
                    stars.add(star(line, file));
                }
            }
            return Optional.of(stars);
        } catch (IOException e) {
            throw new BadInputException(
                    file.toString(), "is no whole table of stars", "delete it: the frame can be measured again", e);
        }
    }

    private static Star star(String line, Path file) throws IOException {
        String[] cells = line.split(",");
        if (cells.length != COLUMNS) {
            throw new IOException("a line of " + cells.length + " values in " + file);
        }
        double[] v = new double[COLUMNS - 1];
        try {
            for (int i = 0; i < v.length; i++) {
                v[i] = Double.parseDouble(cells[i]);
            }
        } catch (NumberFormatException e) {
            throw new IOException("a value that is no number in " + file, e);
        }
        return new Star(
                v[0],
                v[1],
                v[2],
                v[3],
                v[4],
                v[5],
                v[6],
                v[7],
                v[8],
                Boolean.parseBoolean(cells[COLUMNS - 1]),
                0,
                Optional.empty());
    }
}
