package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TextFilesTest {
    @TempDir
    Path folder;

    private Path file(byte[] bytes) throws IOException {
        return Files.write(folder.resolve("notes.csv"), bytes);
    }

    @Test
    void utf8WithOrWithoutItsMark() throws IOException {
        assertThat(TextFiles.read(file("Forêt\n".getBytes(StandardCharsets.UTF_8)), "notes"))
                .isEqualTo("Forêt\n");
        assertThat(TextFiles.read(file("\uFEFFForêt".getBytes(StandardCharsets.UTF_8)), "notes"))
                .isEqualTo("Forêt");
        assertThat(TextFiles.read(file(new byte[0]), "notes")).isEmpty();
    }

    /** What a spreadsheet on an older machine writes. */
    @Test
    void oldBytesAreReadToo() throws IOException {
        assertThat(TextFiles.read(file("Forêt, 5 µm".getBytes(Charset.forName("windows-1252"))), "notes"))
                .isEqualTo("Forêt, 5 µm");
    }

    @Test
    void linesEndAsTheyLike() throws IOException {
        Path file = file("a\r\nb\nc\rd".getBytes(StandardCharsets.US_ASCII));
        assertThat(TextFiles.lines(file, "notes")).containsExactly("a", "b", "c", "d");
        try (BufferedReader reader = TextFiles.reader(file, "notes")) {
            assertThat(reader.readLine()).isEqualTo("a");
        }
    }

    @Test
    void whatIsNotThereIsNamed() {
        assertThatThrownBy(() -> TextFiles.read(folder.resolve("no.csv"), "a table of notes"))
                .isInstanceOf(BadInputException.class)
                .hasMessageEndingWith("no.csv: cannot be read; expected a table of notes");
        assertThatThrownBy(() -> TextFiles.read(folder, "a table of notes")).isInstanceOf(BadInputException.class);
    }
}
