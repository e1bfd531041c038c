package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Heads without pixels: by the examples of the FITS standard 4.0 and against nom-tam-fits on files that astropy wrote. */
class HeadScanTest {
    private static final Path RESOURCES = Path.of("src/test/resources/app/ironside");

    @TempDir
    Path folder;

    /** FITS standard 4.0, section 4.2: quotes are doubled, trailing blanks mean nothing, what follows the slash is no value. */
    @Test
    void valuesByTheStandard() {
        assertThat(HeadScan.value("'O''HARA  '           / name")).isEqualTo(Optional.of("O'HARA"));
        assertThat(HeadScan.value("'a/b     '           / with a slash in it")).isEqualTo(Optional.of("a/b"));
        assertThat(HeadScan.value("                   T / true")).isEqualTo(Optional.of(true));
        assertThat(HeadScan.value("                  -12 / whole")).isEqualTo(Optional.of(-12L));
        assertThat(HeadScan.value("          1.5D-3 / real")).isEqualTo(Optional.of(1.5e-3));
        assertThat(HeadScan.value("                      / undefined")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"judge/light-03.fits.fz", "star/hot-field.fits"})
    void saysWhatAReaderOfTheWholeFileSays(String name) {
        Path file = RESOURCES.resolve(name);
        FrameHead head = FrameHead.read(file);
        Frame whole = FitsFiles.read(file);
        assertThat(head.width()).isEqualTo(whole.width());
        assertThat(head.height()).isEqualTo(whole.height());
        assertThat(head.planes()).isEqualTo(1);
        whole.header().values().forEach((keyword, value) -> assertThat(
                        head.header().text(keyword))
                .as(keyword)
                .contains(value.toString().strip()));
    }

    @Test
    void packedFilesAndCubes() throws Exception {
        Frame plane = new Frame(7, 5, new float[35], Header.EMPTY.with("OBJECT", "M 33"));
        Path cube = folder.resolve("cube.fits");
        FitsFiles.writePlanes(cube, java.util.List.of(plane, plane, plane));
        assertThat(FrameHead.read(cube).planes()).isEqualTo(3);
        Path packed = folder.resolve("cube.fits.gz");
        try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(packed))) {
            Files.copy(cube, out);
        }
        FrameHead head = FrameHead.read(packed);
        assertThat(head.planes()).isEqualTo(3);
        assertThat(head.width()).isEqualTo(7);
        assertThat(head.header().text("OBJECT")).contains("M 33");
    }

    /** A plain frame, packed in either way, gives the same rows: gzip by Java, Rice by astropy. */
    @Test
    void packedFramesAreReadInBands() throws Exception {
        Path rice = RESOURCES.resolve("judge/light-03.fits.fz");
        Frame whole = FitsFiles.read(rice);
        try (FitsBands bands = FitsBands.open(rice)) {
            assertThat(bands.rows(100, 2))
                    .containsExactly(
                            java.util.Arrays.copyOfRange(whole.pixels(), 100 * whole.width(), 102 * whole.width()));
            assertThat(bands.header().text("FILTER")).contains("L");
        }
        Path plain = folder.resolve("a.fits");
        FitsFiles.write(plain, whole, FitsFiles.Encoding.UNSIGNED_16);
        Path packed = folder.resolve("a.fits.gz");
        try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(packed))) {
            Files.copy(plain, out);
        }
        try (FitsBands bands = FitsBands.open(packed)) {
            assertThat(bands.frame().pixels()).containsExactly(whole.pixels());
        }
    }

    @Test
    void whatIsNoPictureIsNamed() throws Exception {
        Path file = folder.resolve("x.fits");
        StringBuilder cards = new StringBuilder();
        for (String card : new String[] {
            "SIMPLE  =                    T", "BITPIX  =                    8", "NAXIS   =                    0", "END"
        }) {
            cards.append(String.format("%-80s", card));
        }
        Files.write(file, String.format("%-2880s", cards).getBytes(StandardCharsets.US_ASCII));
        assertThatThrownBy(() -> FrameHead.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("x.fits: holds no picture");
        assertThatThrownBy(() -> FrameHead.read(folder.resolve("none.fits")))
                .hasMessageContaining("there is no such file");
    }
}
