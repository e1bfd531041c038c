package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Three hours in L, R, G, B, by hand: 90 minutes of L and 30 of each colour, or 45 of each (common practice). */
class LightSplitTest {
    private static final double THREE_HOURS = 3 * 3600;

    private static Kit kit(FilterSpec... filters) {
        Kit like = Examples.kit("wren");
        return new Kit(
                like.name(),
                like.optics(),
                like.sensor(),
                List.of(filters),
                like.motorFocuser(),
                like.mount(),
                like.guideOptics(),
                like.equipment());
    }

    private static final FilterSpec L = new FilterSpec("L", 300, 550, 0);
    private static final FilterSpec R = new FilterSpec("R", 100, 640, 0);
    private static final FilterSpec G = new FilterSpec("G", 100, 530, 0);
    private static final FilterSpec B = new FilterSpec("B", 110, 450, 0);
    private static final FilterSpec HA = new FilterSpec("Ha", 5, 656, 0);

    private static List<FilterGoal> goals(String... filters) {
        return java.util.stream.Stream.of(filters)
                .map(f -> new FilterGoal(f, f.equals("Ha") ? 300 : 180))
                .toList();
    }

    @Test
    void luminanceGetsHalfOfTheLight() {
        List<FilterGoal> split = LightSplit.HALF_LUMINANCE
                .of(goals("L", "R", "G", "B"), kit(L, R, G, B, HA), THREE_HOURS)
                .orElseThrow();
        assertThat(split).extracting(g -> g.subs().orElseThrow()).containsExactly(30, 10, 10, 10);
        assertThat(LightSplit.minutes(split)).isEqualTo("L 90 min, R 30 min, G 30 min, B 30 min");
    }

    @Test
    void orEachFilterAsMuchWhateverItsSubs() {
        List<FilterGoal> split = LightSplit.ALIKE
                .of(goals("L", "Ha"), kit(L, R, G, B, HA), THREE_HOURS)
                .orElseThrow();
        assertThat(split).extracting(g -> g.subs().orElseThrow()).containsExactly(30, 18);
    }

    @Test
    void withoutLuminanceThereIsNothingToHalve() {
        assertThat(LightSplit.HALF_LUMINANCE.of(goals("R", "G", "B"), kit(L, R, G, B, HA), THREE_HOURS))
                .isEmpty();
        assertThat(LightSplit.HALF_LUMINANCE.of(goals("L", "Ha"), kit(L, R, G, B, HA), THREE_HOURS))
                .isEmpty();
    }
}
