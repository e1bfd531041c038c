package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.journal.SubCircumstances;
import app.ironside.journal.SubMeasures;
import app.ironside.journal.SubTaken;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;

/** By hand: at 30° the air is twice as thick as overhead, and stars are 2^0.6 = 1.52 times as wide without anything being out of focus. */
class SizeGrowthTest {
    private final SizeGrowth growth = new SizeGrowth();

    private void taken(String filter, double size, double altitude) {
        SubTaken sub = mock(SubTaken.class);
        when(sub.filter()).thenReturn(filter);
        when(sub.measures())
                .thenReturn(new SubMeasures(
                        100,
                        50,
                        OptionalDouble.of(size),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        0,
                        1,
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        Optional.empty(),
                        Optional.empty(),
                        OptionalDouble.empty()));
        when(sub.circumstances())
                .thenReturn(new SubCircumstances(
                        OptionalDouble.of(altitude),
                        OptionalDouble.empty(),
                        OptionalDouble.empty(),
                        OptionalInt.empty(),
                        Optional.empty(),
                        Optional.empty()));
        growth.taken(sub);
    }

    @Test
    void heightIsTakenOut() {
        for (int i = 0; i < 3; i++) {
            taken("L", 1.0, 90);
        }
        for (int i = 0; i < 3; i++) {
            taken("L", 1.52, 30);
        }
        assertThat(growth.because(0.1)).isEmpty();
    }

    @Test
    void growthIsTold() {
        for (int i = 0; i < 3; i++) {
            taken("L", 1.0, 60);
        }
        taken("L", 1.3, 60);
        assertThat(growth.because(0.2)).as("three subs decide").isEmpty();
        taken("L", 1.3, 60);
        taken("L", 1.3, 60);
        assertThat(growth.because(0.2).orElseThrow()).contains("larger by 30 %");
        growth.begin();
        assertThat(growth.because(0.2)).isEmpty();
    }

    /** Blue is wider than red from the start. */
    @Test
    void filtersAreNotCompared() {
        for (int i = 0; i < 3; i++) {
            taken("R", 1.0, 60);
        }
        for (int i = 0; i < 3; i++) {
            taken("B", 1.5, 60);
        }
        assertThat(growth.because(0.2)).isEmpty();
    }
}
