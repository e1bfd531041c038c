package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.sky.SkyBrightness;
import org.junit.jupiter.api.Test;

/** Laws of functions at even steps. */
class EvenTableTest {
    /** Between its steps a function is what a straight line makes of it: of a sine at steps h off by at most h²/8. */
    @Test
    void betweenItsSteps() {
        EvenTable sine = new EvenTable(-1, 2, 300, Math::sin);
        for (double x = -1; x <= 2; x += 0.00137) {
            assertThat(sine.at(x)).isCloseTo(Math.sin(x), within(0.01 * 0.01 / 8));
        }
        assertThat(sine.at(-1)).isEqualTo(Math.sin(-1));
        assertThat(sine.at(2)).isCloseTo(Math.sin(2), within(1e-12));
    }

    @Test
    void beyondItsEnds() {
        EvenTable airmass = new EvenTable(0, 90, 3600, SkyBrightness::airmass);
        assertThat(airmass.holds(-0.01)).isFalse();
        assertThat(airmass.holds(90)).isTrue();
        assertThat(airmass.at(-5)).isEqualTo(SkyBrightness.airmass(0));
        assertThat(airmass.at(91)).isCloseTo(SkyBrightness.airmass(90), within(1e-9));
    }
}
