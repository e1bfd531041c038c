package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.focus.FilterOffsets.Offset;
import app.ironside.focus.FilterOffsets.Sweep;
import java.util.List;
import org.junit.jupiter.api.Test;

class FilterOffsetsTest {
    /** By hand: L at 2460 drifting 12 steps an hour; B seven steps beyond it, Ha five below, half an hour and an hour later. */
    @Test
    void driftWhileMeasuringIsTakenOut() {
        FilterOffsets found = FilterOffsets.of(List.of(
                new Sweep("L", 0, 2460, 1),
                new Sweep("B", 0.5, 2460 + 6 + 7, 1),
                new Sweep("Ha", 1, 2460 + 12 - 5, 1),
                new Sweep("L", 1.5, 2460 + 18, 1)));
        assertThat(found.drift()).isCloseTo(12, within(1e-5));
        assertThat(found.offsets()).extracting(Offset::filter).containsExactly("B", "Ha");
        assertThat(found.offsets().get(0).steps()).isCloseTo(7, within(1e-5));
        assertThat(found.offsets().get(1).steps()).isCloseTo(-5, within(1e-5));
    }

    /** By hand, without drift: an offset is a difference of two sweeps of 3 and 4 steps error, so of 5. */
    @Test
    void theErrorIsThatOfADifference() {
        FilterOffsets found = FilterOffsets.of(List.of(new Sweep("L", 0, 100, 3), new Sweep("B", 1, 110, 4)));
        assertThat(found.drift()).isZero();
        assertThat(found.offsets().get(0).sigma()).isCloseTo(5, within(1e-9));
    }

    @Test
    void aVerdictIsInCriticalZones() {
        assertThat(new Offset("B", 13.4, 0.8).sentence("L", 6.4))
                .isEqualTo("B lies +13.4 ± 0.8 steps from L, 2.1 critical zones: not parfocal.");
        assertThat(new Offset("R", 2, 0.8).sentence("L", 6.4)).endsWith("parfocal for this telescope.");
        assertThat(new Offset("G", 5, 0.8).sentence("L", 6.4)).endsWith("at the edge of sharp.");
        assertThat(new Offset("Ha", 5, 9).sentence("L", 6.4)).endsWith("not known well enough to trust.");
    }

    @Test
    void oneFilterTellsNothing() {
        assertThatThrownBy(() -> FilterOffsets.of(List.of(new Sweep("L", 0, 100, 1), new Sweep("L", 1, 100, 1))))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("filters besides the reference");
    }
}
