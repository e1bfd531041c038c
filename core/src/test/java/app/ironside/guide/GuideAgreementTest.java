package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

/** By hand, with Gaussians: widths along the axes are σ √(e-stretch) either way, and variances subtract. */
class GuideAgreementTest {
    private static GuideStatistics guided(double ra, double dec) {
        return new GuideStatistics(60, ra, dec, 0, 0, 0);
    }

    @Test
    void roundStarsUnderAQuietTrace() {
        GuideAgreement a = GuideAgreement.of(guided(0.4, 0.4), 3, 0.3, 2).orElseThrow();
        assertThat(a.flexure()).isFalse();
        assertThat(a.sentence()).startsWith("Round stars");
    }

    /** Axes as 1 : √(1 − 0.8²) = 0.6, geometric mean 3 px of 2″: σ 3.29″ and 1.97″ along them, 2.63″ in squares between. */
    @Test
    void longStarsUnderAQuietTraceAreFlexure() {
        GuideAgreement a = GuideAgreement.of(guided(0.4, 0.4), 3, 0.8, 2).orElseThrow();
        assertThat(a.drawnOutArcsec()).isCloseTo(2.63, within(0.01));
        assertThat(a.flexure()).isTrue();
        assertThat(a.sentence()).contains("something bends");
    }

    @Test
    void longStarsUnderALongTraceAreExplained() {
        GuideAgreement a = GuideAgreement.of(guided(2.7, 0.4), 3, 0.8, 2).orElseThrow();
        assertThat(a.flexure()).isFalse();
        assertThat(a.sentence()).contains("tells why");
    }

    /** By hand: stars of σ 2.548″ on an axis, guiding of 1″ on each axis: 1 / 2.548² = 15 %. */
    @Test
    void whatGuidingAddsToTheStars() {
        assertThat(GuideAgreement.shareOfWidth(guided(1, 1), 3, 2)).isCloseTo(0.154, within(0.001));
        assertThat(GuideAgreement.of(GuideStatistics.NONE, 3, 0.3, 2)).isEmpty();
    }
}
