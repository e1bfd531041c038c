package app.ironside.kit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.plan.Projects;
import org.junit.jupiter.api.Test;

class RoundStarsTest {
    private static final Kit LARK = Examples.kit("lark");
    private static final RoundStars.Conditions USUAL = new RoundStars.Conditions(3, 2, 0.8);

    /**
     * By hand for Lark, ±50″ in 600 s: stars of 3″ and 9″ on pixels of 12.22″ have σ² = (9 + 81)/5.545 + 12.45 = 28.7; they are trailed from a
     * variance of 28.7 (1/0.36 − 1) = 51 on, a straight motion of √(12 · 51) = 24.7″. In 60 s the gear moves at most 2 · 50 sin(π/10) = 30.9″, and
     * 30.9 |cos φ| is below 24.7 in 1 − 2 acos(0.8)/π = 59 % of all phases.
     */
    @Test
    void sharesByHand() {
        assertThat(RoundStars.share(LARK, 60, new RoundStars.Conditions(3, 0, 0.8)))
                .isCloseTo(0.59, within(0.03));
        assertThat(RoundStars.share(LARK, 30, USUAL)).isEqualTo(1);
        assertThat(RoundStars.share(Examples.kit("wren"), 600, USUAL)).isEqualTo(1);
    }

    /** Law: longer subs and a worse axis leave fewer round stars; until the swing comes back. */
    @Test
    void longerIsWorse() {
        double last = 1;
        for (double t : new double[] {15, 45, 90, 180, 300}) {
            double share = RoundStars.share(LARK, t, USUAL);
            assertThat(share).isLessThanOrEqualTo(last);
            last = share;
        }
        assertThat(RoundStars.share(LARK, 120, new RoundStars.Conditions(3, 60, 0.8)))
                .isLessThanOrEqualTo(RoundStars.share(LARK, 120, USUAL));
    }

    /** Common practice: 60 to 180 s on trackers; the rough gear of this one asks for less than that, not for 15 s. */
    @Test
    void aTrackersSubsAreNoSnapshots() {
        double seconds =
                Projects.subSeconds(LARK, Examples.site(), LARK.filters().get(0));
        assertThat(seconds).isBetween(30.0, 90.0);
    }
}
