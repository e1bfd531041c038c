package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A second start reaches the first, or finds out that nobody answers. */
class SummonsTest {
    @TempDir
    Path folder;

    @Test
    void theFirstOneAnswersOnce() throws Exception {
        Summons first = new Summons(folder);
        assertThat(first.take()).as("nobody asked").isFalse();
        CompletableFuture<Boolean> second = CompletableFuture.supplyAsync(() -> {
            try {
                return new Summons(folder).ask();
            } catch (InterruptedException e) {
                return false;
            }
        });
        while (!first.take()) {
            Thread.onSpinWait();
        }
        assertThat(second.get()).isTrue();
        assertThat(first.take()).isFalse();
    }

    @Test
    void whereNobodyAnswersNothingIsLeftBehind() throws Exception {
        assertThat(new Summons(folder).ask()).isFalse();
        assertThat(folder).isEmptyDirectory();
    }
}
