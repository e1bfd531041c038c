package app.ironside.library;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.gear.GearBook;
import app.ironside.gear.GearChange;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.library.FactBook.Correction;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a person says of frames and gear counts beside the headers, and no frame is touched. */
class ToldTest {
    @TempDir
    Path folder;

    private Path frame(String name, String kind, String filter, String start, double seconds) {
        Path file = folder.resolve("raw").resolve(name);
        file.toFile().getParentFile().mkdirs();
        Header header = Header.EMPTY
                .with("IMAGETYP", kind)
                .with("FILTER", filter)
                .with("TELESCOP", "Wren")
                .with("DATE-OBS", start)
                .with("EXPTIME", seconds);
        FitsFiles.write(file, new Frame(16, 16, new float[256], header), FitsFiles.Encoding.UNSIGNED_16);
        return file;
    }

    private Library read() {
        return Library.read(List.of(folder.resolve("raw")), p -> false, Told.in(folder), Workers.SERIAL, Progress.NONE);
    }

    private static Correction filter(Path file, String filter) {
        return new Correction(
                List.of(file.toString()),
                Optional.empty(),
                Optional.empty(),
                Optional.of(filter),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty());
    }

    /** Flats of the tenth of November serve lights of the fourteenth, until somebody cleans the sensor on the twelfth. */
    @Test
    void flatsOfBeforeACleaningDoNotFit() {
        frame("light.fits", "Light", "L", "2026-11-14T22:00:00", 60);
        frame("flat.fits", "Flat", "L", "2026-11-10T22:00:00", 2);
        assertThat(read().matches().get(0).flat()).isPresent();
        GearBook book = new GearBook(folder);
        GearChange lark = new GearChange(LocalDate.parse("2026-11-12"), "Lark", GearChange.Kind.CLEANED, "");
        book.add(lark);
        assertThat(read().matches().get(0).flat()).as("another kit's sensor").isPresent();
        book.add(new GearChange(LocalDate.parse("2026-11-12"), "Wren", GearChange.Kind.CLEANED, "new cloth"));
        Match match = read().matches().get(0);
        assertThat(match.flat()).isEmpty();
        assertThat(match.why())
                .anyMatch(w -> w.contains("a change between them: sensor or glass cleaned on 2026-11-12"));
        book.remove(book.last("Wren", GearChange.Voids.FLATS, LocalDate.parse("2026-11-14"))
                .orElseThrow());
        assertThat(read().matches().get(0).flat()).isPresent();
        assertThat(book.changes()).containsExactly(lark);
    }

    /** The change of a day stands before its night; what comes later does not concern the nights before. */
    @Test
    void aChangeLiesBetweenNights() {
        GearChange change = new GearChange(LocalDate.parse("2026-11-12"), "Wren", GearChange.Kind.TURNED, "");
        LocalDate before = LocalDate.parse("2026-11-11");
        LocalDate same = LocalDate.parse("2026-11-12");
        assertThat(change.between(before, same)).isTrue();
        assertThat(change.between(same, before)).isTrue();
        assertThat(change.between(same, same.plusDays(3))).isFalse();
        assertThat(change.between(before, before)).isFalse();
        assertThat(new GearBook(folder).last("Wren", GearChange.Voids.FLATS, same))
                .isEmpty();
    }

    /** A drawer that was set to Ha and told nobody: said once for the file, taken back by saying nothing. */
    @Test
    void aWrongFilterIsCorrectedWithoutTouchingTheFile() throws Exception {
        Path file = frame("light.fits", "Light", "L", "2026-11-14T22:00:00", 60);
        byte[] before = Files.readAllBytes(file);
        FactBook book = new FactBook(folder);
        book.keep(filter(file, "R"));
        book.keep(filter(file, "Ha"));
        assertThat(read().matches().get(0).lights().filter()).contains("Ha");
        assertThat(Files.readAllBytes(file)).isEqualTo(before);
        book.keep(new Correction(
                List.of(file.toString()),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty()));
        assertThat(book.corrections()).isEmpty();
        assertThat(read().matches().get(0).lights().filter()).contains("L");
    }

    /** A frame that was written as a light is a dark of half a minute at -10 °C, of no filter, once that is said. */
    @Test
    void kindAndNumbersAreSaid() {
        Path file = frame("x.fits", "Light", "L", "2026-11-14T22:00:00", 30);
        new FactBook(folder)
                .keep(new Correction(
                        List.of(file.toString()),
                        Optional.of(FrameKind.DARK),
                        Optional.empty(),
                        Optional.empty(),
                        Optional.of(30.0),
                        Optional.of(100.0),
                        Optional.empty(),
                        Optional.of(-10.0)));
        FrameSet set = read().sets().get(0);
        assertThat(set.words()).isEqualTo("1 dark of 30 s, gain 100, -10 °C");
    }

    @Test
    void aDamagedBookIsNamed() throws Exception {
        Files.writeString(folder.resolve("frame-facts.json"), "{");
        assertThatThrownBy(() -> Told.in(folder))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("frame-facts.json");
    }
}
