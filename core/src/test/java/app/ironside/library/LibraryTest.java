package app.ironside.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Mosaic;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What lies in folders: headers in the words that programs use are told apart by hand. */
class LibraryTest {
    @TempDir
    Path folder;

    private Path file(String name, Map<String, ?> cards) throws Exception {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        FitsFiles.write(
                file, new Frame(12, 8, new float[96], Header.EMPTY.withAll(cards)), FitsFiles.Encoding.UNSIGNED_16);
        return file;
    }

    private Library read() {
        return Library.read(List.of(folder), path -> false, Told.NOTHING, Workers.SERIAL, Progress.NONE);
    }

    @ParameterizedTest
    @CsvSource({
        "Light Frame, LIGHT",
        "LIGHT, LIGHT",
        "object, LIGHT",
        "Dark Frame, DARK",
        "dark, DARK",
        "Bias Frame, BIAS",
        "zero, BIAS",
        "Offset, BIAS",
        "Flat Field, FLAT",
        "FLAT, FLAT",
        "Sky Flat, FLAT",
        "Dark Flat, FLAT_DARK",
        "FlatDark, FLAT_DARK",
        "DARKFLAT, FLAT_DARK",
        "Master Dark, MASTER_DARK",
        "masterFlat, MASTER_FLAT",
        "Master Bias, MASTER_BIAS",
        "Master Light, UNKNOWN",
        "Stack, UNKNOWN"
    })
    void kindsByTheWordsOfPrograms(String word, FrameKind kind) {
        assertThat(FrameKind.ofWords(word)).contains(kind);
    }

    /** A header that says nothing leaves it to the names of file and folders; the header counts more. */
    @Test
    void kindsByNames() throws Exception {
        assertThat(facts(file("darks/a.fits", Map.of())).kind()).isEqualTo(FrameKind.DARK);
        assertThat(facts(file("x/NGC281_flat_03.fits", Map.of())).kind()).isEqualTo(FrameKind.FLAT);
        assertThat(facts(file("darks/b.fits", Map.of("IMAGETYP", "Light"))).kind())
                .isEqualTo(FrameKind.LIGHT);
        assertThat(facts(file("lights-developed/pictures/M 33 R G B.fits", Map.of("EXPTIME", 60.0)))
                        .kind())
                .as("what was made of lights is no light")
                .isEqualTo(FrameKind.UNKNOWN);
        assertThat(facts(file("y/c.fits", Map.of("EXPTIME", 0.0))).kind()).isEqualTo(FrameKind.BIAS);
        assertThat(facts(file("y/d.fits", Map.of("EXPTIME", 60.0))).kind()).isEqualTo(FrameKind.UNKNOWN);
        assertThat(facts(file("y/e.fits", Map.of("IMAGETYP", "Dark", "NCOMBINE", 20)))
                        .kind())
                .isEqualTo(FrameKind.MASTER_DARK);
        assertThat(facts(file("y/f.fits", Map.of("IMAGETYP", "Light", "NCOMBINE", 20)))
                        .kind())
                .as("a stack is no light")
                .isEqualTo(FrameKind.UNKNOWN);
    }

    private static FrameFacts facts(Path file) {
        return FrameFacts.of(file, app.ironside.image.FrameHead.read(file));
    }

    /** By hand: 01:30 UTC on the 12th at 10° east is 02:10 of local time: the evening was the 11th; at 170° east it is 12:50, noon is past. */
    @Test
    void nightsAreThoseOfTheEvening() throws Exception {
        Map<String, Object> east =
                Map.of("IMAGETYP", "Light", "DATE-OBS", "2026-10-12T01:30:00", "SITELAT", "45 30 00", "SITELONG", 10.0);
        assertThat(facts(file("a.fits", east)).night()).hasToString("Optional[2026-10-11]");
        Map<String, Object> farEast =
                Map.of("IMAGETYP", "Light", "DATE-OBS", "2026-10-12T01:30:00", "SITELAT", 45.5, "SITELONG", 170.0);
        assertThat(facts(file("b.fits", farEast)).night()).hasToString("Optional[2026-10-12]");
        assertThat(facts(file("a.fits", east)).place().orElseThrow().latDeg()).isEqualTo(45.5);
    }

    /** By hand: a cut-out that begins one pixel to the right of RGGB begins with GRBG, one above with GBRG. */
    @Test
    void mosaicsAreMovedByTheirOffsets() {
        Header header = Header.EMPTY.with("BAYERPAT", "rggb");
        assertThat(Mosaic.of(header)).contains(new Mosaic("RGGB"));
        assertThat(Mosaic.of(header.with("XBAYROFF", 1))).contains(new Mosaic("GRBG"));
        assertThat(Mosaic.of(header.with("YBAYROFF", 1))).contains(new Mosaic("GBRG"));
        assertThat(Mosaic.of(Header.EMPTY.with("BAYERPAT", "none"))).isEmpty();
    }

    private void light(String name, String target, String filter, double c) throws Exception {
        file(
                name,
                Map.of(
                        "IMAGETYP",
                        "Light",
                        "OBJECT",
                        target,
                        "FILTER",
                        filter,
                        "EXPTIME",
                        180.0,
                        "GAIN",
                        100,
                        "CCD-TEMP",
                        c,
                        "SET-TEMP",
                        -10.0,
                        "DATE-OBS",
                        "2026-10-12T01:00:00"));
    }

    private void dark(String name, double seconds, double gain, double c) throws Exception {
        file(name, Map.of("IMAGETYP", "Dark", "EXPTIME", seconds, "GAIN", gain, "CCD-TEMP", c));
    }

    @Test
    void matchesTellWhyAndGapsWhatItTakes() throws Exception {
        light("l1.fits", "NGC 281", "Ha", -10.02);
        light("l2.fits", "NGC0281", "Ha", -9.97);
        light("l3.fits", "ngc_281", "R", -10.0);
        for (int i = 0; i < 3; i++) {
            dark("d30-" + i + ".fits", 30, 100, -10);
            dark("d180-" + i + ".fits", 180, 100, -10.1 + 0.1 * i);
            dark("warm-" + i + ".fits", 180, 100, 5);
            file("b" + i + ".fits", Map.of("IMAGETYP", "Bias", "EXPTIME", 0.0, "GAIN", 100, "CCD-TEMP", -10.0));
            file(
                    "f" + i + ".fits",
                    Map.of("IMAGETYP", "Flat", "FILTER", "ha", "EXPTIME", 1.5, "DATE-OBS", "2026-10-10T18:00:00"));
        }
        Library library = read();
        assertThat(library.matches()).hasSize(2);
        Match ha = library.matches().stream()
                .filter(m -> m.lights().filter().equals(Optional.of("Ha")))
                .findFirst()
                .orElseThrow();
        assertThat(library.matches())
                .extracting(m -> m.lights().target())
                .as("one name over all sets")
                .containsOnly(Optional.of("NGC 281"));
        assertThat(ha.lights().files()).as("one target, however it is written").hasSize(2);
        assertThat(ha.dark().orElseThrow().exposureS()).isEqualTo(OptionalDouble.of(180));
        assertThat(ha.dark().orElseThrow().temperatureC().orElseThrow()).isBetween(-10.2, -9.8);
        assertThat(ha.why())
                .anySatisfy(
                        w -> assertThat(w)
                                .isEqualTo(
                                        "Flat: 3 flats of 1.5 s, Ha, night of 2026-10-10; 1 night from the lights', dust may have moved."));
        assertThat(ha.why()).anyMatch(w -> w.startsWith("Flat dark: none of the flats' own exposure"));
        // By hand: only the filter R has no flat; 20 of 2 s with 2 s to read out are 1.3 min, and 3 to set up.
        assertThat(library.gaps()).singleElement().satisfies(gap -> {
            assertThat(gap.kind()).isEqualTo(FrameKind.FLAT);
            assertThat(gap.filter()).contains("R");
            assertThat(gap.minutes()).isBetween(4.3, 4.4);
            assertThat(gap.reason())
                    .startsWith("No flat fits; the nearest, 3 flats of 1.5 s, Ha, night of 2026-10-10, has filter Ha"
                            + " instead of R.");
        });
    }

    @Test
    void aDarkOfAnotherGainOrTemperatureIsRefusedInWords() throws Exception {
        light("l1.fits", "NGC 281", "Ha", -10);
        dark("d.fits", 180, 200, 5);
        Match match = read().matches().get(0);
        assertThat(match.dark()).isEmpty();
        assertThat(match.why().get(0))
                .isEqualTo(
                        "No dark fits; the nearest, 1 dark of 180 s, gain 200, 5 °C, has gain 200 instead of 100 and 5 °C instead"
                                + " of -10 °C.");
    }

    /** Darks of a camera that is not cooled are a set within two degrees; a cooled camera's are one at each setting. */
    @Test
    void temperaturesMakeSets() throws Exception {
        double[] drifting = {12.0, 12.6, 13.1, 13.8, 14.6, 15.2};
        for (int i = 0; i < drifting.length; i++) {
            dark("u" + i + ".fits", 60, 0, drifting[i]);
        }
        List<FrameSet> sets = read().sets();
        assertThat(sets).hasSize(2);
        assertThat(sets.get(0).files()).hasSize(4);
        assertThat(sets.get(1).files()).hasSize(2);
    }

    @Test
    void whatCannotBeReadIsNamedAndTheRestIsDone() throws Exception {
        light("good.fits", "NGC 281", "Ha", -10);
        Files.write(folder.resolve("cut.fits"), "SIMPLE  =                    T".getBytes());
        Files.writeString(folder.resolve("notes.txt"), "no frame");
        Library library = read();
        assertThat(library.frames()).hasSize(1);
        assertThat(library.unusable()).singleElement().satisfies(u -> {
            assertThat(u.file().getFileName()).hasToString("cut.fits");
            assertThat(u.reason()).startsWith("ends within its header; expected");
        });
        Path nowhere = folder.resolve("nowhere");
        assertThatThrownBy(
                        () -> Library.read(List.of(nowhere), p -> false, Told.NOTHING, Workers.SERIAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("there is no such folder");
    }
}
