package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Faults of Ironside itself, written down. */
class FaultReportTest {
    @TempDir
    Path folder;

    @Test
    void tellsWhereItHappenedAndNothingOfThePerson() throws Exception {
        Path file = new FaultReport(folder.resolve("reports"), Clock.systemUTC())
                .write(new IllegalStateException("no such block"), "drawing of the plan")
                .orElseThrow();
        assertThat(Files.readString(file))
                .contains(
                        Version.current().toString(),
                        "Java " + System.getProperty("java.version"),
                        "While: drawing of the plan",
                        "java.lang.IllegalStateException: no such block",
                        "FaultReportTest.tellsWhereItHappened")
                .doesNotContain(System.getProperty("user.home"));
    }

    /** One that comes a hundred times is one file. */
    @Test
    void theSameFaultIsToldOnce() throws Exception {
        FaultReport reports = new FaultReport(folder, Clock.systemUTC());
        for (int i = 0; i < 100; i++) {
            assertThat(reports.write(new NullPointerException(), "ribbon")).isPresent();
        }
        assertThat(count()).isEqualTo(1);
        assertThat(reports.write(new NullPointerException(), "guide record")).isPresent();
        assertThat(count()).isEqualTo(2);
    }

    @Test
    void oldOnesGiveWay() throws Exception {
        FaultReport reports = new FaultReport(folder, Clock.systemUTC());
        for (int i = 0; i < FaultReport.MOST_KEPT + 5; i++) {
            reports.write(new NullPointerException(), "try " + i);
        }
        assertThat(count()).isEqualTo(FaultReport.MOST_KEPT);
        try (Stream<Path> left = Files.list(folder)) {
            assertThat(left.map(FaultReportTest::read)).noneMatch(t -> t.contains("While: try 3\n"));
        }
    }

    /** A report that cannot be written is no second fault. */
    @Test
    void whereNothingCanBeWrittenItSaysSo() throws Exception {
        Path file = Files.writeString(folder.resolve("in the way"), "x");
        assertThat(new FaultReport(file, Clock.systemUTC()).write(new NullPointerException(), "ribbon"))
                .isEmpty();
    }

    private long count() throws Exception {
        try (Stream<Path> files = Files.list(folder)) {
            return files.count();
        }
    }

    private static String read(Path file) {
        try {
            return Files.readString(file);
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
