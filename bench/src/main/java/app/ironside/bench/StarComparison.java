package app.ironside.bench;

import app.ironside.Workers;
import app.ironside.image.FitsFiles;
import app.ironside.sim.InventedField;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/**
 * Star measurement beside a general-purpose source-extraction library, on the same invented frames, in one run, each on one thread:
 * completeness, purity, centroids against their photon limit, half-flux radii, time. Run from the project's root:
 * {@code java -cp "bench/target/*:bench/target/lib/*" app.ironside.bench.StarComparison}. Without Python and the library only
 * Ironside's own figures are printed.
 */
public final class StarComparison {
    private static final double COUNTED_SNR = 10;
    private static final double THRESHOLD = 5;
    private static final int REPEATS = 5;

    /** A measured place. */
    private record Found(double x, double y, double halfFluxRadiusPx, double snr) {}

    private StarComparison() {}

    public static void main(String[] arguments) throws IOException, InterruptedException {
        Path folder = Files.createTempDirectory("ironside-stars");
        InventedField.Settings s = InventedField.Settings.DEFAULT;
        List<InventedField.Settings> fields = List.of(
                s.withSeed(1),
                s.withSize(2000, 1500, 4000).withSeed(2),
                s.withFwhmPx(1.8).withSeed(3),
                s.withFwhmPx(6).withSeed(4),
                s.withSize(6000, 4000, 2000).withFaintestSnr(10).withSeed(5));
        say("%-28s %-9s %9s %9s %9s %9s %9s%n", "field", "by", "complete", "pure", "centroid", "hfr bias", "ms");
        for (InventedField.Settings settings : fields) {
            compare(settings, folder);
        }
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                Files.delete(file);
            }
        }
        Files.delete(folder);
    }

    private static void compare(InventedField.Settings settings, Path folder) throws IOException, InterruptedException {
        InventedField field = InventedField.of(settings, Workers.ALL_CORES);
        String name = settings.width() + " x " + settings.height() + ", " + settings.stars() + " of "
                + settings.fwhmPx() + " px";
        Path file = folder.resolve("field.fits");
        FitsFiles.write(file, field.frame(), FitsFiles.Encoding.UNSIGNED_16);
        StarField found = time(field, name, Workers.SERIAL, "one");
        time(field, name, Workers.ALL_CORES, "two");
        report(field, settings, name, "Ironside", places(found));
        Process process = new ProcessBuilder(
                        "/usr/bin/python3",
                        "tools/measure-with-sep.py",
                        "" + THRESHOLD / 2,
                        "" + REPEATS,
                        file.toString())
                .redirectErrorStream(true)
                .start();
        String said;
        try (InputStream out = process.getInputStream()) {
            said = new String(out.readAllBytes(), StandardCharsets.UTF_8).strip();
        }
        if (process.waitFor() != 0) {
            say(
                    "the other library is not here: %s%n",
                    said.lines().reduce((a, b) -> b).orElse(""));
            return;
        }
        List<Found> theirs = new ArrayList<>();
        for (String line :
                Files.readAllLines(Path.of(file + ".sep.csv")).stream().skip(1).toList()) {
            String[] v = line.split(",");
            theirs.add(new Found(
                    Double.parseDouble(v[0]),
                    Double.parseDouble(v[1]),
                    Double.parseDouble(v[3]),
                    Double.parseDouble(v[4])));
        }
        say("%-28s %-9s %49.0f%n", name, "library 1", 1000 * Double.parseDouble(said));
        report(field, settings, name, "library", theirs);
    }

    private static StarField time(InventedField field, String name, Workers workers, String threads) {
        StarFinder finder = new StarFinder(DetectSettings.DEFAULT, workers);
        StarField found = finder.find(field.frame());
        double best = Double.MAX_VALUE;
        for (int i = 0; i < 2 * REPEATS; i++) {
            long start = System.nanoTime();
            found = finder.find(field.frame());
            best = Math.min(best, (System.nanoTime() - start) / 1e6);
        }
        say("%-28s %-9s %49.0f%n", name, "own " + threads, best);
        return found;
    }

    private static List<Found> places(StarField field) {
        return field.stars().stream()
                .map(s -> new Found(s.x(), s.y(), s.halfFluxRadiusPx(), s.snr()))
                .toList();
    }

    private static void report(
            InventedField field, InventedField.Settings settings, String name, String who, List<Found> found) {
        InventedField.Score score = field.score(
                settings,
                found.stream()
                        .map(f -> new double[] {f.x(), f.y(), f.halfFluxRadiusPx(), f.snr()})
                        .toList(),
                COUNTED_SNR);
        say(
                "%-28s %-9s %8.2f%% %8.2f%% %9.2f %8.1f%%%n",
                name,
                who,
                100 * score.completeness(),
                100 * score.purity(),
                score.centroidOverLimit(),
                100 * score.halfFluxBias());
    }

    private static void say(String form, Object... values) {
        System.out.printf(Locale.ROOT, form, values);
    }
}
