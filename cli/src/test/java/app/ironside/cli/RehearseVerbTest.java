package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.logbook.FolderLock;
import app.ironside.logbook.Logbook;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Nights that bring little or nothing; a whole one is rehearsed by the tests of the wiring. */
@Order(1)
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

    /** A night of one sub on coarse pixels. */
    private ObjectNode small() throws IOException {
        ObjectNode night = (ObjectNode) new ObjectMapper()
                .readTree(Path.of("..", "examples", "colle-sorbo.json").toFile());
        ObjectNode sensor = (ObjectNode) night.at("/kit/sensor");
        sensor.put("widthPx", 840).put("heightPx", 630).put("pixelUm", 21);
        ObjectNode guider = (ObjectNode) night.at("/kit/guider");
        guider.put("widthPx", 640).put("heightPx", 480).put("pixelUm", 7.5);
        ((ArrayNode) night.at("/program/targets")).remove(1);
        ObjectNode target = (ObjectNode) night.at("/program/targets/0");
        target.put("mostSubs", 1).put("subSeconds", 30).putArray("filters").add("L");
        ObjectNode calibrations = (ObjectNode) night.at("/program/calibrations");
        calibrations.put("darks", 1).put("bias", 1).put("flatsPerFilter", 1);
        return night;
    }

    private Path written(ObjectNode night) throws IOException {
        return Files.writeString(folder.resolve("night.json"), night.toString());
    }

    /** No star is ever seen, so that the night ends at its first focus. */
    private Path clouded() throws IOException {
        ObjectNode night = small();
        ((ObjectNode) night.at("/observatory"))
                .putArray("clouds")
                .addObject()
                .put("from", 0)
                .put("until", 1440)
                .put("transparency", 0);
        return written(night);
    }

    /** The supply is too small: nobody can be asked here, so the night goes on, says so, and marks it. */
    @Test
    void aNightThatIsNotReadyGoesOnAndIsMarked() throws IOException {
        ObjectNode night = small();
        ((ObjectNode) night.at("/kit/equipment/supply")).put("amps", 6);
        Path kept = folder.resolve("kept");
        assertThat(run("rehearse", written(night).toString(), "--json", "--seed", "5", "--keep", kept.toString()))
                .isZero();
        JsonNode answer = json();
        assertThat(answer.get("overruled").get(0).get("stage").asText()).isEqualTo("Ready");
        assertThat(answer.get("overruled").get(0).get("sentence").asText())
                .isEqualTo(
                        "Ready is not passed; the night goes on (the rule for this gate) and what follows is marked.");
        assertThat(answer.get("subsTaken").asInt()).isEqualTo(1);
        assertThat(answer.get("lightSeconds").asDouble())
                .isEqualTo(answer.get("subsKept").asInt() * 30.0);
        assertThat(texts(answer)).anyMatch(t -> t.contains("The kit draws up to") && t.contains("use a larger one"));
        assertThat(kept.resolve("logbook.sqlite")).exists();
        aReportOfItIsWritten(kept, answer.get("subsKept").asInt());
        aReportOfItsTargetIsWritten(kept, answer.get("subsKept").asInt());
    }

    private void aReportOfItIsWritten(Path kept, int subs) throws IOException {
        Path page = folder.resolve("night.html");
        assertThat(run("report", "--data", kept.toString(), "--out", page.toString(), "--json"))
                .isZero();
        assertThat(json().get("kept").asInt()).isEqualTo(subs);
        assertThat(Files.readString(page)).contains(subs + " of 1 subs kept");
        assertThat(run(
                        "report",
                        "--data",
                        kept.toString(),
                        "--night",
                        "2020-01-01",
                        "--out",
                        folder.resolve("none.pdf").toString()))
                .isEqualTo(2);
        assertThat(err.toString())
                .contains("no night of the evening 2020-01-01")
                .hasLineCount(1);
        assertThat(folder.resolve("none.pdf")).doesNotExist();
    }

    private void aReportOfItsTargetIsWritten(Path kept, int subs) throws IOException {
        Path page = folder.resolve("m33.html");
        int exit = run("report", "--data", kept.toString(), "--target", "M33", "--out", page.toString(), "--json");
        if (subs == 0) {
            assertThat(exit).isEqualTo(2);
            assertThat(err.toString()).contains("kept light of M33").hasLineCount(1);
            return;
        }
        assertThat(exit).isZero();
        assertThat(json().get("rehearsed").asBoolean()).isTrue();
        assertThat(json().get("hoursKept").get("L").asDouble()).isCloseTo(30 / 3600.0, within(1e-9));
        assertThat(Files.readString(page)).contains("M 33, rehearsed", "No night saw a sky");
        assertThat(run("report", "--data", kept.toString(), "--target", "NGC 891", "--out", page.toString()))
                .isEqualTo(2);
        assertThat(err.toString()).contains("one of M 33").hasLineCount(1);
    }

    /** Nothing can be done under a closed sky: it is waited out, the night ends in order, and the answer says why. */
    @Test
    void aNightWithoutASubEndsWithItsReason() throws IOException {
        Path night = clouded();
        assertThat(run("rehearse", night.toString(), "--json", "--no-pixels")).isEqualTo(1);
        JsonNode answer = json();
        assertThat(answer.get("reason").asText()).startsWith("no sub was taken: ");
        assertThat(answer.get("subsPlanned").asInt()).isEqualTo(1);
        assertThat(answer.get("subsTaken").asInt()).isZero();
        assertThat(answer.get("faults").asInt()).isPositive();
        assertThat(texts(answer))
                .contains("The mount is parked.")
                .last()
                .isEqualTo("The night is done: 0 of 0 subs kept.");
        assertThat(err.toString().lines().count())
                .as("each event is told as it comes")
                .isGreaterThanOrEqualTo(answer.get("events").size());
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
        Path night = clouded();
        Path kept = folder.resolve("kept");
        try (Logbook logbook = Logbook.open(kept)) {
            logbook.begin("A night that was stopped", "night-2026-11-14-1", Files.readString(night));
        }
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
        try (Logbook logbook = Logbook.open(kept)) {
            assertThat(logbook.nights()).singleElement().satisfies(entry -> assertThat(entry.title())
                    .isEqualTo("A night that was stopped"));
            assertThat(logbook.unfinished()).isEmpty();
        }
    }

    /** Several nights are answered with percentiles; a fault that is set comes in each of them. */
    @Test
    void manyNightsHaveAnOutcome() throws IOException {
        Path night = written(small());
        assertThat(run(
                        "rehearse",
                        night.toString(),
                        "--nights",
                        "3",
                        "--seed",
                        "9",
                        "--fault",
                        "dew@21:10+30",
                        "--json"))
                .isZero();
        JsonNode answer = json();
        assertThat(answer.at("/truth/0/kind").asText()).isEqualTo("dew");
        assertThat(answer.at("/truth/0/until").asText()).isEqualTo("2026-11-14T21:40+01:00");
        JsonNode outcome = answer.get("outcome");
        assertThat(outcome.get("nights").asInt()).isEqualTo(3);
        assertThat(outcome.at("/subsKept/p10").asDouble())
                .isLessThanOrEqualTo(outcome.at("/subsKept/p90").asDouble());
        assertThat(outcome.at("/lightSeconds/p50").asDouble()).isBetween(0.0, 30.0);
        assertThat(outcome.at("/targets/M 33").has("p50")).isTrue();
        assertThat(outcome.get("each"))
                .hasSize(3)
                .allSatisfy(n -> assertThat(n.get("faults").toString()).contains("dew@21:10"));
        assertThat(outcome.at("/each/0/seed").asInt()).isEqualTo(9);
    }

    @Test
    void whatIsNotAFaultIsRefusedWithWhatWouldBe() throws IOException {
        Path night = written(small());
        for (String wrong : List.of("dew", "dew@2140", "dew@25:00", "rain@21:40", "dew@21:40+x")) {
            assertThat(run("rehearse", night.toString(), "--fault", wrong)).isEqualTo(2);
            assertThat(err.toString()).contains("option --fault").contains("dew@23:40+60");
        }
        assertThat(run("rehearse", night.toString(), "--nights", "0")).isEqualTo(2);
        assertThat(err.toString()).contains("option --nights");
        assertThat(run("rehearse", night.toString(), "--no-pixels", "--keep", folder.toString()))
                .isEqualTo(2);
        assertThat(err.toString()).contains("option --keep");
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
