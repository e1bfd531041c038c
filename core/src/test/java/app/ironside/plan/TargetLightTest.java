package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Examples;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyObject.Kind;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Common practice: galaxies in broad filters, gas in narrow ones, the more so under a Moon. */
class TargetLightTest {
    private static final Kit WREN = Examples.kit("wren");

    private static List<String> names(TargetLight light, boolean bright) {
        return light.filters(WREN, bright).stream().map(FilterSpec::name).toList();
    }

    @Test
    void galaxiesTakeBroadFilters() {
        assertThat(TargetLight.of(Kind.GALAXY)).isEqualTo(TargetLight.CONTINUUM);
        assertThat(names(TargetLight.CONTINUUM, false)).startsWith("L").doesNotContain("Ha");
        assertThat(names(TargetLight.CONTINUUM, true)).doesNotContain("Ha");
    }

    @Test
    void gasTakesItsLineUnderAMoon() {
        assertThat(TargetLight.of(Kind.EMISSION_NEBULA)).isEqualTo(TargetLight.LINES);
        assertThat(names(TargetLight.LINES, true)).startsWith("Ha");
        assertThat(names(TargetLight.LINES, false)).startsWith("Ha");
        assertThat(names(TargetLight.BOTH, true)).startsWith("Ha");
        assertThat(names(TargetLight.BOTH, false)).startsWith("L").contains("Ha");
    }

    @Test
    void everyKindHasALight() {
        for (Kind kind : Kind.values()) {
            TargetLight light = TargetLight.of(kind);
            assertThat(light.words()).isNotBlank();
            assertThat(light.filters(WREN, false)).isNotEmpty().allMatch(light::passes);
            assertThat(light.seenBy(WREN)).isTrue();
        }
    }
}
