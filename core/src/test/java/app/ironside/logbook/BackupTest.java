package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Provenance;
import app.ironside.journal.AnySub;
import app.ironside.journal.NightStarted;
import app.ironside.journal.Verdict;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.TreeMap;
import java.util.concurrent.CancellationException;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BackupTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    @TempDir
    Path folder;

    private Path data;
    private Path zip;

    @BeforeEach
    void someData() throws Exception {
        data = folder.resolve("data");
        zip = folder.resolve("backup.zip");
        try (Logbook logbook = Logbook.open(data)) {
            night(logbook, "night-1", 0);
        }
        Files.createDirectories(data.resolve("kits"));
        Files.writeString(data.resolve("kits/wren.json"), "{\"name\": \"Wren\"}");
        Files.createDirectories(data.resolve("night-1/lights"));
        Files.write(data.resolve("night-1/lights/m33.fits"), new byte[5000]);
        Files.writeString(data.resolve("in-use"), "");
    }

    private static void night(Logbook logbook, String name, int minute) {
        NightEntry night = logbook.begin(name, name, "{}");
        logbook.journal(night)
                .append(new NightStarted(
                        NINE, "t", "Colle Sorbo", "Wren", LocalDate.of(2026, 11, 14), Provenance.REAL));
        logbook.journal(night)
                .append(AnySub.of(
                        NINE.plusSeconds(60L * minute), "M 33", "L", 1800, new Verdict(true, "good", "good")));
    }

    /** While a desk has the logbook open and goes on writing. The archive is read by the JDK's reader of ZIP files. */
    @Test
    void aFolderInUseIsTakenAlongAndTakenBack() throws Exception {
        try (Logbook open = Logbook.open(data)) {
            night(open, "night-2", 30);
            assertThat(Backup.write(data, zip, false, Progress.NONE).files()).isEqualTo(2);
            night(open, "night-3", 60);
        }
        try (ZipFile read = new ZipFile(zip.toFile())) {
            assertThat(read.stream().map(ZipEntry::getName))
                    .containsExactly("logbook.sqlite", "kits/wren.json", "ironside-backup.json");
        }
        Path other = folder.resolve("other");
        assertThat(Backup.restore(zip, other, Progress.NONE).files()).isEqualTo(2);
        assertThat(other.resolve("kits/wren.json")).hasContent("{\"name\": \"Wren\"}");
        try (Logbook logbook = Logbook.open(other)) {
            assertThat(logbook.nights()).hasSize(2);
            assertThat(logbook.harvest().account().hoursKept()).isEqualTo(1);
        }
    }

    @Test
    void framesGoAlongWhenTheyAreWanted() throws Exception {
        assertThat(Backup.write(data, zip, true, Progress.NONE).files()).isEqualTo(3);
        Path other = folder.resolve("other");
        Backup.restore(zip, other, Progress.NONE);
        assertThat(Files.readAllBytes(other.resolve("night-1/lights/m33.fits"))).isEqualTo(new byte[5000]);
    }

    /** Cut short, changed by a byte, with a file too many or too few, leading elsewhere: refused, and nothing is left. */
    @Test
    void whatDoesNotAgreeIsRefusedWhole() throws Exception {
        Backup.write(data, zip, true, Progress.NONE);
        byte[] whole = Files.readAllBytes(zip);
        refused(Arrays.copyOf(whole, whole.length / 2));
        refused(new byte[] {1, 2, 3});
        byte[] changed = whole.clone();
        changed[whole.length / 3] ^= 0x10;
        refused(changed);
        refused(again("extra.txt", "kits/wren.json"));
        refused(again("", "kits/wren.json"));
        refused(again("../../evil.txt", ""));
        assertThat(folder.resolve("evil.txt")).doesNotExist();
        assertThat(folder.resolve("../evil.txt")).doesNotExist();
    }

    private void refused(byte[] bytes) throws Exception {
        Path bad = folder.resolve("bad.zip");
        Files.write(bad, bytes);
        Path other = folder.resolve("other");
        assertThatThrownBy(() -> Backup.restore(bad, other, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("bad.zip");
        assertThat(other).doesNotExist();
        assertThat(folder.resolve("other.restoring")).doesNotExist();
    }

    /** The same archive with a file more, and one left out. */
    private byte[] again(String more, String without) throws Exception {
        TreeMap<String, byte[]> entries = new TreeMap<>();
        try (ZipFile read = new ZipFile(zip.toFile())) {
            for (ZipEntry entry : read.stream().toList()) {
                entries.put(entry.getName(), read.getInputStream(entry).readAllBytes());
            }
        }
        if (!more.isEmpty()) {
            entries.put(more, new byte[] {7});
        }
        entries.remove(without);
        var bytes = new java.io.ByteArrayOutputStream();
        try (ZipOutputStream out = new ZipOutputStream(bytes)) {
            for (var entry : entries.entrySet()) {
                out.putNextEntry(new ZipEntry(entry.getKey()));
                out.write(entry.getValue());
                out.closeEntry();
            }
        }
        return bytes.toByteArray();
    }

    @Test
    void dataIsNeverWrittenOver() {
        Backup.write(data, zip, false, Progress.NONE);
        assertThatThrownBy(() -> Backup.restore(zip, data, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("holds data already");
        assertThatThrownBy(() -> Backup.write(folder.resolve("nothing"), zip, false, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("holds no logbook");
    }

    @Test
    void cancelledItLeavesNoHalfArchive() throws Exception {
        assertThatThrownBy(() -> Backup.write(data, zip, true, (what, done) -> false))
                .isInstanceOf(CancellationException.class);
        try (var files = Files.list(folder)) {
            assertThat(files.map(f -> f.getFileName().toString())).containsExactly("data");
        }
    }
}
