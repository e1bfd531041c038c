package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

/** A process of its own is asked to end; Ctrl C asks in the same way, under another number. */
@Order(2)
@DisabledOnOs(OS.WINDOWS)
class InterruptionTest {
    private static final int SIGTERM = 15;

    @TempDir
    Path folder;

    @Test
    void anInterruptedRehearsalLeavesNothingBehind() throws Exception {
        Path temporary = Files.createDirectory(folder.resolve("tmp"));
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx2g",
                        "-XX:-UsePerfData",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-Djava.io.tmpdir=" + temporary,
                        "-cp",
                        System.getProperty("java.class.path"),
                        Main.class.getName(),
                        "rehearse",
                        Path.of("..", "examples", "colle-sorbo.json").toString())
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        try (var told = process.errorReader()) {
            String line = told.readLine();
            while (line != null && !line.contains("Rough focus")) {
                line = told.readLine();
            }
            assertThat(line).as("the night has begun to write frames").isNotNull();
            // The polite kill, and not Ctrl C: what a shell starts in the background is born deaf to that one.
            process.toHandle().destroy();
            told.lines().forEach(l -> {});
        }
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).isEqualTo(128 + SIGTERM);
        try (Stream<Path> left = Files.walk(temporary)) {
            assertThat(left.filter(p ->
                            p.toString().contains("rehearsal") || p.toString().endsWith(".part")))
                    .isEmpty();
        }
    }
}
