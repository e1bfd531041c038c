package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The verbs for frames of any origin, on the lights that tools/graded-frames.py drew and packed. */
class DarkroomVerbsTest {
    private static final Path FRAMES = Path.of("..", "core", "src", "test", "resources", "app", "ironside", "judge");

    @TempDir
    Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();
    private final List<String> lights = new ArrayList<>();

    @BeforeEach
    void copies() throws Exception {
        Files.createDirectories(folder.resolve("lights"));
        for (int i = 0; i < 12; i++) {
            String name = String.format("light-%02d.fits.fz", i);
            Path copy = folder.resolve("lights").resolve(name);
            Files.copy(FRAMES.resolve(name), copy);
            lights.add(copy.toString());
        }
    }

    private int run(List<String> arguments) {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        return Main.run(arguments.toArray(new String[0]), new PrintWriter(out), new PrintWriter(err));
    }

    private JsonNode json() throws Exception {
        assertThat(out.toString().strip().lines()).hasSize(1);
        return new ObjectMapper().readTree(out.toString());
    }

    @Test
    void gradeTellsEachLightAndWritesATable() throws Exception {
        Path table = folder.resolve("grades.csv");
        List<String> call = new ArrayList<>(List.of("grade", "--json", "--csv", table.toString()));
        call.addAll(lights);
        assertThat(run(call)).isZero();
        JsonNode answer = json();
        assertThat(answer.get("frames")).hasSize(12);
        JsonNode cloud = answer.get("frames").get(2);
        assertThat(cloud.get("cause").asText()).isEqualTo("cloud");
        assertThat(cloud.get("keep").asBoolean()).isFalse();
        for (String field : List.of(
                "file",
                "time",
                "hfrPx",
                "fwhmPx",
                "eccentricity",
                "starCount",
                "backgroundAdu",
                "noiseAdu",
                "transparency",
                "weight",
                "reason")) {
            assertThat(cloud.has(field)).as(field).isTrue();
        }
        assertThat(answer.get("collapse").isNull()).isTrue();
        assertThat(answer.get("keepAll").get("frames").asInt()).isEqualTo(11);
        assertThat(answer.get("keepSharp").get("effectiveSeconds").asDouble()).isPositive();
        assertThat(Files.readAllLines(table)).hasSize(13).first().asString().startsWith("file,time,hfrPx");
    }

    @Test
    void gradeGoesOnWithoutWhatCannotBeRead() throws Exception {
        Path broken = folder.resolve("broken.fits");
        Files.writeString(broken, "SIMPLE  =                    T");
        assertThat(run(List.of("grade", "--json", lights.get(0), broken.toString(), lights.get(1))))
                .isZero();
        assertThat(json().get("unusable").get(0).get("reason").asText()).startsWith("ends within its header");
        assertThat(run(List.of("grade", "--json", broken.toString()))).isEqualTo(1);
        assertThat(json().get("reason").asText()).isEqualTo("nothing can be kept");
    }

    @Test
    void sortTellsSetsAndGaps() throws Exception {
        assertThat(run(List.of("sort", "--json", folder.toString()))).isZero();
        JsonNode answer = json();
        JsonNode set = answer.get("sets").get(0);
        assertThat(set.get("kind").asText()).isEqualTo("light");
        assertThat(set.get("target").asText()).isEqualTo("IC 342");
        assertThat(set.get("frames").asInt()).isEqualTo(12);
        assertThat(set.get("temperatureC").isNull()).isTrue();
        assertThat(set.get("night").asText()).isEqualTo("2026-10-13");
        assertThat(answer.get("matches").get(0).get("dark").isNull()).isTrue();
        assertThat(answer.get("gaps")).extracting(g -> g.get("kind").asText()).containsExactly("dark", "flat", "bias");
        assertThat(run(List.of("sort", folder.toString()))).isZero();
        assertThat(out.toString()).contains("gaps: 3");
        assertThat(run(List.of("sort", folder.resolve("nowhere").toString()))).isEqualTo(2);
        assertThat(err.toString()).contains("there is no such folder");
    }

    @Test
    void darkroomDevelopsAndCombineColours() throws Exception {
        Path results = folder.resolve("results");
        assertThat(run(List.of("darkroom", folder.toString(), "--out", results.toString(), "--json")))
                .isZero();
        JsonNode answer = json();
        JsonNode stack = answer.get("stacks").get(0);
        assertThat(stack.get("frames").asInt()).isEqualTo(12);
        assertThat(stack.get("kept").asInt()).isEqualTo(7);
        assertThat(stack.get("rejected")).hasSize(5);
        assertThat(answer.get("gaps")).hasSize(3);
        String file = stack.get("file").asText();
        Path picture = folder.resolve("colour.png");
        assertThat(run(List.of(
                        "combine",
                        "--red",
                        file,
                        "--green",
                        file,
                        "--blue",
                        file,
                        "--add",
                        file + ":0.3:0:0",
                        "--out",
                        picture.toString(),
                        "--json")))
                .isZero();
        assertThat(json().get("channels").get(0).get("scale").asDouble()).isEqualTo(1);
        assertThat(picture).exists();
        assertThat(run(List.of(
                        "combine",
                        "--red",
                        file,
                        "--green",
                        file,
                        "--blue",
                        file,
                        "--add",
                        file + ":2:0:0",
                        "--out",
                        picture.toString())))
                .isEqualTo(2);
        assertThat(err.toString()).contains("option --add: has the share 2");
        assertThat(run(List.of("combine", "--red", file, "--green", file, "--blue", file, "--out", file)))
                .isEqualTo(2);
        assertThat(err.toString()).contains("is one of the inputs");
        assertThat(run(List.of("darkroom", folder.toString(), "--out", results.toString(), "--combine", "R")))
                .isEqualTo(2);
    }

    /** What lies in the folder is judged light by light; findings and alerts stand between, each a line of its own. */
    @Test
    void watchJudgesAsFramesCome() throws Exception {
        assertThat(run(List.of("watch", folder.toString(), "--json", "--until-quiet", "1.5")))
                .isZero();
        List<JsonNode> lines = new ArrayList<>();
        for (String line : out.toString().strip().split("\\n")) {
            lines.add(new ObjectMapper().readTree(line));
        }
        assertThat(lines)
                .filteredOn(l -> l.get("kind").asText().equals("frame")
                        && !l.get("again").asBoolean())
                .hasSize(12);
        assertThat(lines).anySatisfy(l -> {
            assertThat(l.get("kind").asText()).isEqualTo("finding");
            assertThat(l.get("cause").asText()).isEqualTo("cloud");
            assertThat(l.get("remedy").asText()).isNotBlank();
        });
        assertThat(lines).anySatisfy(l -> {
            assertThat(l.get("kind").asText()).isEqualTo("alert");
            assertThat(l.get("severity").asText()).isIn("wake", "note");
        });
        assertThat(lines.get(lines.size() - 1).get("frames").asInt()).isEqualTo(12);
        assertThat(run(List.of("watch", folder.resolve("nowhere").toString()))).isEqualTo(2);
    }
}
