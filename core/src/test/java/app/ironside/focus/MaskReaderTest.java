package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.focus.MaskPattern.Lean;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.kit.Optics;
import app.ironside.kit.Sampling;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarField;
import app.ironside.star.StarFinder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Frames by Fourier optics with numpy (tools/mask-frames.py): the light's wave over an aperture of 90 mm at 432 mm with bars of 2.2 mm pitch, with the phase of a
 * defocus, transformed and squared, summed over 500 to 600 nm, blurred to 1 px, with Poisson noise. They share no code with the reader.
 */
class MaskReaderTest {
    private static final Optics OPTICS = new Optics(90, 432, 0, 0.9, 3.6);
    private static final double PIXEL_UM = 6.3;

    @TempDir
    Path folder;

    private MaskPattern read(String name) throws Exception {
        Path file = folder.resolve(name + ".fits.gz");
        try (var in = MaskReaderTest.class.getResourceAsStream("mask-" + name + ".fits.gz")) {
            Files.copy(in, file);
        }
        Frame frame = FitsFiles.read(file);
        return MaskReader.read(frame, stars(frame)).orElseThrow();
    }

    private static StarField stars(Frame frame) {
        return new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL).find(frame);
    }

    /** Truth: the defocus that went into the wave's phase; the bars open apart (V) at a negative tilt of the generator, else they close. */
    @ParameterizedTest
    @CsvSource({
        "in, 0, TOGETHER, 17, 20",
        "p30, 30, TOGETHER, 17, 20",
        "q60, 60, TOGETHER, 17, 20",
        "n60, 60, APART, 17, 20",
        "p80, 80, APART, 63, 20"
    })
    void defocusIsReadFromTheSpikes(String name, double defocusUm, Lean lean, double angle, double spread)
            throws Exception {
        MaskPattern pattern = read(name);
        assertThat(pattern.middleAngleDeg()).isCloseTo(angle, within(0.2));
        assertThat(pattern.spreadDeg()).isCloseTo(spread, within(0.6));
        double halfZone = Sampling.criticalFocusUm(OPTICS.focalRatio()) / 2;
        assertThat(pattern.defocusUm(OPTICS, PIXEL_UM, lean))
                .isCloseTo(defocusUm, within(Math.max(halfZone, 0.1 * defocusUm)));
        assertThat(pattern.defocusUm(OPTICS, PIXEL_UM, Lean.UNKNOWN))
                .as("what is not told of the bars counts in the error")
                .isCloseTo(defocusUm, within(2 * pattern.defocusSigmaUm(OPTICS, PIXEL_UM, Lean.UNKNOWN) + halfZone));
    }

    /** Two stars of one frame are read together. */
    @Test
    void severalStarsAreReadAtOnce() throws Exception {
        assertThat(read("p80").stars()).hasSize(2);
    }

    /** The sentence follows the frames: a turn from 60 to 30 µm was half the way; one the other way was wrong. */
    @Test
    void theNextTurnIsToldFromTheLast() throws Exception {
        MaskPattern far = read("q60");
        MaskPattern near = read("p30");
        double zone = Sampling.criticalFocusUm(OPTICS.focalRatio());
        assertThat(near.sentence(OPTICS, PIXEL_UM, Lean.TOGETHER, zone, Optional.of(far)))
                .contains("The last turn was the right way: 1.0 times as much again.");
        assertThat(far.sentence(OPTICS, PIXEL_UM, Lean.TOGETHER, zone, Optional.of(near)))
                .contains("The last turn was the wrong way: back by 2.0 times as much.");
        assertThat(far.sentence(OPTICS, PIXEL_UM, Lean.TOGETHER, zone, Optional.empty()))
                .contains("the next frame tells");
        assertThat(read("in").sentence(OPTICS, PIXEL_UM, Lean.TOGETHER, zone, Optional.of(near)))
                .contains("In focus: lock it");
    }

    /** Round stars have no spikes, and four spikes of a spider's vanes are no mask. */
    @Test
    void starsWithoutAMaskAreNotRead() {
        for (boolean vanes : new boolean[] {false, true}) {
            Random random = new Random(2);
            float[] pixels = new float[400 * 400];
            for (int i = 0; i < pixels.length; i++) {
                double x = i % 400 - 200;
                double y = i / 400 - 200;
                double r = Math.hypot(x, y);
                double light = 20_000 * Math.exp(-r * r / 6);
                if (vanes) {
                    light += 4_000 / (1 + r) * (Math.exp(-x * x / 2) + Math.exp(-y * y / 2));
                }
                pixels[i] = (float) (500 + light + 5 * random.nextGaussian());
            }
            Frame frame = new Frame(400, 400, pixels, Header.EMPTY);
            assertThat(MaskReader.read(frame, stars(frame))).isEmpty();
        }
    }
}
