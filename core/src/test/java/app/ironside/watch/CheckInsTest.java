package app.ironside.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.journal.NightState;
import app.ironside.plan.NightPlan;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** When a sleeper should look, by hand: a target with a flip, then another. */
class CheckInsTest {
    private static final Instant NINE = Instant.parse("2026-11-14T21:00:00Z");

    private static PlannedBlock block(String name, int fromMinute, int untilMinute, Optional<Integer> flipMinute) {
        return new PlannedBlock(
                new TargetPlan(name, new Equatorial(20, 30), List.of("L"), 2, 120),
                null,
                new Interval(minute(fromMinute), minute(untilMinute)),
                flipMinute.map(CheckInsTest::minute),
                Map.of("L", 60),
                Map.of());
    }

    private static Instant minute(int minutes) {
        return NINE.plusSeconds(60L * minutes);
    }

    private static List<CheckIns.CheckIn> at(int minute, PlannedBlock... blocks) {
        NightTimes times = mock(NightTimes.class);
        when(times.night()).thenReturn(new Interval(NINE, minute(600)));
        return CheckIns.of(new NightPlan(times, List.of(blocks)), NightState.EMPTY, minute(minute));
    }

    @Test
    void afterAnHourAndAHalfAtTheFlipAtTheNextTargetAndAtTheEnd() {
        List<CheckIns.CheckIn> looks =
                at(0, block("M 33", 0, 300, Optional.of(180)), block("NGC 2403", 300, 500, Optional.empty()));
        assertThat(looks)
                .extracting(CheckIns.CheckIn::time)
                .containsExactly(minute(90), minute(175), minute(310), minute(500));
        assertThat(looks.get(1).why()).isEqualTo("before the flip");
    }

    @Test
    void whatIsOverIsNotLookedAt() {
        assertThat(at(400, block("M 33", 0, 300, Optional.of(180)), block("NGC 2403", 300, 500, Optional.empty())))
                .extracting(CheckIns.CheckIn::why)
                .containsExactly("the lights are over");
    }

    /** A flip waits for nobody: of two looks that are one, its time stands. */
    @Test
    void looksThatComeCloseAreOne() {
        assertThat(at(0, block("M 33", 0, 300, Optional.of(110))))
                .extracting(CheckIns.CheckIn::time)
                .containsExactly(minute(105), minute(300));
    }
}
