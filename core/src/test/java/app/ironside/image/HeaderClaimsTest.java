package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Headers by hand after the standard's rules (FITS 4.0, 4.4.1), which promise what is not there. */
class HeaderClaimsTest {
    @TempDir
    Path folder;

    private static byte[] header(String... cards) {
        StringBuilder text = new StringBuilder(String.format("%-80s", "SIMPLE  =                    T"));
        for (String card : cards) {
            text.append(String.format("%-80s", card));
        }
        text.append(String.format("%-80s", "END"));
        while (text.length() % 2880 != 0) {
            text.append(' ');
        }
        return text.toString().getBytes(StandardCharsets.US_ASCII);
    }

    private static String card(String keyword, String value) {
        return String.format("%-8s= %20s", keyword, value);
    }

    private Path file(byte[] content) throws IOException {
        return Files.write(folder.resolve("claims.fits"), content);
    }

    @ParameterizedTest
    @CsvSource({
        "16, 2147483647, 100, 100, has NAXIS 2147483647",
        "16, 2, 40000, 40000, of the 3200002880 that its header promises",
        "16, 2, -5, 100, has NAXIS1 -5",
        "1, 2, 100, 100, has BITPIX 1",
        "16, 2, 9223372036854775807, 9223372036854775807, more values than can be counted",
        "16, 2, many, 100, has NAXIS1 many",
        "16, 2, 0, 0, holds an empty image"
    })
    void whatAHeaderPromisesIsHeldAgainstTheFile(String bitpix, String naxis, String one, String two, String why)
            throws IOException {
        Path file =
                file(header(card("BITPIX", bitpix), card("NAXIS", naxis), card("NAXIS1", one), card("NAXIS2", two)));
        assertThatThrownBy(() -> FitsFiles.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("claims.fits")
                .hasMessageContaining(why);
        assertThatThrownBy(() -> FitsBands.open(file)).isInstanceOf(BadInputException.class);
    }

    /** A file with a hole takes no room on the disk, and all of it in memory. */
    @Test
    void aPictureThatMemoryCannotHoldIsRefusedWithTheRemedy() throws IOException {
        long side = (long) Math.sqrt(Runtime.getRuntime().maxMemory() / 11.0);
        byte[] head =
                header(card("BITPIX", "-64"), card("NAXIS", "2"), card("NAXIS1", "" + side), card("NAXIS2", "" + side));
        Path file = file(head);
        try (RandomAccessFile longer = new RandomAccessFile(file.toFile(), "rw")) {
            longer.setLength(head.length + 8 * side * side);
        }
        assertThatThrownBy(() -> FitsFiles.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("GB are allowed")
                .hasMessageContaining("IRONSIDE_MEMORY");
    }

    @Test
    void aPackedFileCannotPromiseMoreThanPackingGives() throws IOException {
        Path file = folder.resolve("packed.fits.gz");
        try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(file))) {
            out.write(
                    header(card("BITPIX", "16"), card("NAXIS", "2"), card("NAXIS1", "30000"), card("NAXIS2", "30000")));
        }
        assertThatThrownBy(() -> FitsFiles.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("packed.fits.gz: is packed into");
    }

    /** Another program's header may hold what the standard has no card for: it is left out and named, the picture is written. */
    @Test
    void aKeywordThatCannotBeWrittenIsNamed() {
        Header odd =
                Header.EMPTY.with("HIERARCH.LONG.NAME", 1).with("WHAT?", "x").with("OBJECT", "M 33");
        Path file = folder.resolve("odd.fits");
        FitsFiles.write(file, new Frame(2, 2, new float[4], odd), FitsFiles.Encoding.FLOAT_32);
        Header back = FitsFiles.read(file).header();
        assertThat(back.text("OBJECT")).contains("M 33");
        assertThat(back.history()).anyMatch(h -> h.contains("left out WHAT?"));
    }

    /** Exposures and dates that can be none do not stop the arithmetic. */
    @ParameterizedTest
    @CsvSource({"+999999999-12-31T23:59:59, 60", "2026-11-14T20:00:00, 1E300", "2026-11-14T20:00:00, -60"})
    void impossibleTimesAreNone(String start, double seconds) {
        Header header = Header.EMPTY.with("DATE-OBS", start).with("EXPTIME", seconds);
        assertThat(header.middle()).isEmpty();
    }
}
