package app.ironside.trainer;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is named after it was told is no finding: the first look back at a night stands. */
class ScoreBookTest {
    private static final LocalDate DAY = LocalDate.of(2026, 11, 14);

    @TempDir
    private Path data;

    @Test
    void theFirstLookBackAtANightCounts() {
        ScoreBook book = new ScoreBook(data);
        assertThat(book.add(new ScoreBook.Try("fading", DAY, 1, 50))).isTrue();
        assertThat(book.add(new ScoreBook.Try("fading", DAY, 1, 100))).isFalse();
        assertThat(book.add(new ScoreBook.Try("fading", DAY, 2, 70))).isTrue();
        assertThat(book.add(new ScoreBook.Try("boiling", DAY, 1, 90))).isTrue();
        assertThat(new ScoreBook(data).tries()).hasSize(3);
        assertThat(new ScoreBook(data).best("fading").orElseThrow().points()).isEqualTo(70);
        assertThat(book.best("jagged")).isEmpty();
    }

    @Test
    void aDamagedFileIsNamedAndStays() throws Exception {
        Path file = data.resolve("exercises.json");
        Files.writeString(file, "{\"tries\": [");
        assertThatThrownBy(() -> new ScoreBook(data).add(new ScoreBook.Try("fading", DAY, 1, 50)))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("exercises.json");
        assertThat(Files.readString(file)).isEqualTo("{\"tries\": [");
    }
}
