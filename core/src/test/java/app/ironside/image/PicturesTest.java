package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Another library: Java's own image readers see what was written. */
class PicturesTest {
    @TempDir
    Path folder;

    private static Frame ramp() {
        float[] pixels = new float[64 * 32];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = i;
        }
        return new Frame(64, 32, pixels, Header.EMPTY);
    }

    private static void check(Path file, Stretch stretch) throws IOException {
        BufferedImage image = ImageIO.read(file.toFile());
        assertThat(image.getWidth()).isEqualTo(64);
        assertThat(image.getHeight()).isEqualTo(32);
        assertThat(image.getSampleModel().getSampleSize(0)).isEqualTo(16);
        // The first row of a frame is the bottom row of a picture.
        int bottomLeft = image.getRaster().getSample(0, 31, 0);
        int topRight = image.getRaster().getSample(63, 0, 0);
        assertThat(bottomLeft).isEqualTo((int) Math.round(65_535 * stretch.apply(0)));
        assertThat(topRight).isEqualTo((int) Math.round(65_535 * stretch.apply(2047)));
    }

    @Test
    void pngAndTiffHaveSixteenBitsAndStandUpright() throws IOException {
        Stretch stretch = new Stretch(-100, 2500, 0.2);
        Path png = folder.resolve("stack.png");
        Path tiff = folder.resolve("stack.tif");
        Pictures.writePng(png, ramp(), stretch);
        Pictures.writeTiff(tiff, ramp(), stretch);
        check(png, stretch);
        check(tiff, stretch);
    }

    @Test
    void bytesForTheScreenAgreeWithTheCurve() {
        Stretch stretch = new Stretch(0, 2047, 0.1);
        byte[] bytes = stretch.toBytes(ramp());
        for (int y = 1; y <= 32; y++) {
            for (int x = 1; x <= 64; x++) {
                int shown = bytes[(32 - y) * 64 + x - 1] & 0xff;
                assertThat((double) shown)
                        .isBetween(
                                255 * stretch.apply(ramp().at(x, y)) - 1.5, 255 * stretch.apply(ramp().at(x, y)) + 1.5);
            }
        }
    }
}
