package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FolderLockTest {
    @TempDir
    Path folder;

    @Test
    void oneAtATime() throws IOException {
        Path data = folder.resolve("data");
        try (FolderLock first = FolderLock.take(data).orElseThrow()) {
            assertThat(FolderLock.take(data)).isEmpty();
            assertThat(FolderLock.take(folder.resolve("other"))).isPresent();
        }
        assertThat(FolderLock.take(data)).as("it was let go").isPresent();
    }
}
