package app.ironside.desk.darkroom;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.judge.Cause;
import app.ironside.judge.Grade;
import app.ironside.judge.SubLook;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

class HandMarksTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");
    private static final List<Grade> GRADES = List.of(
            grade("a", 0, 1, true, OptionalDouble.of(70)),
            grade("b", 30, 0.2, false, OptionalDouble.empty()),
            grade("c", 10, 0.6, true, OptionalDouble.of(40)));

    private static Grade grade(String name, int minute, double weight, boolean keep, OptionalDouble altitude) {
        SubLook sub = new SubLook(
                name,
                "series",
                Optional.of(NINE.plusSeconds(60L * minute)),
                180,
                900,
                1.2,
                2.4,
                0.3,
                1400,
                30,
                OptionalDouble.of(900),
                1,
                altitude,
                OptionalDouble.empty(),
                OptionalDouble.empty(),
                OptionalDouble.empty());
        return new Grade(sub, weight, weight, keep, keep ? Cause.GOOD : Cause.CLOUD, () -> "because");
    }

    private static Path path(String name) {
        return Path.of(name);
    }

    private static List<String> order(SubMeasure by) {
        return JudgedLight.sorted(GRADES, Map.of(), by).stream()
                .map(l -> l.file().toString())
                .toList();
    }

    /** A block follows its first: what the rule book says already needs no mark. */
    @Test
    void aBlockIsTurnedAsItsFirst() {
        HandMarks marks = new HandMarks();
        assertThat(marks.turn(List.of(path("a"), path("b"), path("c")), GRADES)).isFalse();
        assertThat(marks.all()).isEqualTo(Map.of(path("a"), false, path("c"), false));
        assertThat(marks.turn(List.of(path("c"), path("b")), GRADES)).isTrue();
        assertThat(marks.all()).isEqualTo(Map.of(path("a"), false, path("b"), true));
    }

    @Test
    void everyTurnIsTakenBackByItself() {
        HandMarks marks = new HandMarks();
        assertThat(marks.takeBack()).isFalse();
        marks.turn(List.of(path("a")), GRADES);
        marks.turn(List.of(path("b"), path("c")), GRADES);
        assertThat(marks.takeBack()).isTrue();
        assertThat(marks.all()).isEqualTo(Map.of(path("a"), false));
        assertThat(marks.takeBack()).isTrue();
        assertThat(marks.all()).isEmpty();
        marks.turn(List.of(path("a")), GRADES);
        marks.forget();
        assertThat(marks.takeBack()).isFalse();
    }

    /** What is not known of a light stands before what is. */
    @Test
    void lightsAreSortedByAnyMeasure() {
        assertThat(order(SubMeasure.TIME)).containsExactly("a", "c", "b");
        assertThat(order(SubMeasure.WEIGHT)).containsExactly("b", "c", "a");
        assertThat(order(SubMeasure.ALTITUDE)).containsExactly("b", "c", "a");
        assertThat(order(SubMeasure.SIZE)).as("all alike: by name").containsExactly("a", "b", "c");
    }

    @Test
    void aMarkStandsOverTheRuleBookAndSaysSo() {
        List<JudgedLight> lights = JudgedLight.sorted(GRADES, Map.of(path("b"), true), SubMeasure.TIME);
        assertThat(lights.get(2).keep()).isTrue();
        assertThat(lights.get(2).byHand()).isTrue();
        assertThat(DarkroomLine.judged(lights).get(2).head()).startsWith("✓ b").contains("cloud, by hand");
        assertThat(lights.get(0).cause()).isEmpty();
    }
}
