package app.ironside.journal;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.LengthsTried.Rung;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** Ladders by hand; a star is drawn out above an eccentricity of 0.8, and smeared when it is 15 % wider than in the shortest. */
class LengthsTriedTest {
    private static Rung rung(double seconds, double fwhm, double eccentricity) {
        return new Rung(seconds, 500, OptionalDouble.of(fwhm), OptionalDouble.of(eccentricity), 1.5 / seconds);
    }

    private static Rung empty(double seconds) {
        return new Rung(seconds, 0, OptionalDouble.empty(), OptionalDouble.empty(), 1.5 / seconds);
    }

    @Test
    void theLongestRoundOneIsTheAdvice() {
        assertThat(LengthsTried.sentence(List.of(rung(15, 2.4, 0.3), rung(30, 2.5, 0.4), rung(60, 2.6, 0.84))))
                .isEqualTo(
                        "Round to 30 s, where reading raises the noise by 5.0 %; at 60 s stars are 2.60 px wide, eccentricity 0.84.");
        assertThat(LengthsTried.sentence(List.of(rung(15, 2.4, 0.3), rung(30, 2.5, 0.4))))
                .isEqualTo("All are round, to 30 s, where reading raises the noise by 5.0 %.");
    }

    /** A long one that happens to be round after one that was not is no advice. */
    @Test
    void luckIsNoAdvice() {
        List<Rung> rungs = List.of(rung(15, 2.4, 0.3), rung(30, 2.9, 0.4), rung(60, 2.4, 0.2));
        assertThat(LengthsTried.longestRound(rungs)).contains(rungs.get(0));
    }

    @Test
    void whatCannotBeTriedIsSaid() {
        assertThat(LengthsTried.sentence(List.of(empty(15), empty(30)))).isEqualTo("No stars at any of these lengths.");
        assertThat(LengthsTried.sentence(List.of(rung(15, 2.4, 0.9), rung(30, 2.5, 0.95))))
                .isEqualTo("Not even 15 s are round: look at the mount before the length.");
        assertThat(LengthsTried.sentence(List.of(rung(15, 2.4, 0.3), empty(30))))
                .endsWith("; at 30 s no stars were found.");
    }
}
