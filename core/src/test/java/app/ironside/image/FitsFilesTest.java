package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import ij.ImagePlus;
import ij.plugin.FITS_Reader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

class FitsFilesTest {
    @TempDir
    Path folder;

    private static Frame noise(int width, int height, long seed) {
        Random random = new Random(seed);
        float[] pixels = new float[width * height];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = random.nextInt(65_536);
        }
        return new Frame(
                width, height, pixels, Header.EMPTY.with("OBJECT", "NGC 891").with("EXPTIME", 180.0));
    }

    /** Another library: ImageJ 1.54f, whose FITS reader is its own, sees the same pixels in the same places. */
    @Test
    void anIndependentReaderSeesTheSamePixels() {
        Frame frame = noise(37, 23, 1);
        Path file = folder.resolve("light.fits");
        FitsFiles.write(file, frame, FitsFiles.Encoding.UNSIGNED_16);
        FITS_Reader reader = new FITS_Reader();
        reader.run(file.toString());
        ImagePlus seen = reader;
        assertThat(seen.getWidth()).isEqualTo(37);
        assertThat(seen.getHeight()).isEqualTo(23);
        for (int y = 1; y <= 23; y++) {
            for (int x = 1; x <= 37; x++) {
                // ImageJ counts rows from the top.
                float there = seen.getProcessor().getf(x - 1, 23 - y);
                assertThat(there).isEqualTo(frame.at(x, y));
            }
        }
    }

    @Test
    void roundTripKeepsPixelsHeaderAndHistory() {
        Frame frame = noise(50, 40, 2);
        frame = frame.withHeader(
                frame.header().withHistory("combined a.fits").with("KEEP", true).with("COUNT", 7));
        Path file = folder.resolve("a.fits");
        FitsFiles.write(file, frame, FitsFiles.Encoding.UNSIGNED_16);
        Frame back = FitsFiles.read(file);
        assertThat(back.pixels()).containsExactly(frame.pixels());
        assertThat(back.header().text("OBJECT")).contains("NGC 891");
        assertThat(back.header().exposureSeconds()).hasValue(180);
        assertThat(back.header().number("COUNT")).hasValue(7);
        assertThat(back.header().values().get("KEEP")).isEqualTo(true);
        assertThat(back.header().history()).containsExactly("combined a.fits");
    }

    @Test
    void floatsKeepNaN() {
        Frame frame = new Frame(2, 1, new float[] {Float.NaN, -1.5f}, Header.EMPTY);
        Path file = folder.resolve("f.fits");
        FitsFiles.write(file, frame, FitsFiles.Encoding.FLOAT_32);
        assertThat(FitsFiles.read(file).pixels()).containsExactly(Float.NaN, -1.5f);
    }

    /** Published: FITS standard 4.0, section 4.4.2.5: value = BZERO + BSCALE × stored, BLANK for none. The file is built here byte by byte. */
    @Test
    void scaledIntegersOfAForeignFile() throws IOException {
        Path file = folder.resolve("foreign.fits");
        byte[] header = cards(
                "SIMPLE  =                    T",
                "BITPIX  =                   32",
                "NAXIS   =                    2",
                "NAXIS1  =                    3",
                "NAXIS2  =                    1",
                "BSCALE  =                  0.5",
                "BZERO   =                100.0",
                "BLANK   =                  -99",
                "DATE-OBS= '2026-11-14T20:00:00.5'",
                "EXPOSURE=                 60.0",
                "END");
        ByteBuffer data = ByteBuffer.allocate(2880);
        data.putInt(10).putInt(-99).putInt(-4);
        Files.write(file, concat(header, data.array()));
        Frame frame = FitsFiles.read(file);
        assertThat(frame.pixels()).containsExactly(105f, Float.NaN, 98f);
        assertThat(frame.header().middle()).hasToString("Optional[2026-11-14T20:00:30.500Z]");
        try (FitsBands bands = FitsBands.open(file)) {
            assertThat(bands.rows(0, 1)).containsExactly(105f, Float.NaN, 98f);
        }
    }

    private static byte[] cards(String... cards) {
        StringBuilder text = new StringBuilder();
        for (String card : cards) {
            text.append(String.format(Locale.ROOT, "%-80s", card));
        }
        while (text.length() % 2880 != 0) {
            text.append(' ');
        }
        return text.toString().getBytes(StandardCharsets.US_ASCII);
    }

    private static byte[] concat(byte[] a, byte[] b) {
        return ByteBuffer.allocate(a.length + b.length).put(a).put(b).array();
    }

    @Test
    void aTruncatedFileIsNamedWithTheRemedy() throws IOException {
        Path file = folder.resolve("cut.fits");
        FitsFiles.write(file, noise(100, 100, 3), FitsFiles.Encoding.UNSIGNED_16);
        byte[] whole = Files.readAllBytes(file);
        Files.write(file, java.util.Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> FitsFiles.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("cut.fits")
                .hasMessageContaining("expected a FITS file with a picture, not cut short");
        assertThatThrownBy(() -> FitsBands.open(file)).isInstanceOf(BadInputException.class);
    }

    @Test
    void aMissingFileAndATextFileAreNamed() throws IOException {
        assertThatThrownBy(() -> FitsFiles.read(folder.resolve("none.fits")))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("there is no such file");
        Path text = Files.writeString(folder.resolve("text.fits"), "not a picture");
        assertThatThrownBy(() -> FitsFiles.read(text))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("text.fits");
    }

    @Test
    void aFailedWriteLeavesNothingBehind() throws IOException {
        Path file = folder.resolve("x.bin");
        assertThatThrownBy(() -> AtomicFile.write(file, out -> {
                    out.write(1);
                    throw new IOException("No space left on device");
                }))
                .isInstanceOf(UncheckedIOException.class)
                .hasMessageContaining("x.bin could not be written (No space left on device)");
        try (var files = Files.list(folder)) {
            assertThat(files).isEmpty();
        }
    }

    /** A device that is always full stands for a full disk. */
    @Test
    @EnabledOnOs(OS.LINUX)
    void aFullDiskIsNamedAsSuch() throws IOException {
        Path full = folder.resolve("full.fits");
        Files.createSymbolicLink(folder.resolve("full.fits" + AtomicFile.UNFINISHED), Path.of("/dev/full"));
        assertThatThrownBy(() -> FitsFiles.write(full, noise(900, 700, 1), FitsFiles.Encoding.FLOAT_32))
                .isInstanceOf(UncheckedIOException.class)
                .hasMessageContaining("full.fits could not be written")
                .hasMessageContaining("is the disk full");
        try (var files = Files.list(folder)) {
            assertThat(files).isEmpty();
        }
    }

    @Test
    void bandsAreTheRowsOfTheWhole() {
        Frame frame = noise(31, 40, 4);
        Path file = folder.resolve("bands.fits");
        FitsFiles.write(file, frame, FitsFiles.Encoding.UNSIGNED_16);
        try (FitsBands bands = FitsBands.open(file)) {
            float[] rows = bands.rows(7, 5);
            assertThat(rows).containsExactly(java.util.Arrays.copyOfRange(frame.pixels(), 7 * 31, 12 * 31));
        }
    }
}
