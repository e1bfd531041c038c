package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Frames in two places. */
class SecondCopyTest {
    @TempDir
    Path folder;

    private Path night;

    @BeforeEach
    void someFrames() throws IOException {
        night = Files.createDirectories(folder.resolve("2026-11-14"));
        Path lights = Files.createDirectories(night.resolve("lights/M_33/L"));
        for (int i = 0; i < 5; i++) {
            Files.write(lights.resolve("l" + i + ".fits"), new byte[] {1, 2, (byte) i});
        }
        Files.writeString(lights.resolve("l5.fits.part"), "half");
    }

    private static long files(Path where) throws IOException {
        try (Stream<Path> all = Files.walk(where)) {
            return all.filter(Files::isRegularFile).count();
        }
    }

    @Test
    void everyFinishedFrameIsThereAtTheEndByteForByte() throws IOException {
        SecondCopy copy = new SecondCopy(night, folder.resolve("second"));
        Files.write(night.resolve("lights/M_33/L/late.fits"), new byte[] {9});
        copy.close();
        assertThat(copy.behind()).isZero();
        assertThat(copy.copied()).isEqualTo(6);
        assertThat(copy.news()).isEmpty();
        Path there = folder.resolve("second/2026-11-14/lights/M_33/L");
        assertThat(there.resolve("l3.fits")).hasBinaryContent(new byte[] {1, 2, 3});
        assertThat(there.resolve("late.fits")).hasBinaryContent(new byte[] {9});
        assertThat(files(there)).as("nothing half-written").isEqualTo(6);
    }

    /** A frame whose header is written anew is copied anew. */
    @Test
    void whatChangesIsCopiedAgain() throws IOException {
        new SecondCopy(night, folder.resolve("second")).close();
        Path light = night.resolve("lights/M_33/L/l0.fits");
        Files.write(light, new byte[] {7, 7, 7});
        Files.setLastModifiedTime(light, FileTime.fromMillis(System.currentTimeMillis() + 60_000));
        new SecondCopy(night, folder.resolve("second")).close();
        assertThat(folder.resolve("second/2026-11-14/lights/M_33/L/l0.fits")).hasBinaryContent(new byte[] {7, 7, 7});
    }

    /** A copy in the place of the frames themselves would be none: it is not called proven. */
    @Test
    void theSamePlaceIsNoSecondOne() throws IOException {
        for (Path same : new Path[] {folder, night.resolve("copies")}) {
            SecondCopy copy = new SecondCopy(night, same);
            copy.close();
            assertThat(copy.copied()).isZero();
            assertThat(copy.behind()).isEqualTo(5);
            assertThat(copy.news())
                    .hasValueSatisfying(words -> assertThat(words).contains("another disk"));
        }
        assertThat(files(night)).isEqualTo(6);
    }

    /** A second disk that refuses is told of once, and that it goes on, once. */
    @Test
    void aFolderThatRefusesIsToldOfAndTheFramesStay() throws IOException {
        Path blocked = folder.resolve("second");
        Files.writeString(blocked, "a file where the folder should be");
        SecondCopy copy = new SecondCopy(night, blocked);
        copy.close();
        assertThat(copy.news()).hasValueSatisfying(words -> assertThat(words)
                .startsWith("The second copy is 5 files behind")
                .contains("safe"));
        assertThat(copy.news()).isEmpty();
        assertThat(files(night)).isEqualTo(6);
    }
}
