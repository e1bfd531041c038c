package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Sixteen exposures of two seconds by hand, with pulses of half a second each way that move a star by 3.75″ and do not. */
class RunawayTest {
    /** 7.5″ a second of pulse in either axis. */
    private static final GuideCalibration KNOWN = new GuideCalibration(2.5, 0, 0, 2.5, 3, 0);

    private final SplittableRandom random = new SplittableRandom(4);

    @FunctionalInterface
    private interface Place {
        double arcsec(int exposure);
    }

    private List<GuideSample> samples(Place ra, double stirArcsec) {
        List<GuideSample> samples = new ArrayList<>();
        for (int i = 0; i < Runaway.JUDGED; i++) {
            samples.add(new GuideSample(
                    Instant.parse("2026-11-14T21:00:00Z").plusSeconds(2L * i),
                    ra.arcsec(i) + stirArcsec * random.nextGaussian(),
                    stirArcsec * random.nextGaussian(),
                    500,
                    0,
                    40));
        }
        return samples;
    }

    @Test
    void byHowItMovesItIsTold() {
        Runaway frozen = Runaway.of(samples(i -> 10, 0.03), KNOWN).orElseThrow();
        assertThat(frozen.kind()).isEqualTo(Runaway.Kind.NO_STAR);
        assertThat(frozen.words())
                .startsWith("the star stays 10.0″ off though pulses of ")
                .endsWith("a hot pixel");
        assertThat(Runaway.of(samples(i -> 10, 0.5), KNOWN).orElseThrow().kind())
                .as("the air moves it")
                .isEqualTo(Runaway.Kind.CALIBRATION_VOID);
        // At 41° of declination the sky goes 11.4″ a second.
        Runaway turning =
                Runaway.of(samples(i -> 10 - 11.4 * 2 * i, 0.5), KNOWN).orElseThrow();
        assertThat(turning.kind()).isEqualTo(Runaway.Kind.MOUNT_STANDS);
        assertThat(turning.words()).contains("goes with the sky").endsWith("the mount stands still");
        // A wrong rate or a cable.
        assertThat(Runaway.of(samples(i -> 10 - 2.0 * i, 0.5), KNOWN)
                        .orElseThrow()
                        .kind())
                .isEqualTo(Runaway.Kind.CALIBRATION_VOID);
    }

    @Test
    void whatFollowsOrIsNearDoesNotRunAway() {
        assertThat(Runaway.of(samples(i -> 2, 0.5), KNOWN)).as("near").isEmpty();
        assertThat(Runaway.of(samples(i -> 60 - 3.75 * i, 0.1), KNOWN)).isPresent();
        assertThat(Runaway.of(samples(i -> -60 + 3.75 * i, 0.1), KNOWN))
                .as("it comes by what is sent")
                .isEmpty();
        assertThat(Runaway.of(samples(i -> 10, 0.03).subList(1, Runaway.JUDGED), KNOWN))
                .as("too few")
                .isEmpty();
    }
}
