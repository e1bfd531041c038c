package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Files that people edit by hand: the fault is named with its line. */
class JsonTextTest {
    record Lens(double focalLengthMm, Optional<String> note, List<Integer> stops, Instant bought) {
        Lens {
            Check.positive("focalLengthMm", focalLengthMm);
        }
    }

    private static final String RIGHT =
            "{\"focalLengthMm\": 135,\n \"stops\": [2, 4],\n \"bought\": \"2026-03-01T00:00:00Z\"}";

    private static Lens read(String text) {
        return JsonText.read(text, Lens.class, "lens.json", "a lens file");
    }

    @Test
    void whatIsLeftOutIsEmpty() {
        Lens lens = read(RIGHT);
        assertThat(lens)
                .isEqualTo(new Lens(135, Optional.empty(), List.of(2, 4), Instant.parse("2026-03-01T00:00:00Z")));
        assertThat(read(JsonText.write(JsonText.tree(lens)))).isEqualTo(lens);
        assertThat(JsonText.write(JsonText.tree(lens))).doesNotContain("note").endsWith("}\n");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "`{\"focalLengthMm\": 135, \"stops\": [2], \"bought\": \"2026-03-01T00:00:00Z\",\n \"aperture\": 2}` | lens.json line 2 | has a field \"aperture\", which is not known here; expected one of bought, focalLengthMm, note, stops",
                "`{\"focalLengthMm\": \"long\"}` | lens.json line 1, focalLengthMm | \"long\" is not a number",
                "`{\"focalLengthMm\": 135,\n \"stops\": [2, 4}` | lens.json line 2 | is not JSON there",
                "`{\"focalLengthMm\": 0, \"stops\": [2], \"bought\": \"2026-03-01T00:00:00Z\"}` | lens.json | focalLengthMm is 0.0; expected more than 0",
                "`{\"focalLengthMm\": null}` | lens.json line 1, focalLengthMm | is not a number",
                "`{\"focalLengthMm\": 135,\n\n \"bought\": \"in spring\"}` | lens.json line 3, bought | \"in spring\" is not a time like",
                "`{\"focalLengthMm\": 135,\n \"focalLengthMm\": 200}` | lens.json line 2 | has a field twice ('focalLengthMm')",
                "`{\"focalLengthMm\": 135, \"stops\": [2], \"bought\": \"2026-03-01T00:00:00Z\"}\n{\"focalLengthMm\": 200}` | lens.json line 2 | has something behind its last bracket",
                "`{\"focalLengthMm\": 135,\n \"stops\": [2, null]}` | lens.json | stops",
                "`{\"focalLengthMm\": 135,\n \"stops\": [2, 4]` | lens.json line 2 | ends before its last bracket",
                "`{\"focalLengthMm\": 135,\n \"stops\": [2]}` | lens.json | has no \"bought\"",
                "`null` | lens.json | is empty",
                "`` | lens.json | a lens file"
            })
    void aFaultIsNamedWithItsLine(String text, String where, String what) {
        assertThatThrownBy(() -> read(text == null ? "" : text))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining(where)
                .hasMessageContaining(what)
                .hasMessageContaining("; expected ")
                // The parser's own words and the names of classes are nobody's business.
                .message()
                .doesNotContain("app.ironside", "Deserial", "Source:", "token");
    }

    /** By hand: numbers are compared by value, what is missing on one side is empty there. */
    @Test
    void differencesAreListedLeafByLeaf() {
        Lens one = read(RIGHT);
        Lens other = new Lens(200, Optional.of("borrowed"), List.of(2, 4), one.bought());
        assertThat(JsonText.differences(JsonText.tree(one), JsonText.tree(other)))
                .containsExactly(
                        new JsonText.Difference("focalLengthMm", "135.0", "200.0"),
                        new JsonText.Difference("note", "", "borrowed"));
        assertThat(JsonText.differences(
                        JsonText.newObject()
                                .put("a", 135)
                                .set("b", JsonText.newObject().put("c", 1)),
                        JsonText.newObject()
                                .put("a", 135.0)
                                .set("b", JsonText.newObject().put("c", 2))))
                .containsExactly(new JsonText.Difference("b.c", "1", "2"));
    }

    @Test
    void givenValuesLieOverTheUsualOnes() {
        Lens usual = read(RIGHT);
        Lens given = JsonText.overlay(usual, JsonText.newObject().put("focalLengthMm", 50), Lens.class, "lens");
        assertThat(given.focalLengthMm()).isEqualTo(50);
        assertThat(given.stops()).isEqualTo(usual.stops());
        assertThatThrownBy(() -> JsonText.overlay(usual, JsonText.newObject().put("colour", "red"), Lens.class, "lens"))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("lens")
                .hasMessageContaining("colour");
    }
}
