package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;

class GuideTest {
    private static final Instant START = Instant.parse("2026-11-14T20:00:00Z");

    private static Star star(double x, double y, double flux, boolean saturated) {
        return new Star(x, y, flux, flux / 6, 1.2, 2.4, 0.2, 0, flux / 100, saturated, 10, Optional.empty());
    }

    /** Law: pixels to axes and back. */
    @Property(tries = 100)
    void calibrationRoundTrip(
            @ForAll @DoubleRange(min = -20, max = 20) double dx, @ForAll @DoubleRange(min = -20, max = 20) double dy) {
        GuideCalibration calibration = new GuideCalibration(1.2, 0.9, -0.8, 1.1, 4.83, 30);
        double[] axes = calibration.toAxesArcsec(dx, dy);
        double[] back = calibration.toPixels(axes[0], axes[1]);
        assertThat(back[0]).isCloseTo(dx, within(1e-9));
        assertThat(back[1]).isCloseTo(dy, within(1e-9));
    }

    /** By hand: west along +x at 2 px/s, north along +y; one pixel right is one pixel's arcseconds west. */
    @Test
    void axesByHand() {
        GuideCalibration calibration = new GuideCalibration(2, 0, 0, 2, 4, 0);
        assertThat(calibration.toAxesArcsec(1, 0)).containsExactly(4, 0);
        assertThat(calibration.flipped().toAxesArcsec(1, 0)[0]).isEqualTo(-4);
        assertThat(calibration.atDeclination(60).westArcsecPerSecond()).isCloseTo(4, within(1e-9)); // cos 60° = 1/2
        assertThat(calibration.axesAngleDeg()).isCloseTo(90, within(1e-9));
    }

    /** By hand: displacements 1, −1, 1, −1 in one axis and 0.1 t in the other. */
    @Test
    void statisticsByHand() {
        List<GuideSample> samples = new ArrayList<>();
        for (int i = 0; i < 61; i++) {
            samples.add(new GuideSample(START.plusSeconds(2L * i), i % 2 == 0 ? 1 : -1, 0.1 * (i - 30), 0, 0, 50));
        }
        GuideStatistics figures = GuideStatistics.of(samples);
        assertThat(figures.rmsRaArcsec()).isCloseTo(1, within(1e-12));
        assertThat(figures.decDriftArcsecPerMin()).isCloseTo(3, within(1e-9)); // 0.1″ in 2 s
        assertThat(figures.peakArcsec()).isCloseTo(Math.hypot(1, 3), within(1e-12));
        assertThat(GuideStatistics.of(List.of())).isEqualTo(GuideStatistics.NONE);
    }

    @Test
    void theGuideStarIsBrightWholeAndAlone() {
        Star best = star(600, 500, 20_000, false);
        StarField field = new StarField(
                1280,
                960,
                List.of(
                        star(300, 300, 90_000, true),
                        star(20, 500, 50_000, false),
                        star(900, 700, 30_000, false),
                        star(910, 705, 25_000, false),
                        best),
                500,
                10);
        assertThat(Guider.choose(field)).contains(best);
        assertThat(Guider.choose(new StarField(1280, 960, List.of(star(600, 500, 500, false)), 500, 10)))
                .isEmpty();
    }
}
