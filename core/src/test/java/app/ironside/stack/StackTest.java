package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.sky.Equatorial;
import app.ironside.solve.Registration;
import app.ironside.solve.Wcs;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class StackTest {
    private static final int WIDTH = 420;
    private static final int HEIGHT = 360;
    private static final double NOISE = 12;

    @TempDir
    Path folder;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL);

    /** A frame of invented stars, shifted and turned about its middle, on a background of its own. */
    private Path frame(int index, double dx, double dy, double turnDeg, double level) {
        return frame(index, dx, dy, turnDeg, level, 1);
    }

    private Path frame(int index, double dx, double dy, double turnDeg, double level, double light) {
        Random sky = new Random(99);
        Random noise = new Random(index);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level + NOISE * noise.nextGaussian());
        }
        double c = Math.cos(Math.toRadians(turnDeg));
        double s = Math.sin(Math.toRadians(turnDeg));
        for (int k = 0; k < 90; k++) {
            double u = (sky.nextDouble() - 0.5) * WIDTH;
            double v = (sky.nextDouble() - 0.5) * HEIGHT;
            double flux = light * 4000 * Math.pow(30, sky.nextDouble());
            add(pixels, WIDTH / 2.0 + c * u - s * v + dx, HEIGHT / 2.0 + s * u + c * v + dy, flux);
        }
        Path file = folder.resolve("sub" + index + ".fits");
        FitsFiles.write(
                file,
                new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY.with("EXPTIME", 180.0)),
                FitsFiles.Encoding.FLOAT_32);
        return file;
    }

    private static void add(float[] pixels, double x, double y, double flux) {
        double sigma = 1.4;
        for (int row = (int) y - 8; row <= y + 8; row++) {
            for (int column = (int) x - 8; column <= x + 8; column++) {
                if (row >= 0 && column >= 0 && row < HEIGHT && column < WIDTH) {
                    double d = Math.pow(column + 1 - x, 2) + Math.pow(row + 1 - y, 2);
                    pixels[row * WIDTH + column] +=
                            (float) (flux / (2 * Math.PI * sigma * sigma) * Math.exp(-d / (2 * sigma * sigma)));
                }
            }
        }
    }

    private StackResult stack(List<Path> files, StackSettings settings) {
        return new Stacker(finder, Workers.ALL_CORES, settings)
                .stack(files, new Calibrator(Masters.NONE, 0), Progress.NONE);
    }

    private List<Path> set(int n) {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            // The half turn of a meridian flip for every other one.
            files.add(frame(i, 3.3 * Math.sin(i), 2.7 * Math.cos(2 * i), i % 2 * 180 + 0.1 * i, 1000 + 20 * i));
        }
        return files;
    }

    /** Truth: the shift and turn put in; three standard errors of 90 centroids are below a twentieth of a pixel. */
    @Test
    void registrationFindsShiftAndHalfTurn() {
        Frame a = FitsFiles.read(frame(1, 0, 0, 0, 1000));
        Frame b = FitsFiles.read(frame(2, 5.5, -3.25, 180.4, 1000));
        Registration found = Registration.of(finder.find(a), finder.find(b)).orElseThrow();
        double cx = WIDTH / 2.0;
        double cy = HEIGHT / 2.0;
        assertThat(found.transform().x(cx, cy)).isCloseTo(cx + 5.5, within(0.05));
        assertThat(found.transform().y(cx, cy)).isCloseTo(cy - 3.25, within(0.05));
        assertThat(Math.cos(Math.toRadians(found.transform().turnDeg() - 180.4)))
                .isCloseTo(1, within(1e-6));
    }

    /**
     * A lens that draws its corners outward by r³ (Seidel's distortion), pointed anew for every other sub: twelve pixels at the corners, whose
     * shift alone differs by two. Bent onto one another the stars of the stack are as narrow as those of a sub; laid flat they would be pairs.
     */
    @Test
    void whatALensBendsIsLaidOntoOnePlace() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            files.add(bent(i, i % 2 * 30 - 15));
        }
        StackResult result = stack(files, StackSettings.DEFAULT);
        assertThat(result.kept()).hasSize(6);
        assertThat(Footprint.bends(result.footprints()).orElseThrow())
                .startsWith("3 of 6 lights were bent to lie on the others");
        StarField stars = finder.find(result.picture());
        double[] fwhm = stars.good().stream()
                .filter(s -> Math.hypot(s.x() - WIDTH / 2.0, s.y() - HEIGHT / 2.0) > 150)
                .mapToDouble(s -> s.fwhmPx())
                .toArray();
        assertThat(fwhm).hasSizeGreaterThan(30);
        double sub = 1.4 * 2.3548;
        assertThat(Statistics.median(fwhm)).isCloseTo(sub, within(0.05 * sub));
        assertThat(stars.medianEccentricity().orElseThrow()).isLessThan(0.3);
    }

    private Path bent(int index, double dx) {
        Random sky = new Random(7);
        Random noise = new Random(index);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (1000 + NOISE * noise.nextGaussian());
        }
        double corner = Math.hypot(WIDTH, HEIGHT) / 2;
        for (int k = 0; k < 260; k++) {
            double u = (sky.nextDouble() - 0.5) * WIDTH * 1.1 + dx;
            double v = (sky.nextDouble() - 0.5) * HEIGHT;
            double outward = 1 + 12 / corner * (u * u + v * v) / (corner * corner);
            double flux = 4000 * Math.pow(30, sky.nextDouble());
            add(pixels, WIDTH / 2.0 + u * outward, HEIGHT / 2.0 + v * outward, flux);
        }
        Path file = folder.resolve("bent" + index + ".fits");
        FitsFiles.write(
                file,
                new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY.with("EXPTIME", 180.0)),
                FitsFiles.Encoding.FLOAT_32);
        return file;
    }

    /** Law: noise falls with the root of the count; Lanczos-3 on half of the pixels smooths it by up to a quarter more. */
    @Test
    void noiseFallsWithTheRootOfTheCount() {
        StackResult result = stack(set(12), StackSettings.DEFAULT);
        double expected = NOISE / Math.sqrt(12);
        assertThat(result.kept()).hasSize(12);
        assertThat(result.noiseAdu()).isBetween(0.75 * expected, 1.05 * expected);
        assertThat(result.picture().header().history()).anyMatch(h -> h.contains("sub3.fits"));
        assertThat(result.picture().header().number("TOTALEXP")).hasValue(12 * 180.0);
        int middle = HEIGHT / 2 * WIDTH + WIDTH / 2;
        assertThat(result.picture().pixels()[middle]).isNotNaN();
    }

    /**
     * Law: twelve alike are √12 = 3.46 times better than one, however much the resampling smooths: measured in blocks the gain is that
     * within three of its own errors, while from pixel to pixel the noise falls further.
     */
    @Test
    void theGainIsWhatTheLightAllows() {
        StackResult result = stack(set(12), StackSettings.DEFAULT);
        StackResult.Gain gain = result.gain();
        assertThat(gain.possible()).isCloseTo(Math.sqrt(12), within(0.15));
        assertThat(gain.measured()).isCloseTo(Math.sqrt(12), within(3 * gain.error()));
        assertThat(gain.error()).isLessThan(0.15 * gain.measured());
        assertThat(result.subNoiseAdu() / result.noiseAdu()).isGreaterThan(Math.sqrt(12));
    }

    /**
     * By hand: six clear subs and six behind cloud at half of the light, all with the same noise. Weighted as they deserve they give
     * √(6 + 6 · 0.25) / 0.75 = 3.65 times the median sub (0.75); a plain mean would give √12 · 0.75 / 0.75 = 3.46. The noise of each sub is
     * known from some 400 differences, to 6 %, and the median lies between two of them: one standard error is 0.1.
     */
    @Test
    void lightThatIsLostIsInTheGain() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            files.add(frame(i, 2.3 * Math.sin(i), 1.7 * Math.cos(2 * i), 0.1 * i, 1000, i % 2 == 0 ? 1 : 0.5));
        }
        StackResult result = stack(files, StackSettings.DEFAULT);
        StackResult.Gain gain = result.gain();
        assertThat(gain.possible()).isCloseTo(Math.sqrt(6 + 6 * 0.25) / 0.75, within(0.25));
        assertThat(gain.measured()).isCloseTo(gain.possible(), within(3 * gain.error() + 0.1));
        assertThat(result.contributions())
                .filteredOn(c -> c.weight() < 0.5)
                .hasSize(6)
                .allSatisfy(c -> assertThat(c.weight()).isCloseTo(0.25, within(0.04)));
    }

    /** The cards of one sub do not stand for the stack: its light is the sum, its time from first to last, its place its own. */
    @Test
    void theHeaderTellsOfTheStack() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            Frame plain = FitsFiles.read(frame(i, i, 0, 0, 1000));
            Path file = folder.resolve("told" + i + ".fits");
            Header header = plain.header()
                    .with("DATE-OBS", "2026-11-14T20:0" + 4 * (i % 2) + ":00")
                    .with("FILTER", "L")
                    .with("EGAIN", 0.5)
                    .with("PEDESTAL", 30)
                    .with("FOCUSPOS", 2500 + i)
                    .with("PC1_1", 0.9)
                    .with("CROTA2", 12.0);
            FitsFiles.write(file, plain.withHeader(header), FitsFiles.Encoding.FLOAT_32);
            files.add(file);
        }
        Frame picture = stack(files, StackSettings.DEFAULT).picture();
        assertThat(picture.header().exposureSeconds()).hasValue(4 * 180.0);
        assertThat(picture.header().number("EGAIN")).hasValue(4 * 0.5);
        assertThat(picture.header().number("PEDESTAL")).hasValue(30);
        assertThat(picture.header().text("FILTER")).contains("L");
        assertThat(picture.header().text("FOCUSPOS")).isEmpty();
        assertThat(picture.header().text("DATE-OBS")).contains("2026-11-14T20:00:00");
        assertThat(picture.header().text("DATE-END")).contains("2026-11-14T20:07:00");
        Wcs wcs = new Wcs(new Equatorial(23.46, 30.66), 210, 180, -8e-4, 0, 0, 8e-4);
        Header solved = Stacker.withWcs(picture, wcs).header();
        assertThat(solved.number("CD1_1")).hasValue(-8e-4);
        assertThat(solved.text("PC1_1")).as("what another program left").isEmpty();
        assertThat(solved.text("CROTA2")).isEmpty();
    }

    /**
     * By hand: a mosaic whose sky is 1000 in red, 1400 in green and 800 in blue gives a plane of each, with the stars in all three, and no
     * card that says mosaic.
     */
    @Test
    void aMosaicGivesAPlaneForEachColour() {
        List<Path> files = new ArrayList<>();
        for (Path grey : set(6)) {
            Frame frame = FitsFiles.read(grey);
            float[] pixels = frame.pixels().clone();
            double level = Statistics.median(pixels);
            for (int i = 0; i < pixels.length; i++) {
                char colour = "RGGB".charAt(i / WIDTH % 2 * 2 + i % WIDTH % 2);
                pixels[i] += (float) ((colour == 'R' ? 1000 : colour == 'G' ? 1400 : 800) - level);
            }
            FitsFiles.write(
                    grey,
                    new Frame(WIDTH, HEIGHT, pixels, frame.header().with("BAYERPAT", "RGGB")),
                    FitsFiles.Encoding.FLOAT_32);
            files.add(grey);
        }
        StackResult result = stack(files, StackSettings.DEFAULT);
        assertThat(result.kept()).hasSize(6);
        assertThat(result.planes()).hasSize(3);
        assertThat(result.planes())
                .extracting(p -> Math.round(Statistics.median(p.pixels()) / 10) * 10)
                .containsExactly(1000L, 1400L, 800L);
        assertThat(result.picture().header().text("BAYERPAT")).isEmpty();
        for (Frame plane : result.planes()) {
            assertThat(finder.find(plane).stars()).hasSizeGreaterThan(60);
        }
    }

    /** Law: stars of the stack are no wider than 10 % over the subs'. */
    @Test
    void starsStayNarrow() {
        StackResult result = stack(set(8), StackSettings.DEFAULT);
        double hfr = finder.find(result.picture()).medianHalfFluxRadiusPx().orElseThrow();
        assertThat(hfr).isLessThan(1.1 * result.medianSubHfrPx());
    }

    /** Law: the memory allowed changes nothing in the picture. */
    @Test
    void bandsDoNotShow() {
        List<Path> files = set(6);
        Frame whole = stack(files, StackSettings.DEFAULT).picture();
        Frame banded = stack(files, new StackSettings(Rejection.WINSORIZED, false, 1 << 20))
                .picture();
        for (int i = 0; i < whole.pixels().length; i++) {
            float a = whole.pixels()[i];
            float b = banded.pixels()[i];
            assertThat(Float.isNaN(a) && Float.isNaN(b) || Math.abs(a - b) < 1e-3)
                    .isTrue();
        }
    }

    /** One value of ten is a satellite: every rejecting school leaves it out, the plain mean does not. */
    @ParameterizedTest
    @EnumSource(Rejection.class)
    void aSatelliteIsLeftOut(Rejection rejection) {
        Random random = new Random(3);
        double worst = 0;
        for (int trial = 0; trial < 50; trial++) {
            float[] values = new float[12];
            for (int i = 0; i < 11; i++) {
                values[i] = (float) (1000 + 10 * random.nextGaussian());
            }
            values[11] = 4000;
            worst = Math.max(worst, Math.abs(rejection.combine(values, 12, new int[1]) - 1000));
        }
        if (rejection == Rejection.NONE) {
            assertThat(worst).isGreaterThan(200);
        } else {
            assertThat(worst).isLessThan(15); // five standard errors of the mean of 11
        }
    }

    /** By hand: among six values no one can be 3 sample deviations off, yet a satellite over one of six is left out. */
    @Test
    void aSatelliteOverOneOfSixIsLeftOut() {
        float[] values = {1004, 998, 1001, 3000, 996, 1003};
        assertThat(Rejection.SIGMA.combine(values, 6, new int[1])).isCloseTo(1000.4f, within(0.01f));
    }

    @Test
    void nothingGivesNoData() {
        int[] kept = new int[1];
        assertThat(Rejection.SIGMA.combine(new float[3], 0, kept)).isNaN();
        assertThat(kept[0]).isZero();
    }

    @Test
    void aSoftSubIsMarkedWithItsReason() {
        List<Path> files = new ArrayList<>(set(5));
        Frame soft = FitsFiles.read(files.get(2));
        float[] blurred = soft.pixels().clone();
        for (int pass = 0; pass < 12; pass++) {
            for (int i = WIDTH + 1; i < blurred.length - WIDTH - 1; i++) {
                blurred[i] =
                        (blurred[i - 1] + blurred[i + 1] + blurred[i - WIDTH] + blurred[i + WIDTH] + blurred[i]) / 5;
            }
        }
        Path file = folder.resolve("soft.fits");
        FitsFiles.write(file, new Frame(WIDTH, HEIGHT, blurred, soft.header()), FitsFiles.Encoding.FLOAT_32);
        files.set(2, file);
        StackResult result = stack(files, StackSettings.DEFAULT);
        assertThat(result.rejected()).singleElement().satisfies(r -> {
            assertThat(r.file()).isEqualTo(file);
            assertThat(r.reason()).startsWith("focus:");
        });
    }

    @Test
    void framesWithoutStarsCannotBeStacked() {
        Path file = folder.resolve("empty.fits");
        FitsFiles.write(file, new Frame(50, 50, new float[2500], Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        assertThatThrownBy(() -> stack(List.of(file, file), StackSettings.DEFAULT))
                .isInstanceOf(NothingToStack.class)
                .hasMessageContaining("none can be kept to align by its stars");
    }

    @Test
    void aCancelledStackStops() {
        List<Path> files = set(4);
        Stacker stacker = new Stacker(finder, Workers.SERIAL, StackSettings.DEFAULT);
        assertThatThrownBy(() -> stacker.stack(files, new Calibrator(Masters.NONE, 0), (what, done) -> done < 0.3))
                .isInstanceOf(CancellationException.class);
    }

    private Path written(String name, int width, int height, float value) {
        float[] pixels = new float[width * height];
        java.util.Arrays.fill(pixels, value);
        Path file = folder.resolve(name);
        FitsFiles.write(file, new Frame(width, height, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        return file;
    }

    /** One sub among good ones that holds nothing is left out with its reason; the rest is stacked. */
    @ParameterizedTest
    @org.junit.jupiter.params.provider.ValueSource(floats = {Float.NaN, 0, 65_535, Float.POSITIVE_INFINITY})
    void aSubWithoutStarsIsLeftOutWithItsReason(float value) {
        List<Path> files = set(5);
        Path empty = written("empty.fits", WIDTH, HEIGHT, value);
        files.add(2, empty);
        StackResult result = stack(files, StackSettings.DEFAULT);
        assertThat(result.rejected()).singleElement().satisfies(r -> {
            assertThat(r.file()).isEqualTo(empty);
            assertThat(r.reason()).contains("stars");
        });
        assertThat(result.kept()).hasSize(5).doesNotContain(empty);
        assertThat(result.picture().at(WIDTH / 2, HEIGHT / 2)).isFinite();
    }

    @Test
    void anotherSizeIsNamedBeforeAnythingIsDone() {
        List<Path> files = set(3);
        files.add(written("small.fits", WIDTH / 2, HEIGHT / 2, 1000));
        assertThatThrownBy(() -> stack(files, StackSettings.DEFAULT))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("small.fits: is 210 x 180 pixels")
                .hasMessageContaining("420 x 360 as in sub0.fits");
    }

    /** A frame of another field does not fit and is left out. */
    @Test
    void anotherFieldIsLeftOut() {
        List<Path> files = set(5);
        Random random = new Random(1234);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (1000 + NOISE * random.nextGaussian());
        }
        for (int k = 0; k < 80; k++) {
            add(
                    pixels,
                    WIDTH * random.nextDouble(),
                    HEIGHT * random.nextDouble(),
                    4000 * Math.pow(30, random.nextDouble()));
        }
        Path other = folder.resolve("other.fits");
        FitsFiles.write(other, new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        files.add(other);
        StackResult result = stack(files, StackSettings.DEFAULT);
        assertThat(result.rejected()).singleElement().satisfies(r -> assertThat(r.file())
                .isEqualTo(other));
    }
}
