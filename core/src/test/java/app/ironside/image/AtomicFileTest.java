package app.ironside.image;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A file is there whole or not at all. */
class AtomicFileTest {
    @TempDir
    Path folder;

    private static void write(Path file, String text) {
        AtomicFile.write(file, out -> out.write(text.getBytes(java.nio.charset.StandardCharsets.US_ASCII)));
    }

    private void nothingElseIsThere(int files) throws IOException {
        try (var there = Files.list(folder)) {
            assertThat(there).hasSize(files);
        }
    }

    @Test
    void aNewContentTakesThePlaceOfTheOld() throws IOException {
        Path file = folder.resolve("a.txt");
        write(file, "first");
        write(file, "second");
        assertThat(file).hasContent("second");
        nothingElseIsThere(1);
    }

    @Test
    void whatFailsHalfWayLeavesTheOldContent() throws IOException {
        Path file = folder.resolve("a.txt");
        write(file, "first");
        assertThatThrownBy(() -> AtomicFile.write(file, out -> {
                    out.write(new byte[5_000_000]);
                    throw new IOException("No space left on device");
                }))
                .isInstanceOf(UncheckedIOException.class)
                .hasMessageContaining("a.txt could not be written (No space left on device)")
                .hasMessageContaining("is the disk full or write-protected?");
        assertThatThrownBy(() -> AtomicFile.write(file, out -> {
                    out.write(1);
                    throw new IllegalStateException("a fault of the content");
                }))
                .isInstanceOf(IllegalStateException.class);
        assertThat(file).hasContent("first");
        nothingElseIsThere(1);
    }

    /** What a power cut left beside it is no hindrance. */
    @Test
    void anUnfinishedNeighbourIsWrittenOver() throws IOException {
        Path file = folder.resolve("a.txt");
        Files.writeString(folder.resolve("a.txt" + AtomicFile.UNFINISHED), "half of a much longer content");
        write(file, "whole");
        assertThat(file).hasContent("whole");
        nothingElseIsThere(1);
    }

    @Test
    void aFolderThatIsMissingIsNamed() {
        Path file = folder.resolve("not there").resolve("a.txt");
        assertThatThrownBy(() -> write(file, "x"))
                .isInstanceOf(UncheckedIOException.class)
                .hasMessageContaining("not there")
                .hasMessageContaining("could not be written");
    }
}
