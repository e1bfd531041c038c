package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Files held against the text of the FITS standard 4.0 (IAU FITS Working Group 2018), byte by byte: what is written is read here without
 * any library, what is read is built here.
 */
class FitsStandardTest {
    private static final int BLOCK = 2880;
    private static final int CARD = 80;

    @TempDir
    Path folder;

    private List<String> cardsOf(byte[] file) {
        List<String> cards = new ArrayList<>();
        for (int at = 0; at + CARD <= file.length; at += CARD) {
            String card = new String(file, at, CARD, StandardCharsets.US_ASCII);
            cards.add(card);
            if (card.startsWith("END     ")) {
                return cards;
            }
        }
        throw new AssertionError("no END card");
    }

    private byte[] written(Frame frame, FitsFiles.Encoding encoding) throws IOException {
        Path file = folder.resolve("written.fits");
        FitsFiles.write(file, frame, encoding);
        return Files.readAllBytes(file);
    }

    private static Frame small(Header header) {
        return new Frame(3, 2, new float[] {0, 1, 65_535, 32_768, 300.4f, 70_000}, header);
    }

    /** Sections 3.1, 3.3.1, 4.1.1, 4.2: blocks of 2880 bytes, cards of 80 printable characters, the mandatory ones first, END, blanks. */
    @Test
    void theHeaderIsLaidOutAsTheStandardSays() throws IOException {
        byte[] file = written(small(Header.EMPTY.with("OBJECT", "NGC 891")), FitsFiles.Encoding.UNSIGNED_16);
        assertThat(file.length % BLOCK).isZero();
        List<String> cards = cardsOf(file);
        assertThat(cards.get(0)).startsWith("SIMPLE  =                    T");
        assertThat(cards.get(1)).startsWith("BITPIX  =                   16");
        assertThat(cards.get(2)).startsWith("NAXIS   =                    2");
        assertThat(cards.get(3)).startsWith("NAXIS1  =                    3");
        assertThat(cards.get(4)).startsWith("NAXIS2  =                    2");
        for (String card : cards) {
            assertThat(card.chars()).allMatch(c -> c >= 32 && c <= 126);
            assertThat(card.substring(0, 8)).matches("[A-Z0-9_-]* *");
        }
        int after = cards.size() * CARD;
        int data = (after + BLOCK - 1) / BLOCK * BLOCK;
        for (int i = after; i < data; i++) {
            assertThat(file[i]).as("the header is filled with blanks").isEqualTo((byte) ' ');
        }
    }

    /** Sections 4.4.2.5 and 5.2.5, table 11: unsigned 16-bit values are stored less 32768, big-endian; the data are filled with zeros. */
    @Test
    void unsignedPixelsAreStoredLess32768() throws IOException {
        byte[] file = written(small(Header.EMPTY), FitsFiles.Encoding.UNSIGNED_16);
        List<String> cards = cardsOf(file);
        assertThat(number(cards, "BZERO")).isEqualTo(32_768);
        assertThat(number(cards, "BSCALE")).isEqualTo(1);
        int data = (cards.size() * CARD + BLOCK - 1) / BLOCK * BLOCK;
        ByteBuffer stored = ByteBuffer.wrap(file, data, 12);
        short[] expected = {-32_768, -32_767, 32_767, 0, 300 - 32_768, 32_767};
        for (short value : expected) {
            assertThat(stored.getShort()).isEqualTo(value);
        }
        for (int i = data + 12; i < file.length; i++) {
            assertThat(file[i]).isZero();
        }
        assertThat(file.length - data).isEqualTo(BLOCK);
    }

    private static double number(List<String> cards, String keyword) {
        return cards.stream()
                .filter(c -> c.startsWith(String.format(Locale.ROOT, "%-8s=", keyword)))
                .map(c -> c.substring(10).split("/")[0].strip())
                .mapToDouble(Double::parseDouble)
                .findFirst()
                .orElseThrow();
    }

    /** Section 5.3: IEEE 754 single precision, big-endian, any NaN for a pixel without a value. */
    @Test
    void floatsAreIeeeBigEndian() throws IOException {
        byte[] file =
                written(new Frame(2, 1, new float[] {-1.5f, Float.NaN}, Header.EMPTY), FitsFiles.Encoding.FLOAT_32);
        List<String> cards = cardsOf(file);
        assertThat(cards.get(1)).startsWith("BITPIX  =                  -32");
        int data = (cards.size() * CARD + BLOCK - 1) / BLOCK * BLOCK;
        assertThat(ByteBuffer.wrap(file, data, 4).getInt()).isEqualTo(0xBFC00000);
        assertThat(ByteBuffer.wrap(file, data + 4, 4).getFloat()).isNaN();
    }

    /** Section 4.2.1: text stands in quotes from column 11, an apostrophe twice. */
    @Test
    void textIsQuoted() throws IOException {
        byte[] file = written(
                small(Header.EMPTY.with("OBSERVER", "nobody's").with("FILTER", "L")), FitsFiles.Encoding.FLOAT_32);
        assertThat(cardsOf(file))
                .anyMatch(c -> c.startsWith("OBSERVER= 'nobody''s'"))
                .anyMatch(c -> c.matches("FILTER  = 'L *'.*"));
    }

    /** Section 4.2.1.1 allows ASCII only: names with other letters, long ones, and values that are no number must not stop a night. */
    @ParameterizedTest
    @ValueSource(strings = {"Forêt du Grand-Épervier", "十月の夜", "tab\there", "ends with \\ and 'quotes'"})
    void whatFitsCannotHoldIsWrittenAsNearAsItCan(String name) throws IOException {
        byte[] file = written(
                small(Header.EMPTY
                        .with("SITENAME", name)
                        .with("CCD-TEMP", Double.NaN)
                        .with("EXPTIME", 180.0)),
                FitsFiles.Encoding.FLOAT_32);
        for (String card : cardsOf(file)) {
            assertThat(card.chars()).allMatch(c -> c >= 32 && c <= 126);
        }
        Header back = FitsFiles.read(folder.resolve("written.fits")).header();
        assertThat(back.exposureSeconds()).hasValue(180);
        assertThat(back.number("CCD-TEMP")).isEmpty();
        assertThat(back.text("SITENAME").orElseThrow()).hasSameSizeAs(name);
    }

    @Test
    void longTextComesBackWhole() {
        String longName = "a very long name of a telescope, ".repeat(5).strip();
        Path file = folder.resolve("long.fits");
        FitsFiles.write(file, small(Header.EMPTY.with("TELESCOP", longName)), FitsFiles.Encoding.FLOAT_32);
        assertThat(FitsFiles.read(file).header().text("TELESCOP")).contains(longName);
    }

    // ---- reading

    private static byte[] file(byte[] data, String... cards) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (String card : cards) {
            out.writeBytes(String.format(Locale.ROOT, "%-80s", card).getBytes(StandardCharsets.US_ASCII));
        }
        while (out.size() % BLOCK != 0) {
            out.write(' ');
        }
        out.writeBytes(data);
        while (out.size() % BLOCK != 0) {
            out.write(0);
        }
        return out.toByteArray();
    }

    private Frame read(byte[] file) throws IOException {
        Path path = folder.resolve("foreign.fits");
        Files.write(path, file);
        return FitsFiles.read(path);
    }

    private static String card(String keyword, Object value) {
        return String.format(Locale.ROOT, "%-8s= %20s", keyword, value);
    }

    /** Table 8: the codes of BITPIX, each with the same two pixels. */
    @ParameterizedTest
    @CsvSource({"8, 1", "16, 2", "32, 4", "64, 8", "-32, 4", "-64, 8"})
    void everyKindOfPixelIsRead(int bitpix, int bytes) throws IOException {
        ByteBuffer data = ByteBuffer.allocate(2 * bytes);
        for (int value : new int[] {7, 200}) {
            switch (bitpix) {
                case 8 -> data.put((byte) value);
                case 16 -> data.putShort((short) value);
                case 32 -> data.putInt(value);
                case 64 -> data.putLong(value);
                case -32 -> data.putFloat(value);
                default -> data.putDouble(value);
            }
        }
        Frame frame = read(file(
                data.array(),
                card("SIMPLE", "T"),
                card("BITPIX", bitpix),
                card("NAXIS", 2),
                card("NAXIS1", 2),
                card("NAXIS2", 1),
                "END"));
        assertThat(frame.pixels()).containsExactly(7, 200);
        try (FitsBands bands = FitsBands.open(folder.resolve("foreign.fits"))) {
            assertThat(bands.rows(0, 1)).as("row by row").containsExactly(7, 200);
        }
    }

    /** Section 3.4: the picture may lie in an extension, behind a primary header without data. */
    @Test
    void aPictureInAnExtensionIsFound() throws IOException {
        byte[] primary =
                file(new byte[0], card("SIMPLE", "T"), card("BITPIX", 8), card("NAXIS", 0), card("EXTEND", "T"), "END");
        byte[] extension = file(
                new byte[] {0, 5, 0, 6},
                "XTENSION= 'IMAGE   '",
                card("BITPIX", 16),
                card("NAXIS", 2),
                card("NAXIS1", 1),
                card("NAXIS2", 2),
                card("PCOUNT", 0),
                card("GCOUNT", 1),
                "END");
        byte[] both = ByteBuffer.allocate(primary.length + extension.length)
                .put(primary)
                .put(extension)
                .array();
        Frame frame = read(both);
        assertThat(frame.height()).isEqualTo(2);
        assertThat(frame.at(1, 2)).isEqualTo(6);
    }

    /** By hand: the mean of three colours of one pixel. */
    @Test
    void ofAColourCubeTheMeanIsTaken() throws IOException {
        Frame frame = read(file(
                new byte[] {10, 20, 60},
                card("SIMPLE", "T"),
                card("BITPIX", 8),
                card("NAXIS", 3),
                card("NAXIS1", 1),
                card("NAXIS2", 1),
                card("NAXIS3", 3),
                "END"));
        assertThat(frame.pixels()).containsExactly(30);
    }

    @ParameterizedTest
    @CsvSource({"0, 1, 1", "2, 0, 5", "1, 100, 1", "2, 100000, 100000", "2, 40000, 40000"})
    void whatHoldsNoPictureIsNamed(int axes, int width, int height) throws IOException {
        List<String> cards = new ArrayList<>(List.of(card("SIMPLE", "T"), card("BITPIX", 16), card("NAXIS", axes)));
        if (axes > 0) {
            cards.add(card("NAXIS1", width));
        }
        if (axes > 1) {
            cards.add(card("NAXIS2", height));
        }
        cards.add("END");
        byte[] file = file(new byte[200], cards.toArray(new String[0]));
        assertThatThrownBy(() -> read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("foreign.fits")
                .hasMessageContaining("expected a");
    }
}
