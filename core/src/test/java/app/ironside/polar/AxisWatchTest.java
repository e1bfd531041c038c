package app.ironside.polar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Hook 1989 (from memory): near the meridian a star drifts by 0.2625″ a minute for each arcminute that the axis is off in azimuth, south
 * where it is too far east; six hours from it for each in altitude.
 */
class AxisWatchTest {
    /** M 33 a few minutes from the meridian at the site of the demo. */
    private static final Equatorial STAR = new Equatorial(23.46, 30.66);

    private static final Instant MERIDIAN = Instant.parse("2026-11-14T21:26:37Z");
    private static final double SIGMA = 0.1;

    private final AxisWatch watch = new AxisWatch(new DriftFinder(Observer.at(Examples.site())));

    @BeforeEach
    void measured() {
        watch.begin();
    }

    private Optional<AxisWatch.Moved> sub(int number, double drift) {
        return watch.add(
                new DriftFinder.DriftSight(
                        STAR, MERIDIAN.plusSeconds(180L * number), Duration.ofMinutes(3), drift, SIGMA),
                0.5,
                1,
                0.2);
    }

    @Test
    void anAxisThatStaysGivesNoWord() {
        for (int k = 0; k < 10; k++) {
            assertThat(sub(k, -0.26 + (k % 2 == 0 ? 0.15 : -0.15))).isEmpty();
        }
    }

    @Test
    void anAxisThatWasTouchedIsToldOnceWithItsLeastError() {
        assertThat(sub(0, -0.3)).isEmpty();
        assertThat(sub(1, -0.26 - 8 * 0.2625)).isEmpty();
        assertThat(sub(2, -0.26 - 8 * 0.2625)).isEmpty();
        AxisWatch.Moved moved = sub(3, -0.26 - 8 * 0.2625).orElseThrow();
        assertThat(moved.since()).isEqualTo(MERIDIAN.plusSeconds(180));
        assertThat(moved.leastArcmin()).isCloseTo(8, within(0.4));
        assertThat(moved.expectedArcsecPerMinute()).isCloseTo(-0.26, within(0.08));
        assertThat(sub(4, -0.26 - 8 * 0.2625)).as("once").isEmpty();
        watch.begin();
        assertThat(sub(5, -0.26 - 8 * 0.2625)).isEmpty();
    }

    @Test
    void oneGustOrACableThatPassesIsNoAxis() {
        assertThat(sub(0, -3)).isEmpty();
        assertThat(sub(1, -3)).isEmpty();
        assertThat(sub(2, -0.3)).isEmpty();
        assertThat(sub(3, 2.5)).isEmpty();
        assertThat(sub(4, 2.5)).isEmpty();
        assertThat(sub(5, -3)).as("the other way").isEmpty();
    }
}
