package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** A sine of known zeros: period six hours, up through zero at the start. */
class CrossingsTest {
    private static final Instant START = Instant.parse("2026-11-14T12:00:00Z");
    private static final Interval DAY = new Interval(START.plusSeconds(60), START.plus(Duration.ofDays(1)));
    private static final Duration STEP = Duration.ofMinutes(10);

    private static double sine(Instant time) {
        return Math.sin(2 * Math.PI * Duration.between(START, time).toMillis() / 21_600_000.0);
    }

    private static long off(Instant time, long hours) {
        return Math.abs(
                Duration.between(START.plus(Duration.ofHours(hours)), time).toMillis());
    }

    @Test
    void everyZeroIsFound() {
        List<Crossings.Crossing> found = Crossings.find(DAY, STEP, CrossingsTest::sine);
        assertThat(found).hasSizeBetween(7, 8);
        for (int k = 0; k < 7; k++) {
            assertThat(off(found.get(k).time(), 3L * (k + 1))).isLessThanOrEqualTo(50);
            assertThat(found.get(k).upward()).isEqualTo(k % 2 == 1);
        }
    }

    @Test
    void stretchesAboveBeginAndEndWithTheSpan() {
        List<Interval> above = Crossings.above(DAY, STEP, CrossingsTest::sine);
        assertThat(above.get(0).from()).isEqualTo(DAY.from());
        assertThat(off(above.get(0).until(), 3)).isLessThanOrEqualTo(50);
        assertThat(above).hasSizeBetween(4, 5);
        assertThat(Crossings.above(DAY, STEP, t -> 1.0)).containsExactly(DAY);
        assertThat(Crossings.above(DAY, STEP, t -> -1.0)).isEmpty();
    }
}
