package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class ThumbnailTest {
    @TempDir
    Path folder;

    /** By hand: 100 columns in cells of 10 pixels; a star of one pixel of 9000 in the first rows of its cell over an even 1000. */
    @ParameterizedTest
    @EnumSource(FitsFiles.Encoding.class)
    void aStarOfOnePixelStaysOne(FitsFiles.Encoding encoding) {
        float[] pixels = new float[100 * 60];
        Arrays.fill(pixels, 1000);
        pixels[22 * 100 + 57] = 9000;
        Path file = folder.resolve("light.fits");
        FitsFiles.write(file, new Frame(100, 60, pixels, Header.EMPTY), encoding);

        Frame small = Thumbnail.of(file, 10);

        assertThat(small.width()).isEqualTo(10);
        assertThat(small.height()).isEqualTo(6);
        double mean = (39 * 1000 + 9000) / 40.0;
        assertThat(small.pixels()[2 * 10 + 5]).isCloseTo((float) ((2 * mean + 9000) / 3), within(0.5f));
        assertThat(small.pixels()[2 * 10 + 4]).isEqualTo(1000);
    }

    /** A mosaic of 100 and 300: every patch has as many pixels of each. */
    @Test
    void aMosaicLeavesNoPattern() {
        float[] pixels = new float[90 * 90];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (i / 90 + i % 90) % 2 == 0 ? 100 : 300;
        }
        Path file = folder.resolve("colour.fits");
        FitsFiles.write(file, new Frame(90, 90, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);

        Frame small = Thumbnail.of(file, 18);

        for (float v : small.pixels()) {
            assertThat(v).isCloseTo((2 * 200 + 300) / 3f, within(0.01f));
        }
    }

    @Test
    void aFrameThatIsSmallAlreadyStaysAsItIs() {
        float[] pixels = {1, 2, 3, Float.NaN, 5, 6};
        Path file = folder.resolve("small.fits");
        FitsFiles.write(file, new Frame(3, 2, pixels, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);

        assertThat(Thumbnail.of(file, 100).pixels()).isEqualTo(pixels);
    }

    @Test
    void whatIsCutShortIsNamed() throws Exception {
        Path file = folder.resolve("torn.fits");
        FitsFiles.write(file, new Frame(100, 60, new float[6000], Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        byte[] all = Files.readAllBytes(file);
        Files.write(file, Arrays.copyOf(all, 9000));

        assertThatThrownBy(() -> Thumbnail.of(file, 10))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("torn.fits");
    }
}
