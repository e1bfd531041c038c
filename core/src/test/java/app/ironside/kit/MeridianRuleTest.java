package app.ironside.kit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;

/** By hand: the sky turns 15.041″ a second, 4° in 957 s. */
class MeridianRuleTest {
    @Test
    void theSkysTurn() {
        assertThat(4 / MeridianRule.DEG_PER_SECOND).isCloseTo(957.4, within(0.1));
    }

    /** Contact 4° past the meridian, the other side free from it on, subs of 300 s (1.25°). */
    @Test
    void aUsualMount() {
        MeridianRule rule = new MeridianRule(4, 0);
        assertThat(rule.side(-30, 300)).isEqualTo(MeridianRule.Side.BEFORE);
        assertThat(rule.side(-0.5, 300)).isEqualTo(MeridianRule.Side.BEFORE);
        assertThat(rule.side(0.5, 300))
                .as("past the meridian the side that is not left again")
                .isEqualTo(MeridianRule.Side.AFTER);
        assertThat(rule.flipDue(2.7, 300)).isFalse();
        assertThat(rule.flipDue(2.8, 300)).isTrue();
        assertThat(rule.expectedFlipDeg(300)).isCloseTo(4 - 0.627, within(0.001));
        assertThat(rule.idleSeconds(300)).isZero();
    }

    /** Something touches 15° before the meridian, and the other side is free from 5° before it: the flip is made early. */
    @Test
    void contactBeforeTheMeridian() {
        MeridianRule rule = new MeridianRule(-15, -5);
        assertThat(rule.side(-20, 300)).isEqualTo(MeridianRule.Side.BEFORE);
        assertThat(rule.side(-14, 300)).isEqualTo(MeridianRule.Side.NEITHER);
        assertThat(rule.side(-4, 300)).isEqualTo(MeridianRule.Side.AFTER);
        assertThat(rule.expectedFlipDeg(300)).isCloseTo(-4.9, within(1e-9));
        // From −15.63° to −4.9°: 10.73° are 2567 s.
        assertThat(rule.idleSeconds(300)).isCloseTo(2567, within(3.0));
    }

    /** The other side is free only 3° past the meridian: no slew is sent there before. */
    @Test
    void freeOnlyPastTheMeridian() {
        MeridianRule rule = new MeridianRule(2, 3);
        assertThat(rule.side(1, 300)).isEqualTo(MeridianRule.Side.NEITHER);
        assertThat(rule.side(3.1, 300)).isEqualTo(MeridianRule.Side.AFTER);
        assertThat(rule.expectedFlipDeg(300)).isCloseTo(3.1, within(1e-9));
    }

    /** Law: on the side that is given nothing touches, neither now nor when the time is over. */
    @Property(tries = 500)
    void nothingTouchesOnTheSideThatIsGiven(
            @ForAll @DoubleRange(min = -60, max = 60) double contact,
            @ForAll @DoubleRange(min = -60, max = 60) double free,
            @ForAll @DoubleRange(min = -80, max = 80) double hourAngle,
            @ForAll @DoubleRange(min = 1, max = 3600) double seconds) {
        MeridianRule rule = new MeridianRule(contact, free);
        switch (rule.side(hourAngle, seconds)) {
            case BEFORE -> assertThat(rule.flipDue(hourAngle, seconds)).isFalse();
            case AFTER -> assertThat(hourAngle).isGreaterThanOrEqualTo(free);
            default -> assertThat(hourAngle < free && rule.flipDue(hourAngle, seconds))
                    .isTrue();
        }
    }
}
