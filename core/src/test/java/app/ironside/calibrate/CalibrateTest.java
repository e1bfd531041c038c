package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.Mockito.when;

import app.ironside.BadInputException;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.FlatPanel;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.image.FitsBands;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.Sensor;
import app.ironside.star.FrameGauge;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CalibrateTest {
    private static final Sensor SENSOR = new Sensor(60, 40, 6, 1, 500, 16, 4, 60_000, 0.8, 0.1, 0, 6, true, 1);

    @TempDir
    Path folder;

    private Path write(String name, int width, int height, double level, double sigma, long seed) {
        Random random = new Random(seed);
        float[] pixels = new float[width * height];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level + sigma * random.nextGaussian());
        }
        Path file = folder.resolve(name);
        FitsFiles.write(file, new Frame(width, height, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        return file;
    }

    private static Frame even(int width, int height, float level) {
        float[] pixels = new float[width * height];
        java.util.Arrays.fill(pixels, level);
        return new Frame(width, height, pixels, Header.EMPTY);
    }

    /** Law: the noise of a mean of 25 is a fifth; clipping at 3.5 sigma costs less than 2 % of that. */
    @Test
    void aMasterIsQuieterByTheRootOfItsFrames() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 25; i++) {
            files.add(write("bias" + i + ".fits", 60, 40, 500, 10, i));
        }
        Frame master = new MasterBuilder(Workers.SERIAL).build(MasterKind.BIAS, files, Optional.empty(), Progress.NONE);
        double squares = 0;
        for (float v : master.pixels()) {
            squares += (v - 500) * (v - 500);
        }
        double noise = Math.sqrt(squares / master.pixels().length);
        assertThat(noise).isCloseTo(2, within(0.1)); // 3 standard errors of 2,400 pixels: 0.09
        assertThat(master.header().number("NCOMBINE")).hasValue(25);
        assertThat(master.header().history()).hasSize(25);
    }

    @Test
    void aCosmicRayDoesNotEnterTheMaster() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            files.add(write("dark" + i + ".fits", 20, 20, 500, 3, i));
        }
        Frame struck = FitsFiles.read(files.get(4));
        struck.pixels()[210] = 9000;
        FitsFiles.write(files.get(4), struck, FitsFiles.Encoding.FLOAT_32);
        Frame master = new MasterBuilder(Workers.SERIAL).build(MasterKind.DARK, files, Optional.empty(), Progress.NONE);
        assertThat(master.pixels()[210]).isCloseTo(500f, within(6f));
    }

    /** By hand: flats of 20,500 and 30,500 over a bias of 500 are both 1. */
    @Test
    void flatsAreLevelledBeforeTheyAreCombined() {
        List<Path> flats = List.of(write("a.fits", 30, 30, 20_500, 0, 1), write("b.fits", 30, 30, 30_500, 0, 2));
        Frame master = new MasterBuilder(Workers.SERIAL)
                .build(MasterKind.FLAT, flats, Optional.of(MasterPixels.of(even(30, 30, 500))), Progress.NONE);
        assertThat(master.pixels()).containsOnly(1f);
    }

    @Test
    void anotherSizeIsNamed() {
        List<Path> files = List.of(write("a.fits", 30, 30, 500, 1, 1), write("b.fits", 31, 30, 500, 1, 1));
        assertThatThrownBy(() -> new MasterBuilder(Workers.SERIAL)
                        .build(MasterKind.BIAS, files, Optional.empty(), Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("b.fits: is 31 x 30 pixels; expected 30 x 30 as in a.fits");
    }

    /** By hand: (1700 − 700) / 0.5 + 100 = 2100. */
    @Test
    void calibrationByHand() {
        Masters masters =
                Masters.of(Optional.of(even(4, 3, 500)), Optional.of(even(4, 3, 700)), Optional.of(even(4, 3, 0.5f)));
        Frame done = new Calibrator(masters, 100).calibrated(even(4, 3, 1700));
        assertThat(done.pixels()).containsOnly(2100f);
        assertThat(done.header().number("PEDESTAL")).hasValue(100);
        assertThat(done.header().history()).hasSize(3);
    }

    /** Law: with the pedestal of a faint light no pixel is at or below zero. */
    @Test
    void thePedestalKeepsPixelsAboveZero() {
        Path file = write("light.fits", 60, 40, 510, 9, 5);
        Frame light = FitsFiles.read(file);
        Masters masters = Masters.of(Optional.empty(), Optional.of(even(60, 40, 505)), Optional.empty());
        Calibrator calibrator = Calibrator.withPedestalFor(List.of(file), masters);
        for (float v : calibrator.calibrated(light).pixels()) {
            assertThat(v).isPositive();
        }
    }

    /**
     * By hand: a mosaic whose colours lie at 800, 1000, 1000 and 1200 ADU over a bias of 500, with noise of 9 ADU, needs no pedestal, and
     * neither does a gradient of as much: neither is noise.
     */
    @Test
    void coloursAndGradientsNeedNoPedestal() {
        Random random = new Random(3);
        float[] mosaic = new float[120 * 80];
        float[] slope = new float[120 * 80];
        for (int i = 0; i < mosaic.length; i++) {
            int x = i % 120;
            int y = i / 120;
            mosaic[i] = (float) (800 + 200 * (x % 2) + 200 * (y % 2) + 9 * random.nextGaussian());
            slope[i] = (float) (700 + 8 * x + 9 * random.nextGaussian());
        }
        Masters masters = Masters.of(Optional.of(even(120, 80, 500)), Optional.empty(), Optional.empty());
        for (float[] pixels : List.of(mosaic, slope)) {
            Frame light = new Frame(120, 80, pixels, Header.EMPTY);
            assertThat(new Calibrator(masters, 0).pedestalFor(light)).hasValue(0);
        }
    }

    /** A light that was calibrated before carries its pedestal; a second one adds to it. By hand: 30 + 100. */
    @Test
    void pedestalsAddUp() {
        Frame light = even(4, 3, 1000).withHeader(Header.EMPTY.with("PEDESTAL", 30));
        assertThat(new Calibrator(Masters.NONE, 100).calibrated(light).header().number("PEDESTAL"))
                .hasValue(130);
    }

    /** A master says what all its frames say: their filter, and not the first one's hour. The temperature is their mean. */
    @Test
    void aMasterSaysWhatAllItsFramesSay() {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            Path file = folder.resolve("d" + i + ".fits");
            Header header = Header.EMPTY
                    .with("EXPTIME", 180.0)
                    .with("GAIN", 100)
                    .with("DATE-OBS", "2026-11-14T20:0" + i + ":00")
                    .with("CCD-TEMP", -10.0 + 0.1 * i);
            FitsFiles.write(file, even(8, 8, 500 + i).withHeader(header), FitsFiles.Encoding.UNSIGNED_16);
            files.add(file);
        }
        Header master = new MasterBuilder(Workers.SERIAL)
                .build(MasterKind.DARK, files, Optional.empty(), Progress.NONE)
                .header();
        assertThat(master.exposureSeconds()).hasValue(180);
        assertThat(master.number("GAIN")).hasValue(100);
        assertThat(master.text("DATE-OBS")).isEmpty();
        assertThat(master.number("CCD-TEMP").orElseThrow()).isCloseTo(-9.85, within(1e-9));
    }

    /**
     * Whole numbers with little noise: law of large numbers, the mean of 40,000 pixels of 20 frames of N(500.3, 0.6) rounded is 500.3 within
     * three standard errors and its noise √((0.36 + 1/12) / 20), less than 2 % more. With 12 bits in 16 the steps are sixteen times as large.
     */
    @ParameterizedTest
    @ValueSource(ints = {1, 16})
    void roundingToWholeNumbersCostsNothing(int step) {
        Random random = new Random(8);
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 20; i++) {
            float[] pixels = new float[200 * 200];
            for (int k = 0; k < pixels.length; k++) {
                pixels[k] = step * Math.round(500.3 + 0.6 * random.nextGaussian());
            }
            Path file = folder.resolve("bias" + i + ".fits");
            FitsFiles.write(file, new Frame(200, 200, pixels, Header.EMPTY), FitsFiles.Encoding.UNSIGNED_16);
            files.add(file);
        }
        Frame master =
                new MasterBuilder(Workers.ALL_CORES).build(MasterKind.BIAS, files, Optional.empty(), Progress.NONE);
        double mean = 0;
        double squares = 0;
        for (float v : master.pixels()) {
            mean += v / step / master.pixels().length;
            squares += Math.pow(v / step - 500.3, 2) / master.pixels().length;
        }
        double expected = Math.sqrt((0.36 + 1 / 12.0) / 20);
        assertThat(mean).isCloseTo(500.3, within(3 * expected / 200 + 0.002));
        assertThat(Math.sqrt(squares)).isCloseTo(expected, within(0.02 * expected));
    }

    /** A flat is brought to 1 in its middle, by rows and columns alike. By hand: a dark frame about a bright middle third. */
    @Test
    void theMiddleOfAFlatIsOne() {
        float[] pixels = new float[90 * 60];
        for (int i = 0; i < pixels.length; i++) {
            int x = i % 90;
            int y = i / 90;
            pixels[i] = x >= 30 && x < 60 && y >= 20 && y < 40 ? 30_000 : 15_000;
        }
        Path file = folder.resolve("flat.fits");
        FitsFiles.write(file, new Frame(90, 60, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        Frame master = new MasterBuilder(Workers.SERIAL)
                .build(MasterKind.FLAT, List.of(file), Optional.empty(), Progress.NONE);
        assertThat(master.at(45, 30)).isEqualTo(1f);
        assertThat(master.at(45, 5)).isEqualTo(0.5f);
        assertThat(master.at(5, 30)).isEqualTo(0.5f);
    }

    @Test
    void aMasterOfAnotherSizeIsNamed() {
        Masters masters = Masters.of(Optional.empty(), Optional.of(even(5, 5, 1)), Optional.empty());
        assertThatThrownBy(() -> new Calibrator(masters, 0).calibrated(even(4, 4, 1)))
                .hasMessage("master dark: is 5 x 5 pixels; expected 4 x 4 like the light (same camera and binning)");
    }

    @Test
    void theOneLightOfAnotherSizeIsNamed() {
        Path first = folder.resolve("first.fits");
        Path odd = folder.resolve("odd.fits");
        FitsFiles.write(first, even(40, 30, 1000), FitsFiles.Encoding.FLOAT_32);
        FitsFiles.write(odd, even(20, 30, 1000), FitsFiles.Encoding.FLOAT_32);
        Masters masters = Masters.of(Optional.empty(), Optional.of(even(40, 30, 100)), Optional.empty());
        List<Path> lights = List.of(first, first, odd, first);
        assertThatThrownBy(() -> Calibrator.withPedestalFor(lights, masters))
                .hasMessageStartingWith(odd + ", master dark: is 40 x 30 pixels; expected 20 x 30");
    }

    private static FlatExposure search(double electronsPerSecond) throws InterruptedException {
        Camera camera = Mocks.device(Camera.class);
        FlatPanel panel = Mocks.device(FlatPanel.class);
        NightClock clock = new JumpingClock("2026-11-15T05:00:00Z");
        double[] brightness = {0};
        when(panel.light(anyDouble())).thenAnswer(call -> {
            brightness[0] = call.getArgument(0);
            return Operation.done("flat panel", "its light");
        });
        when(camera.expose(any(), any())).thenAnswer(call -> {
            Camera.Exposure exposure = call.getArgument(1);
            double adu =
                    500 + brightness[0] * electronsPerSecond * exposure.length().toMillis() / 1000.0;
            return even(60, 40, (float) Math.min(65_535, adu));
        });
        return FlatExposure.search(camera, panel, clock, FrameGauge.ofPixels(Workers.SERIAL), SENSOR, 0.45);
    }

    @Test
    void theFlatSearchReachesItsLevelWithoutTooShortExposures() throws InterruptedException {
        for (double rate : new double[] {3_000, 60_000, 2_000_000, 80_000_000}) {
            FlatExposure found = search(rate);
            assertThat(found.levelAdu()).isCloseTo(500 + 0.45 * 65_035, within(0.02 * 29_766));
            assertThat(found.exposure().toMillis()).isBetween(50L, 30_000L);
        }
    }

    @Test
    void aDarkPanelIsNamed() {
        assertThatThrownBy(() -> search(0))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("flat panel")
                .hasMessageContaining("Check that the panel is lit");
    }

    /** A master that is read row by row does what one in memory does, for bands that begin anywhere. */
    @Test
    void mastersOnTheDiskCalibrateAsThoseInMemory(@TempDir Path folder) {
        int width = 70;
        int height = 600;
        float[] dark = new float[width * height];
        float[] flat = new float[width * height];
        for (int i = 0; i < dark.length; i++) {
            dark[i] = 500 + i % 37;
            flat[i] = 0.8f + i % 41 / 100f;
        }
        Frame d = new Frame(width, height, dark, Header.EMPTY);
        Frame f = new Frame(width, height, flat, Header.EMPTY);
        Masters held = Masters.of(Optional.empty(), Optional.of(d), Optional.of(f));
        Masters read = new Masters(
                Optional.empty(),
                Optional.of(onDisk(folder.resolve("dark.fits"), d)),
                Optional.of(onDisk(folder.resolve("flat.fits"), f)));
        for (int first : new int[] {0, 5, 300}) {
            float[] one = new float[width * (height - first)];
            Arrays.fill(one, 1500);
            float[] other = one.clone();
            new Calibrator(held, 10).apply(one, width, first);
            new Calibrator(read, 10).apply(other, width, first);
            assertThat(other).isEqualTo(one);
            // By hand, the first pixel of the band.
            int at = first * width;
            assertThat(one[0]).isCloseTo((1500 - dark[at]) / flat[at] + 10, within(1e-3f));
        }
    }

    private static MasterPixels onDisk(Path file, Frame frame) {
        FitsFiles.write(file, frame, FitsFiles.Encoding.FLOAT_32);
        try (FitsBands bands = FitsBands.open(file)) {
            return MasterPixels.onDisk(file, bands);
        }
    }
}
