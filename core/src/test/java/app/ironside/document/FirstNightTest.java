package app.ironside.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.kit.Kit;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FirstNightTest {
    /** By hand: 44° 3′ is 44.05°, 8° 12′ 30″ is 8.208333°. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "44.05 | 44.05",
                "44,05 | 44.05",
                "-33.9 | -33.9",
                "44° 03′ N | 44.05",
                "44 3 0 | 44.05",
                "8° 12′ 30″ E | 8.208333",
                "8d12m30s W | -8.208333",
                "0° 30′ S | -0.5",
                "-0 30 0 | -0.5"
            })
    void anglesAreReadAsPeopleWriteThem(String text, double degrees) {
        assertThat(FirstNight.angleDeg(text, "latitude")).isCloseTo(degrees, within(1e-6));
    }

    @Test
    void whatIsNoAngleIsNamed() {
        for (String text : List.of("", "north", "44 north", "4 4 4 4", "44°N°")) {
            assertThatThrownBy(() -> FirstNight.angleDeg(text, "latitude"))
                    .isInstanceOf(BadInputException.class)
                    .hasMessageStartingWith("latitude");
        }
    }

    private static FirstNight answers(boolean colour, boolean goTo) {
        return new FirstNight(
                "Garden",
                45.5,
                7.5,
                300,
                ZoneId.of("Europe/Rome"),
                20.8,
                "Small lens",
                135,
                48,
                3000,
                2000,
                4,
                !colour,
                colour,
                goTo,
                true,
                goTo);
    }

    /** The night that comes of it is one that can be written, read and planned. */
    @Test
    void aNightComesOfTheAnswers() {
        TargetPlan target = new TargetPlan("M 33", new Equatorial(23.46, 30.66), List.of("none"), 2, 60);
        NightFile file = answers(true, false).file(LocalDate.of(2026, 11, 14), target);
        NightFile again = NightFile.parse(file.text(), "first.json", DeepSkyCatalogue.load());
        assertThat(again.sameNight(file)).isTrue();
        assertThat(NightDraft.of(again).plan().subs()).isGreaterThan(50);
    }

    @Test
    void whatIsNotOwnedIsNotFitted() {
        Kit tracker = answers(true, false).kit();
        assertThat(tracker.motorFocuser()).isEmpty();
        assertThat(tracker.guideOptics()).as("a tracker takes no pulses").isEmpty();
        assertThat(tracker.filters()).hasSize(1);
        Kit whole = answers(false, true).kit();
        assertThat(whole.motorFocuser()).isPresent();
        assertThat(whole.guideOptics()).isPresent();
        assertThat(whole.filters()).hasSize(4);
    }
}
