package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.DeviceException;
import app.ironside.device.FlatPanel;
import app.ironside.device.NightClock;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.Sensor;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

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
                .build(MasterKind.FLAT, flats, Optional.of(even(30, 30, 500)), Progress.NONE);
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
                new Masters(Optional.of(even(4, 3, 500)), Optional.of(even(4, 3, 700)), Optional.of(even(4, 3, 0.5f)));
        Frame done = new Calibrator(masters, 100).calibrated(even(4, 3, 1700));
        assertThat(done.pixels()).containsOnly(2100f);
        assertThat(done.header().number("PEDESTAL")).hasValue(100);
        assertThat(done.header().history()).hasSize(3);
    }

    /** Law: with the pedestal of a faint light no pixel is at or below zero. */
    @Test
    void thePedestalKeepsPixelsAboveZero() {
        Frame light = FitsFiles.read(write("light.fits", 60, 40, 510, 9, 5));
        Masters masters = new Masters(Optional.empty(), Optional.of(even(60, 40, 505)), Optional.empty());
        Calibrator calibrator = Calibrator.withPedestalFor(light, masters).orElseThrow();
        for (float v : calibrator.calibrated(light).pixels()) {
            assertThat(v).isPositive();
        }
    }

    @Test
    void aMasterOfAnotherSizeIsNamed() {
        Masters masters = new Masters(Optional.empty(), Optional.of(even(5, 5, 1)), Optional.empty());
        assertThatThrownBy(() -> new Calibrator(masters, 0).calibrated(even(4, 4, 1)))
                .hasMessage("master dark: is 5 x 5 pixels; expected 4 x 4 like the lights (same camera and binning)");
    }

    private static FlatExposure search(double electronsPerSecond) throws InterruptedException {
        Camera camera = mock(Camera.class);
        FlatPanel panel = mock(FlatPanel.class);
        NightClock clock = mock(NightClock.class);
        double[] brightness = {0};
        doAnswer(call -> brightness[0] = call.getArgument(0)).when(panel).light(anyDouble());
        when(camera.expose(any(), any())).thenAnswer(call -> {
            Camera.Exposure exposure = call.getArgument(1);
            double adu =
                    500 + brightness[0] * electronsPerSecond * exposure.length().toMillis() / 1000.0;
            return even(60, 40, (float) Math.min(65_535, adu));
        });
        return FlatExposure.search(camera, panel, clock, SENSOR, 0.45);
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
}
