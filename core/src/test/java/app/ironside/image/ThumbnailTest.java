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

    /**
     * By hand: of 100 by 60 pixels, each its own number, nine parts of 8 by 5 in 28 by 19: columns 0, 46 and 92, rows 0, 27 and 55 of the file
     * begin them.
     */
    @ParameterizedTest
    @EnumSource(
            value = FitsFiles.Encoding.class,
            names = {"FLOAT_32", "UNSIGNED_16"})
    void cornersAreShownAtFullSize(FitsFiles.Encoding encoding) {
        float[] pixels = new float[100 * 60];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i;
        }
        Path file = folder.resolve("light.fits");
        FitsFiles.write(file, new Frame(100, 60, pixels, Header.EMPTY), encoding);

        Frame nine = Thumbnail.corners(file, 28, 19);

        assertThat(nine.width()).isEqualTo(28);
        assertThat(nine.height()).isEqualTo(19);
        int[] columns = {0, 46, 92};
        int[] rows = {0, 27, 55};
        for (int j = 0; j < 3; j++) {
            for (int i = 0; i < 3; i++) {
                for (int y = 0; y < 5; y++) {
                    for (int x = 0; x < 8; x++) {
                        assertThat(nine.pixels()[(7 * j + y) * 28 + 10 * i + x])
                                .isEqualTo((rows[j] + y) * 100 + columns[i] + x);
                    }
                }
            }
        }
        assertThat(nine.pixels()[8]).as("a line between").isNaN();
        assertThat(nine.pixels()[5 * 28]).isNaN();
    }

    /** Red 100, green 200, blue 400: every cell has their mean, 225, and the parts begin on whole cells. */
    @Test
    void theCornersOfAMosaicHaveNoPattern() {
        float[] pixels = new float[90 * 70];
        for (int i = 0; i < pixels.length; i++) {
            int odd = i / 90 % 2 + i % 90 % 2;
            pixels[i] = odd == 0 ? 100 : odd == 1 ? 200 : 400;
        }
        Path file = folder.resolve("colour.fits");
        FitsFiles.write(
                file, new Frame(90, 70, pixels, Header.EMPTY.with("BAYERPAT", "RGGB")), FitsFiles.Encoding.FLOAT_32);

        Frame nine = Thumbnail.corners(file, 28, 19);

        for (int y = 0; y < 5; y++) {
            assertThat(nine.pixels()[y * 28]).isEqualTo(225);
            assertThat(nine.pixels()[(y + 14) * 28 + 27]).isEqualTo(225);
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
