package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import org.junit.jupiter.api.Test;

/** Levels are counted as they are. */
class HistogramTest {
    @Test
    void everyPixelIsCountedOnce() {
        float[] pixels = new float[1000];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i;
        }
        pixels[7] = Float.NaN;
        Histogram levels = Histogram.of(new Frame(100, 10, pixels, Header.EMPTY));
        assertThat(Arrays.stream(levels.counts()).sum()).isEqualTo(999);
        assertThat(levels.finite()).isEqualTo(999);
        assertThat(levels.least()).isZero();
        assertThat(levels.most()).isEqualTo(999);
        assertThat(levels.isClipped()).isFalse();
        // An even ramp: 999 / 160 levels a step, one fewer where the hole is.
        assertThat(Arrays.stream(levels.counts()).min().orElseThrow()).isGreaterThanOrEqualTo(5);
        assertThat(Arrays.stream(levels.counts()).max().orElseThrow()).isLessThanOrEqualTo(7);
    }

    @Test
    void whatIsCutOffAtTheTopIsSaid() {
        float[] pixels = new float[1000];
        Arrays.fill(pixels, 300, 1000, 65_535);
        Histogram levels = Histogram.of(new Frame(100, 10, pixels, Header.EMPTY));
        assertThat(levels.isClipped()).isTrue();
        assertThat(levels.topShare()).isEqualTo(0.7);
        assertThat(levels.isFlat()).isFalse();
    }

    @Test
    void aFrameWithoutLevelsHasNone() {
        float[] pixels = new float[12];
        Arrays.fill(pixels, Float.NaN);
        Histogram levels = Histogram.of(new Frame(4, 3, pixels, Header.EMPTY));
        assertThat(levels.finite()).isZero();
        assertThat(levels.isClipped()).isFalse();
        Arrays.fill(pixels, 500);
        assertThat(Histogram.of(new Frame(4, 3, pixels, Header.EMPTY)).isFlat()).isTrue();
    }
}
