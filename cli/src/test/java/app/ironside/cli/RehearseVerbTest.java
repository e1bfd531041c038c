package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.logbook.FolderLock;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Nights that end early; a whole one is rehearsed by the tests of the wiring. */
class RehearseVerbTest {
    @TempDir
    Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    private int run(String... arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Main.run(arguments, new PrintWriter(out), new PrintWriter(err));
    }

    private JsonNode json() throws IOException {
        return new ObjectMapper().readTree(out.toString());
    }

    private Path night(String from, String to) throws IOException {
        String text = Files.readString(Path.of("..", "examples", "colle-sorbo.json"));
        assertThat(text).contains(from);
        return Files.writeString(folder.resolve("night.json"), text.replace(from, to));
    }

    private static List<String> texts(JsonNode answer) {
        return Stream.iterate(0, i -> i < answer.get("events").size(), i -> i + 1)
                .map(i -> answer.get("events").get(i).get("text").asText())
                .toList();
    }

    /** A cooler asked for more than it can: the night is not begun with warm darks to come, and says so. */
    @Test
    void aNightThatIsNotReadyEndsWithItsReason() throws IOException {
        Path night = night("\"coolToC\": -10", "\"coolToC\": -45");
        Path kept = folder.resolve("kept");
        assertThat(run("rehearse", night.toString(), "--json", "--seed", "5", "--keep", kept.toString()))
                .isEqualTo(1);
        JsonNode answer = json();
        assertThat(answer.get("reason").asText()).contains("not every device is proven");
        assertThat(answer.get("subsPlanned").asInt()).isGreaterThan(50);
        assertThat(answer.get("subsTaken").asInt()).isZero();
        assertThat(answer.get("faults").asInt()).isPositive();
        assertThat(texts(answer))
                .anyMatch(t -> t.contains("The cooler stands at") && t.contains("choose a warmer set point"))
                .last()
                .asString()
                .contains("The mount is parked.")
                .endsWith("The camera warms up: leave its power on for 12 minutes.");
        assertThat(err.toString().lines().count())
                .as("each event is told as it comes")
                .isGreaterThanOrEqualTo(answer.get("events").size());
        assertThat(kept.resolve("logbook.sqlite")).exists();
        // The same folder again: the night that was left goes on.
        assertThat(run("rehearse", night.toString(), "--json", "--seed", "5", "--keep", kept.toString()))
                .isEqualTo(1);
        assertThat(texts(json())).anyMatch(t -> t.matches("The night goes on after a stop: \\d+ subs still fit\\."));
    }

    @Test
    void aNightWithoutAnyTargetUpIsRefused() throws IOException {
        Path night = night("\"minimumAltitudeDeg\": 25", "\"minimumAltitudeDeg\": 85");
        assertThat(run("rehearse", night.toString())).isEqualTo(2);
        assertThat(err.toString().strip().lines().reduce((a, b) -> b).orElseThrow())
                .contains("no target is up in the dark on 2026-11-14")
                .contains("minimum altitude");
    }

    /** A kept night is gone on with only under its own program, and by one process at a time. */
    @Test
    void aKeptNightBelongsToItsProgramAndToOneProcess() throws IOException {
        Path night = night("\"coolToC\": -10", "\"coolToC\": -45");
        Path kept = folder.resolve("kept");
        assertThat(run("rehearse", night.toString(), "--keep", kept.toString())).isEqualTo(1);
        int events = run("rehearse", night.toString(), "--json", "--keep", kept.toString());
        assertThat(events).isEqualTo(1);
        int before = json().get("events").size();
        assertThat(run("rehearse", night.toString(), "--seed", "77", "--keep", kept.toString()))
                .isEqualTo(2);
        assertThat(err.toString())
                .contains("option --keep")
                .contains("holds an unfinished night of another program")
                .contains("or another folder");
        try (FolderLock held = FolderLock.take(kept).orElseThrow()) {
            assertThat(held.folder()).isEqualTo(kept);
            assertThat(run("rehearse", night.toString(), "--keep", kept.toString()))
                    .isEqualTo(2);
            assertThat(err.toString().strip().lines()).hasSize(1);
            assertThat(err.toString()).contains("is in use by another Ironside");
        }
        assertThat(run("rehearse", night.toString(), "--json", "--keep", kept.toString()))
                .isEqualTo(1);
        assertThat(json().get("events").size()).isGreaterThan(before);
    }

    /** The observatory's settings are words of the file, not of a class. */
    @Test
    void aMisspeltSettingIsNamedWithItsFile() throws IOException {
        Path night = night("\"observatory\": {", "\"observatory\": {\"polarAltitudeX\": 3, ");
        assertThat(run("rehearse", night.toString())).isEqualTo(2);
        assertThat(err.toString())
                .contains("night.json")
                .contains("\"polarAltitudeX\"")
                .contains("polarAltitudeArcmin")
                .doesNotContain("app.ironside");
    }
}
