package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.MasterVerdict.About;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Sets of calibration frames made up by formula, each with one thing wrong: photons are normally scattered by their own root, over the gain
 * that a frame is given. What is to be said follows from the formula.
 */
class MasterVerdictTest {
    private static final int WIDTH = 480;
    private static final int HEIGHT = 360;
    private static final double OFFSET = 500;
    private static final double READ_ADU = 6;

    @TempDir
    private Path folder;

    @FunctionalInterface
    private interface Light {
        double electrons(int frame, int x, int y);
    }

    private List<Path> set(String name, int frames, double electronsPerAdu, Map<String, ?> header, Light light) {
        List<Path> files = new ArrayList<>();
        for (int n = 0; n < frames; n++) {
            SplittableRandom random = new SplittableRandom(name.hashCode() * 31L + n);
            float[] pixels = new float[WIDTH * HEIGHT];
            for (int i = 0; i < pixels.length; i++) {
                double e = light.electrons(n, i % WIDTH, i / WIDTH);
                double adu = OFFSET
                        + (e + Math.sqrt(e) * random.nextGaussian()) / electronsPerAdu
                        + READ_ADU * random.nextGaussian();
                pixels[i] = Math.round(Math.max(0, Math.min(65535, adu)));
            }
            Path file = folder.resolve(name + n + ".fits");
            FitsFiles.write(
                    file,
                    new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY.withAll(header)),
                    FitsFiles.Encoding.UNSIGNED_16);
            files.add(file);
        }
        return files;
    }

    private static MasterVerdict verdict(MasterKind kind, List<Path> files, Optional<MasterPixels> under) {
        Frame master = new MasterBuilder(Workers.SERIAL).build(kind, files, under, Progress.NONE);
        return MasterVerdict.of(kind, files, master, under);
    }

    private MasterPixels bias() {
        return MasterPixels.of(new MasterBuilder(Workers.SERIAL)
                .build(MasterKind.BIAS, set("under", 6, 1, Map.of(), (n, x, y) -> 0), Optional.empty(), Progress.NONE));
    }

    private static double falloff(int x, int y) {
        double u = (x + 0.5) / WIDTH * 2 - 1;
        double v = (y + 0.5) / HEIGHT * 2 - 1;
        return 1 - 0.1 * (u * u + v * v);
    }

    @Test
    void darksOfADarkRoomAreSound() {
        MasterVerdict verdict = verdict(
                MasterKind.DARK, set("dark", 8, 1, Map.of("EXPTIME", 120.0), (n, x, y) -> 20), Optional.empty());
        assertThat(verdict.isSound()).as("%s", verdict.sentences()).isTrue();
        assertThat(verdict.sentences()).anyMatch(s -> s.startsWith("8 frames leave a noise of"));
    }

    @Test
    void lightThatCameIntoSomeDarksIsToldFromGlowThatIsInAll() {
        MasterVerdict leak = verdict(
                MasterKind.DARK,
                set("leak", 8, 1, Map.of(), (n, x, y) -> 20 + (n > 3 ? 60.0 * Math.exp(-x / 40.0) : 0)),
                Optional.empty());
        assertThat(leak.isAgainst(About.LEAK)).as("%s", leak.sentences()).isTrue();
        assertThat(leak.sentences().get(0)).startsWith("The left edge is").contains("light came in");
        MasterVerdict glow = verdict(
                MasterKind.DARK,
                set("glow", 8, 1, Map.of(), (n, x, y) -> 20 + 60.0 * Math.exp(-(HEIGHT - y) / 40.0)),
                Optional.empty());
        assertThat(glow.isAgainst(About.LEAK)).as("%s", glow.sentences()).isFalse();
        assertThat(glow.sentences()).anyMatch(s -> s.startsWith("The upper edge is") && s.contains("own glow"));
    }

    @Test
    void aLevelThatWandersIsNoHeldTemperature() {
        MasterVerdict verdict =
                verdict(MasterKind.DARK, set("warming", 8, 1, Map.of(), (n, x, y) -> 20 + 3.0 * n), Optional.empty());
        assertThat(verdict.isAgainst(About.LEVEL)).as("%s", verdict.sentences()).isTrue();
    }

    @Test
    void whatChangesFromFrameToFrameIsNotAveragedAway() {
        // Bands of the read-out that are elsewhere in each other frame.
        MasterVerdict verdict = verdict(
                MasterKind.BIAS,
                set("bands", 8, 1, Map.of(), (n, x, y) -> 40 + 15 * Math.sin(y / 3.0 + n % 2 * Math.PI)),
                Optional.empty());
        assertThat(verdict.isAgainst(About.NOISE)).as("%s", verdict.sentences()).isTrue();
    }

    @Test
    void flatsOfASteadyPanelAreSoundAndTellTheirGain() {
        MasterVerdict verdict = verdict(
                MasterKind.FLAT,
                set("flat", 6, 0.8, Map.of("EGAIN", 0.8, "EXPTIME", 2.0), (n, x, y) -> 20_000 * falloff(x, y)),
                Optional.of(bias()));
        assertThat(verdict.isSound()).as("%s", verdict.sentences()).isTrue();
        assertThat(verdict.sentences())
                .anyMatch(s -> s.startsWith("Their photons tell 0.8") || s.startsWith("Their photons tell 0.79"));
    }

    @Test
    void flatsOfAnotherGainAreFoundByTheirPhotons() {
        MasterVerdict verdict = verdict(
                MasterKind.FLAT,
                set("gain", 6, 0.4, Map.of("EGAIN", 0.8), (n, x, y) -> 10_000 * falloff(x, y)),
                Optional.of(bias()));
        assertThat(verdict.isAgainst(About.GAIN)).as("%s", verdict.sentences()).isTrue();
    }

    @Test
    void flickerIsToldFromASkyThatDarkens() {
        MasterVerdict flicker = verdict(
                MasterKind.FLAT,
                set(
                        "flicker",
                        6,
                        1,
                        Map.of("EXPTIME", 0.02),
                        (n, x, y) -> (n % 2 == 0 ? 26_000 : 24_000) * falloff(x, y)),
                Optional.of(bias()));
        assertThat(flicker.isAgainst(About.LEVEL)).as("%s", flicker.sentences()).isTrue();
        MasterVerdict sky = verdict(
                MasterKind.FLAT,
                set("dusk", 6, 1, Map.of("EXPTIME", 3.0), (n, x, y) -> (30_000 - 2_000 * n) * falloff(x, y)),
                Optional.of(bias()));
        assertThat(sky.isAgainst(About.LEVEL)).as("%s", sky.sentences()).isFalse();
        assertThat(sky.sentences()).anyMatch(s -> s.contains("-33 %") && s.contains("as a sky does"));
    }

    @Test
    void darkBurntAndLopsidedFlatsAreNamed() {
        MasterVerdict dark = verdict(
                MasterKind.FLAT,
                set("dim", 6, 1, Map.of("SATURATE", 65000.0), (n, x, y) -> 4_000 * falloff(x, y)),
                Optional.of(bias()));
        assertThat(dark.isAgainst(About.EXPOSURE)).as("%s", dark.sentences()).isTrue();
        MasterVerdict burnt = verdict(
                MasterKind.FLAT,
                set("burnt", 6, 1, Map.of(), (n, x, y) -> 62_000 * falloff(x, y) + (x < 9 ? 9_000 : 0)),
                Optional.of(bias()));
        assertThat(burnt.isAgainst(About.SATURATION))
                .as("%s", burnt.sentences())
                .isTrue();
        MasterVerdict askew = verdict(
                MasterKind.FLAT,
                set("askew", 6, 1, Map.of(), (n, x, y) -> 25_000 * falloff(x, y) * (1 + 0.1 * x / WIDTH)),
                Optional.of(bias()));
        assertThat(askew.isAgainst(About.SLOPE)).as("%s", askew.sentences()).isTrue();
        assertThat(askew.sentences()).anyMatch(s -> s.startsWith("The right side is"));
    }
}
