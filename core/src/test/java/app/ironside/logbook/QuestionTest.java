package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class QuestionTest {
    private static final Question.Vocabulary KNOWN = new Question.Vocabulary(
            List.of("L", "R", "Ha"),
            List.of("M 33", "NGC 7331", "M 3"),
            List.of("Wren", "Heron"),
            List.of("Colle Sorbo"),
            List.of("cloud", "trailed", "wrong-field"));

    private static Question asked(String text) {
        return Question.parse(text, KNOWN, LocalDate.of(2026, 11, 27));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Ha above 50° | Ha; altitude above 50 °",
                "ha, ABOVE 50 deg under 2px | Ha; altitude above 50 °; star size under 2 px",
                "m33 and ngc 7331 | M 33; NGC 7331",
                "M 3 | M 3",
                "heron at colle sorbo | Heron; Colle Sorbo",
                "lost to cloud | left out; cloud",
                "wrong-field | wrong-field",
                "below -5°C | temperature of the tube under -5 °C",
                "under 1.2\" over 180s | guiding RMS under 1.2 ″; exposure above 180 s",
                "over 500 stars kept real | stars above 500; kept; real nights"
            })
    void wordsAreReadInAnyOrder(String text, String understood) {
        assertThat(String.join(
                        "; ",
                        asked(text).conditions().stream()
                                .map(Question.Condition::words)
                                .toList()))
                .isEqualTo(understood);
    }

    /** The last March, October and December before the 27th of November 2026. */
    @ParameterizedTest
    @CsvSource({
        "since March, >= 2026-03-01, ",
        "since dec, >= 2025-12-01, ",
        "in October, >= 2026-10-01, < 2026-11-01",
        "in 2025, >= 2025-01-01, < 2026-01-01",
        "in feb 2024, >= 2024-02-01, < 2024-03-01",
        "until 2026-03, < 2026-04-01, ",
        "before 12 March 2026, < 2026-03-12, ",
        "on 2026-11-14, >= 2026-11-14, < 2026-11-15"
    })
    void daysMonthsAndYearsAreStretches(String text, String first, String second) {
        List<String> said = asked(text).conditions().stream()
                .map(c -> c.sql().replace("n.date ", "").replace("?", c.value().toString()))
                .toList();
        assertThat(said).isEqualTo(second == null ? List.of(first) : List.of(first, second));
    }

    @Test
    void whatMeansNothingIsNamed() {
        Question q = asked("Ha blurb above 50 parsecs since Blurtember 31 February");
        assertThat(q.conditions()).extracting(Question.Condition::words).containsExactly("Ha");
        assertThat(q.notUnderstood())
                .containsExactly("blurb", "above", "50", "parsecs", "since", "Blurtember", "31", "February");
        assertThat(asked("  ").conditions()).isEmpty();
        assertThat(asked("'; drop table sub; --").notUnderstood()).isNotEmpty();
    }
}
