package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Progress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A backup of one night is taken back where three lie by now. */
class TakingBackTest {
    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-12-02T10:15:00Z"), ZoneOffset.UTC);

    @TempDir
    Path folder;

    private Path data;
    private Path zip;
    private TakingBack back;

    @BeforeEach
    void threeNights() throws Exception {
        data = folder.resolve("data");
        zip = folder.resolve("backup.zip");
        try (Logbook logbook = Logbook.open(data)) {
            logbook.begin("a", "night-1", "{}");
            Backup.write(data, zip, false, Progress.NONE);
            logbook.begin("b", "night-2", "{}");
            logbook.begin("c", "night-3", "{}");
        }
        Files.createDirectories(data.resolve("night-3/lights"));
        Files.write(data.resolve("night-3/lights/m33.fits"), new byte[5000]);
        back = new TakingBack(data);
    }

    private int nights() {
        try (Logbook logbook = Logbook.open(data)) {
            return logbook.nights().size();
        }
    }

    @Test
    void nothingChangesUntilTheNextStartAndNothingIsLost() {
        try (Logbook open = Logbook.open(data)) {
            assertThat(back.waits()).isFalse();
            assertThat(back.prepare(zip, Progress.NONE).files()).isEqualTo(1);
            assertThat(back.waits()).isTrue();
            assertThat(open.nights()).hasSize(3);
        }
        Path aside = back.takeOver(CLOCK).orElseThrow();
        assertThat(aside).isEqualTo(folder.resolve("data.before-20261202-101500"));
        assertThat(aside.resolve("night-3/lights/m33.fits")).hasSize(5000);
        assertThat(nights()).isEqualTo(1);
        assertThat(back.waits()).isFalse();
        assertThat(back.takeOver(CLOCK)).as("once").isEmpty();
        assertThat(nights()).isEqualTo(1);
    }

    @Test
    void itCanBePutAway() {
        back.prepare(zip, Progress.NONE);
        back.withdraw();
        assertThat(back.waits()).isFalse();
        assertThat(back.takeOver(CLOCK)).isEmpty();
        assertThat(nights()).isEqualTo(3);
        assertThat(folder.toFile().list()).containsExactlyInAnyOrder("data", "backup.zip");
    }

    /** The power went when the old folder was out of the way; the start made it anew, to see that nobody else is there. */
    @Test
    void aPowerCutInTheMiddleIsGoneOnFrom() throws Exception {
        back.prepare(zip, Progress.NONE);
        Files.move(data, folder.resolve("data.before-1"));
        FolderLock.take(data).orElseThrow().close();
        assertThat(back.takeOver(CLOCK)).isEmpty();
        assertThat(nights()).isEqualTo(1);
        assertThat(folder.resolve("data.before-1/night-3/lights/m33.fits")).exists();
    }

    /** A folder that lost its logbook may hold kits and wishes all the same. */
    @Test
    void whatLiesThereWithoutALogbookIsSetAsideToo() throws Exception {
        back.prepare(zip, Progress.NONE);
        Files.delete(data.resolve(Logbook.FILE));
        Path aside = back.takeOver(CLOCK).orElseThrow();
        assertThat(aside.resolve("night-3/lights/m33.fits")).hasSize(5000);
        assertThat(nights()).isEqualTo(1);
    }

    @Test
    void whatIsNoBackupIsRefused() throws Exception {
        Files.write(zip, new byte[300]);
        assertThatThrownBy(() -> back.prepare(zip, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("backup.zip");
        assertThat(back.waits()).isFalse();
        assertThat(nights()).isEqualTo(3);
    }

    /** Both folders stay as they were where one of the names is taken by something else. */
    @Test
    void aNameThatIsTakenLeavesBoth() throws Exception {
        back.prepare(zip, Progress.NONE);
        Files.createDirectories(folder.resolve("data.before-20261202-101500/full"));
        assertThatThrownBy(() -> back.takeOver(CLOCK)).hasMessageContaining("could not take the place of");
        assertThat(back.waits()).isTrue();
        assertThat(nights()).isEqualTo(3);
    }
}
