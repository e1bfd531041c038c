package app.ironside.library;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Heads that are kept: a second reading opens no file that has not changed. */
class HeadShelfTest {
    private static final int FILES = 220;
    private static final FileTime LONG_AGO = FileTime.from(Instant.parse("2026-11-14T20:00:00Z"));

    @TempDir
    Path folder;

    private Path raw;
    private Path data;

    @BeforeEach
    void write() throws Exception {
        raw = Files.createDirectories(folder.resolve("raw"));
        data = folder.resolve("data");
        for (int i = 0; i < FILES; i++) {
            light(i, "NGC 891");
        }
    }

    private Path light(int number, String target) throws Exception {
        Header header = Header.EMPTY
                .with("IMAGETYP", "LIGHT")
                .with("OBJECT", target)
                .with("FILTER", "L")
                .with("EXPTIME", 120.0)
                .with("GAIN", 100);
        Path file = raw.resolve("light" + number + ".fits");
        FitsFiles.write(file, new Frame(4, 3, new float[12], header), FitsFiles.Encoding.FLOAT_32);
        Files.setLastModifiedTime(file, LONG_AGO);
        return file;
    }

    private Library read() {
        return Library.read(
                List.of(raw),
                p -> false,
                Told.NOTHING,
                HeadShelf.in(data, Clock.systemUTC()),
                Workers.SERIAL,
                Progress.NONE);
    }

    private static String target(Library library, Path file) {
        return library.frames().stream()
                .filter(f -> f.file().equals(file))
                .findFirst()
                .orElseThrow()
                .facts()
                .target()
                .orElseThrow();
    }

    /** What the file says now would be another target: that it is not seen proves that the file was not opened. */
    @Test
    void aFileThatHasNotChangedIsNotOpenedAgain() throws Exception {
        Library first = read();
        Path file = raw.resolve("light7.fits");
        String text = Files.readString(file, StandardCharsets.ISO_8859_1);
        Files.writeString(file, text.replace("'NGC 891 '", "'NGC 7331'"), StandardCharsets.ISO_8859_1);
        Files.setLastModifiedTime(file, LONG_AGO);
        Library second = read();
        assertThat(second.frames()).isEqualTo(first.frames()).hasSize(FILES);
        assertThat(target(second, file)).isEqualTo("NGC 891");

        Files.setLastModifiedTime(file, FileTime.from(Instant.parse("2026-11-15T20:00:00Z")));
        assertThat(target(read(), file)).as("changed since").isEqualTo("NGC 7331");
    }

    @Test
    void newFilesAreNoticedAndGoneOnesForgotten() throws Exception {
        read();
        Path more = light(FILES, "IC 342");
        Files.delete(raw.resolve("light0.fits"));
        Library second = read();
        assertThat(second.frames()).hasSize(FILES);
        assertThat(target(second, more)).isEqualTo("IC 342");
        assertThat(second.frames()).noneMatch(f -> f.file().endsWith("light0.fits"));
    }

    /** Damage costs time and nothing else. */
    @Test
    void aDamagedShelfIsMadeAnew() throws Exception {
        Library first = read();
        Path shelf = data.resolve("heads.gz");
        byte[] whole = Files.readAllBytes(shelf);
        for (int length : new int[] {0, 5, whole.length / 2}) {
            Files.write(shelf, java.util.Arrays.copyOf(whole, length));
            assertThat(read().frames()).isEqualTo(first.frames());
        }
        assertThat(Files.size(shelf)).isEqualTo(whole.length);
    }

    /** A folder for it that cannot be made is no reason not to read. */
    @Test
    void whereNothingCanBeKeptEverythingIsRead() throws Exception {
        data = Files.writeString(folder.resolve("in the way"), "x");
        assertThat(read().frames()).hasSize(FILES);
    }
}
