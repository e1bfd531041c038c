package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;

class GuideSpectrumTest {
    private static List<GuideSample> swings(double seconds, double swing, double period) {
        Random random = new Random(6);
        Instant start = Instant.parse("2026-11-14T20:00:00Z");
        List<GuideSample> samples = new ArrayList<>();
        for (double t = 0; t < seconds; t += 2.5) {
            samples.add(new GuideSample(
                    start.plusMillis(Math.round(1000 * t)),
                    0.02 * t + swing * Math.sin(2 * Math.PI * t / period + 1) + 0.3 * random.nextGaussian(),
                    0.3 * random.nextGaussian(),
                    0,
                    0,
                    80));
        }
        return samples;
    }

    /** By hand: a sine of 9″ every 480 s on a drift and noise stands at 480 s with 9″, and nothing else does. */
    @Test
    void aSineStandsAtItsPeriodWithItsSwing() {
        List<double[]> spectrum = GuideSpectrum.of(swings(2400, 9, 480), GuideSample::raArcsec);
        double[] most =
                spectrum.stream().max(Comparator.comparingDouble(p -> p[1])).orElseThrow();
        assertThat(most[0]).isCloseTo(480, within(20.0));
        assertThat(most[1]).isCloseTo(9, within(0.4));
        assertThat(spectrum.stream()
                        .filter(p -> p[0] < 100)
                        .mapToDouble(p -> p[1])
                        .max()
                        .orElseThrow())
                .isLessThan(0.6);
    }

    @Test
    void aShortRecordHasNone() {
        assertThat(GuideSpectrum.of(swings(15, 9, 480), GuideSample::raArcsec)).isEmpty();
    }

    /** A kit whose file has the wrong period is corrected by what the axis shows. */
    @Test
    void theLoopFindsThePeriodThatTheFileDoesNotHave() {
        AxisLoop loop = new AxisLoop(new AxisRule(GuideLaw.FORESEEING, 0.6, 0), false);
        loop.period(OptionalDouble.of(640));
        List<GuideSample> samples = swings(2200, 9, 480);
        double at = 0;
        for (GuideSample s : samples) {
            double t = (s.time().toEpochMilli() - samples.get(0).time().toEpochMilli()) / 1000.0;
            at -= loop.sent(loop.answer(t, s.raArcsec() + at));
        }
        assertThat(loop.period().orElseThrow()).isCloseTo(480, within(25.0));
    }
}
