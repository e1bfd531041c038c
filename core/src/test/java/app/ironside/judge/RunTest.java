package app.ironside.judge;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Steady rises, by hand. */
class RunTest {
    @Test
    void aSteadyRiseIsFoundWithWhatStays() {
        assertThat(Run.rising(new double[] {1, 1, 1.1, 1.2, 1.3, 1.4, 1.4, 1.35, 1}))
                .singleElement()
                .satisfies(run -> {
                    assertThat(run.last()).isEqualTo(5);
                    assertThat(run.until()).as("near the top it stays").isEqualTo(7);
                });
    }

    /** A jump, a rise of a tenth and a short one are none; what cannot be told is passed over. */
    @Test
    void whatIsNoRise() {
        assertThat(Run.rising(new double[] {1, 1, 1, 2, 2, 2})).isEmpty();
        assertThat(Run.rising(new double[] {1, 1.03, 1.06, 1.09, 1.1})).isEmpty();
        assertThat(Run.rising(new double[] {1, 1.3})).isEmpty();
        assertThat(Run.rising(new double[] {})).isEmpty();
        assertThat(Run.rising(new double[] {1, 1.1, Double.NaN, 1.2, 1.3, 1.4})).hasSize(1);
    }

    /** By hand: sizes that go with the square root of the dimming grow with it; sizes that scatter do not. */
    @Test
    void whatGrowsBesideIt() {
        double[] dimming = {1, 1.2, 1.4, 1.7, 2.0, 2.4};
        double[] halo = new double[6];
        for (int i = 0; i < 6; i++) {
            halo[i] = Math.sqrt(dimming[i]);
        }
        Run run = new Run(0, 5, 5);
        assertThat(Run.growWith(dimming, halo, run)).isTrue();
        assertThat(Run.growWith(dimming, new double[] {1, 1.04, 0.97, 1.03, 0.98, 1.02}, run))
                .isFalse();
    }
}
