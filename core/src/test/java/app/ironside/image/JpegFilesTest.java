package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A picture made by ImageMagick 6.9, white at the top and black at the bottom, its time and exposure written by ExifTool 12. */
class JpegFilesTest {
    private static final Path TOLD = Path.of("src", "test", "resources", "app", "ironside", "image", "told.jpg");

    @TempDir
    Path folder;

    @Test
    void brightnessTimeAndExposureAreRead() {
        Frame frame = FrameFiles.readPicture(TOLD);
        assertThat(frame.width()).isEqualTo(24);
        assertThat(frame.height()).isEqualTo(16);
        assertThat((double) frame.at(12, 16)).as("the top row").isCloseTo(255, within(3.0));
        assertThat((double) frame.at(12, 1)).as("the bottom row").isCloseTo(0, within(3.0));
        assertThat(frame.header().exposureSeconds().orElseThrow()).isEqualTo(8);
        assertThat(frame.header().text("DATE-OBS")).contains("2026-11-14T23:05:10");
        assertThat(frame.header().number("GAIN").orElseThrow()).isEqualTo(800);
        assertThat(FrameFiles.isByCamerasClock(TOLD)).isTrue();
    }

    @Test
    void itIsAPictureAndNoFrame() {
        assertThat(FrameFiles.isPicture("IMG_0001.JPG")).isTrue();
        assertThat(FrameFiles.isFrame("IMG_0001.JPG")).isFalse();
        assertThat(FrameFiles.isPicture(".hidden.jpeg")).isFalse();
        assertThatThrownBy(() -> FrameFiles.read(TOLD)).isInstanceOf(BadInputException.class);
    }

    @Test
    void whatIsDamagedIsNamed() throws IOException {
        byte[] whole = Files.readAllBytes(TOLD);
        Path cut = folder.resolve("cut.jpg");
        Files.write(cut, java.util.Arrays.copyOf(whole, 40));
        assertThatThrownBy(() -> FrameFiles.readPicture(cut))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("cut.jpg")
                .hasMessageContaining("no JPEG picture");
        assertThatThrownBy(() -> FrameFiles.readPicture(folder.resolve("none.jpg")))
                .hasMessageContaining("there is no such file");
    }
}
