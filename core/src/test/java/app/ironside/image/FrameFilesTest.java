package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * TIFF files were written by ImageMagick 6.9.11 (LZW with little-endian bytes and plain with big-endian ones), their Exif fields by ExifTool
 * 12.57: programs that share no code with the reader. The pixel at column x and row y from the top has the value 1 + 100 x + 1000 y; in
 * colour green has 2 and blue 5 more.
 */
class FrameFilesTest {
    private static final int WIDTH = 24;
    private static final int HEIGHT = 16;

    @TempDir
    Path folder;

    private static Path sample(String name) throws URISyntaxException {
        return Path.of(FrameFilesTest.class.getResource(name).toURI());
    }

    @Test
    void aGreyPictureIsReadWithItsFirstRowAtTheBottom() throws Exception {
        Frame frame = FrameFiles.read(sample("grey16.tiff"));
        assertThat(frame.width()).isEqualTo(WIDTH);
        assertThat(frame.height()).isEqualTo(HEIGHT);
        for (int x = 0; x < WIDTH; x++) {
            for (int y = 0; y < HEIGHT; y++) {
                assertThat(frame.at(x + 1, HEIGHT - y)).isEqualTo(1 + 100 * x + 1000 * y);
            }
        }
        assertThat(frame.header().start()).isEmpty();
        assertThat(frame.header().exposureSeconds()).isEmpty();
    }

    /** (R + 2 G + B) / 4 is 9/4 more than red alone. */
    @Test
    void ofColourTheBrightnessIsTakenAndExifTellsTheExposure() throws Exception {
        Frame frame = FrameFiles.read(sample("rgb16.tif"));
        assertThat(frame.at(3, HEIGHT)).isCloseTo(1 + 200 + 2.25f, within(1e-3f));
        assertThat(frame.at(1, 1)).isCloseTo(1 + 15_000 + 2.25f, within(1e-3f));
        assertThat(frame.header().exposureSeconds()).hasValue(60);
        assertThat(frame.header().start()).contains(Instant.parse("2026-11-14T21:05:10Z"));
        assertThat(frame.header().number("GAIN")).hasValue(800);
    }

    @Test
    void eightBitsAreTooFew() {
        assertThatThrownBy(() -> FrameFiles.read(sample("eight.tif")))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("eight.tif: has 8 bits a pixel; expected 16");
    }

    /** At whatever byte the writing stopped. */
    @ParameterizedTest
    @ValueSource(strings = {"grey16.tiff", "rgb16.tif"})
    void aFileThatIsCutShortIsNamed(String name) throws Exception {
        byte[] whole = Files.readAllBytes(sample(name));
        Path cut = folder.resolve("cut.tif");
        int refused = 0;
        for (int bytes = 0; bytes < whole.length; bytes += 7) {
            Files.write(cut, Arrays.copyOf(whole, bytes));
            try {
                Frame frame = FrameFiles.read(cut);
                // What is cut off behind the pixels is missed by nobody: they are all there.
                assertThat(frame.pixels())
                        .isEqualTo(FrameFiles.read(sample(name)).pixels());
            } catch (BadInputException e) {
                refused++;
                assertThat(e).hasMessageContaining("cut.tif: ").hasMessageContaining("; expected ");
            }
        }
        assertThat(refused).isGreaterThan(whole.length / 20);
    }

    /** ImageWidth (tag 256) and ImageLength (257) of the plain file, overwritten: little else tells a giant from a lie. */
    @Test
    void aFileThatPromisesTooMuchIsRefusedBeforeItIsRead() throws Exception {
        byte[] bytes = Files.readAllBytes(sample("grey16.tiff"));
        ByteBuffer tiff = ByteBuffer.wrap(bytes); // big-endian, as the file is
        int directory = tiff.getInt(4);
        for (int i = 0; i < tiff.getShort(directory); i++) {
            int entry = directory + 2 + 12 * i;
            if (tiff.getShort(entry) == 256 || tiff.getShort(entry) == 257) {
                tiff.putShort(entry + 2, (short) 4).putInt(entry + 8, 60_000);
            }
        }
        Path giant = Files.write(folder.resolve("giant.tif"), bytes);
        assertThatThrownBy(() -> FrameFiles.read(giant))
                .isInstanceOf(BadInputException.class)
                .hasMessageEndingWith("giant.tif: promises 60000 x 60000 px; expected at most 200 million");
    }

    @Test
    void framesAreToldByTheirNames() {
        assertThat(List.of("a.fits", "A.FIT", "b.fts.gz", "c.TIF", "d d.tiff")).allMatch(FrameFiles::isFrame);
        assertThat(List.of(".a.fits", "a.fits.part", "a.jpg", "tiff", "a.xtif")).noneMatch(FrameFiles::isFrame);
    }

    /** Bit by bit, in a folder below, and changed again after it was told of. */
    @Test
    void aFolderTellsOfAFileWhenItNoLongerGrows() throws IOException {
        Files.createFile(folder.resolve("old.fits"));
        FolderWatch watch = new FolderWatch(folder);
        Path file =
                Files.createDirectories(folder.resolve("2026").resolve("M 33")).resolve("new.fits");
        Files.write(file, new byte[10]);
        assertThat(watch.next()).isEmpty();
        Files.write(file, new byte[20]);
        assertThat(watch.next()).isEmpty();
        assertThat(watch.next()).containsExactly(file);
        assertThat(watch.next()).isEmpty();
        Files.write(file, new byte[30]);
        assertThat(watch.next()).isEmpty();
        assertThat(watch.next()).containsExactly(file);
        Files.delete(file);
        assertThat(watch.next()).isEmpty();
    }
}
