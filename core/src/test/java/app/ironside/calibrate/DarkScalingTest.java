package app.ironside.calibrate;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.nio.file.Path;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A sensor made up by formula: zero 500 ADU, 0.02 ADU a second of dark current, hot pixels of 3 ADU a second, and a glow in one corner. Darks of 300 s
 * for lights of 180 s. What is right follows from the formula.
 */
class DarkScalingTest {
    private static final int WIDTH = 700;
    private static final int HEIGHT = 900;
    private static final double SKY = 400;

    @TempDir
    Path folder;

    @FunctionalInterface
    private interface Level {
        double at(int x, int y);
    }

    private static boolean isHot(int x, int y) {
        return (x * 7919L + y * 104_729L) % 997 == 5;
    }

    private static Level dark(double seconds, double hotSeconds, Level glow) {
        return (x, y) -> 500 + 0.02 * seconds + (isHot(x, y) ? 3 * hotSeconds : 0) + glow.at(x, y);
    }

    private static double glow(int x, int y) {
        return Math.exp(-(x * x + y * y) / 20_000.0);
    }

    private static Frame frame(long seed, double noise, Level level) {
        SplittableRandom random = new SplittableRandom(seed);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (level.at(i % WIDTH, i / WIDTH) + noise * random.nextGaussian());
        }
        return new Frame(WIDTH, HEIGHT, pixels, Header.EMPTY.with("EXPTIME", 300.0));
    }

    private static final Frame BIAS = frame(1, 0.5, (x, y) -> 500);

    private DarkScaling judged(Frame dark, Level lightsDark) {
        Path light = folder.resolve("light.fits");
        FitsFiles.write(light, frame(3, 20, (x, y) -> lightsDark.at(x, y) + SKY), FitsFiles.Encoding.FLOAT_32);
        return DarkScaling.judged(MasterPixels.of(dark), MasterPixels.of(BIAS), light, 0.6);
    }

    /** By hand: 500 + 0.6 · (506 − 500) = 503.6 and 500 + 0.6 · (6 + 900) = 1043.6, which are a dark of 180 s. */
    @Test
    void aDarkThatGoesWithTimeIsThatOfTheOtherExposure() {
        Frame dark = frame(2, 0.5, dark(300, 300, (x, y) -> 0));
        DarkScaling scaling = judged(dark, dark(180, 180, (x, y) -> 0));
        assertThat(scaling.glowAdu()).as("chance alone").isLessThan(0.1);
        assertThat(scaling.hot().orElseThrow().value()).isCloseTo(1, within(0.02));
        assertThat(scaling.isSound()).isTrue();
        Frame made = scaling.dark(MasterPixels.of(dark), MasterPixels.of(BIAS));
        double sum = 0;
        double hot = 0;
        int n = 0;
        for (int i = 0; i < made.pixels().length; i++) {
            boolean warm = isHot(i % WIDTH, i / WIDTH);
            sum += warm ? 0 : made.pixels()[i];
            hot += warm ? made.pixels()[i] : 0;
            n += warm ? 1 : 0;
        }
        assertThat(sum / (made.pixels().length - n)).isCloseTo(503.6, within(0.01));
        assertThat(hot / n).isCloseTo(1043.6, within(0.2));
        assertThat(made.header().number("EXPTIME")).hasValue(180);
        assertThat(made.header().history()).anyMatch(h -> h.contains("scaled by 0.6000"));
    }

    /** Half an ADU of glow is hidden, forty are not: 0.4 of them may stay, and the light hides 1 ADU (a twentieth of its noise of 20). */
    @Test
    void aSensorThatGlowsIsNotScaled() {
        DarkScaling faint = judged(
                frame(2, 0.5, dark(300, 300, (x, y) -> 2 * glow(x, y))), dark(180, 180, (x, y) -> 1.2 * glow(x, y)));
        assertThat(faint.isSound()).isTrue();
        DarkScaling bright = judged(
                frame(2, 0.5, dark(300, 300, (x, y) -> 40 * glow(x, y))), dark(180, 180, (x, y) -> 40 * glow(x, y)));
        assertThat(bright.allowedAdu()).isCloseTo(1, within(0.05));
        assertThat(bright.glowAdu()).isBetween(30.0, 40.0);
        assertThat(bright.worstAdu()).isCloseTo(0.4 * bright.glowAdu(), within(1e-9));
        assertThat(bright.isSound()).isFalse();
        assertThat(bright.sentences().get(0)).contains("not used");
    }

    /** Hot pixels of a light that was a doubling warmer are twice as bright: the dark is of another temperature, whatever is written. */
    @Test
    void hotPixelsOfAnotherTemperatureAreSeen() {
        DarkScaling scaling = judged(frame(2, 0.5, dark(300, 300, (x, y) -> 0)), dark(180, 360, (x, y) -> 0));
        assertThat(scaling.hot().orElseThrow().value()).isCloseTo(2, within(0.05));
        assertThat(scaling.isSound()).isFalse();
        assertThat(scaling.sentences().get(1)).contains("does not go with time");
    }
}
