package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;

class GuideAdviceTest {
    private static final double RATE = 7.5;

    /** Ten minutes of an axis that drifts, with air, guided by a share; pulses as they were sent. */
    private static List<GuideSample> guided(double share, double driftPerExposure, double air, long seed) {
        Random random = new Random(seed);
        List<GuideSample> samples = new ArrayList<>();
        double at = 0;
        Instant start = Instant.parse("2026-11-14T20:00:00Z");
        for (int i = 0; i < 240; i++) {
            double error = at + air * random.nextGaussian();
            double back = share * error;
            samples.add(new GuideSample(
                    start.plusMillis(2500L * i), error, 0.1 * random.nextGaussian(), -1000 * back / RATE, 0, 80));
            at += driftPerExposure - back;
        }
        return samples;
    }

    private static final GuideRules LAME = GuideRules.USUAL.withRa(new AxisRule(GuideLaw.PROPORTIONAL, 0.1, 0));

    /** A drift of 0.3″ an exposure is held at 3″ by a tenth; a line through it holds it at none. */
    @Test
    void aDriftThatIsHeldTooGentlyIsFoundOut() {
        GuideAdvice.Better better = GuideAdvice.ra(guided(0.1, 0.3, 0.2, 1), LAME, RATE, OptionalDouble.empty())
                .orElseThrow();
        assertThat(better.tuning().heldArcsec()).isCloseTo(3, within(0.5));
        assertThat(better.tuning().bestArcsec()).isLessThan(0.4);
        assertThat(better.rules().ra()).isEqualTo(better.tuning().rule());
        assertThat(better.rules().dec()).isEqualTo(LAME.dec());
    }

    /** Air alone, left alone, cannot be held better; and a minute tells nothing. */
    @Test
    void whereNothingWouldBeBetterNothingIsSaid() {
        GuideRules calm = GuideRules.USUAL.withRa(new AxisRule(GuideLaw.LOW_PASS, 0.05, 0));
        assertThat(GuideAdvice.ra(guided(0.05, 0, 0.5, 2), calm, RATE, OptionalDouble.empty()))
                .isEmpty();
        assertThat(GuideAdvice.ra(guided(0.1, 0.3, 0.2, 1).subList(0, 40), LAME, RATE, OptionalDouble.empty()))
                .isEmpty();
    }

    /** What is written is what is read. */
    @Test
    void theTableOfARecordIsReadBack(@org.junit.jupiter.api.io.TempDir java.nio.file.Path folder) throws Exception {
        List<GuideSample> samples = guided(0.5, 0.1, 0.3, 3);
        java.nio.file.Path file = folder.resolve("guiding.csv");
        java.nio.file.Files.writeString(file, GuideLog.csv(samples));
        GuideLog log = GuideLog.read(file);
        assertThat(log.size()).isEqualTo(samples.size());
        assertThat(log.guided()).isTrue();
        assertThat(log.ra()[17]).isCloseTo(samples.get(17).raArcsec(), within(1e-4));
        assertThat(log.raPulseMs().orElseThrow()[17]).isCloseTo(samples.get(17).raPulseMs(), within(0.5));
        assertThat(log.seconds()[17]).isCloseTo(17 * 2.5, within(1e-3));
    }
}
