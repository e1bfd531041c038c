package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.RETURNS_DEEP_STUBS;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.kit.Kit;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What a remote shutter is set to, by hand: count times length with a gap, nothing over the flip. */
class ShutterRunTest {
    private static final Instant NINE = Instant.parse("2026-11-14T21:00:00Z");
    private final Kit kit = mock(Kit.class, RETURNS_DEEP_STUBS);

    private List<ShutterRun> runs(int frames, int minutes, Optional<Integer> flip) {
        when(kit.sensor().readoutSeconds()).thenReturn(1.4);
        PlannedBlock block = new PlannedBlock(
                new TargetPlan("M 33", new Equatorial(23, 30), List.of("none"), 2, 120),
                null,
                new Interval(NINE, NINE.plusSeconds(60L * minutes)),
                flip.map(m -> NINE.plusSeconds(60L * m)),
                Map.of("none", frames),
                Map.of());
        return ShutterRun.of(new NightPlan(mock(NightTimes.class), List.of(block)), kit);
    }

    @Test
    void seventyFiveTimesTwoMinutes() {
        ShutterRun run = runs(75, 200, Optional.empty()).get(0);
        assertThat(run.frames()).isEqualTo(75);
        assertThat(run.gapSeconds()).as("1.4 s of read-out").isEqualTo(3);
        assertThat(run.from()).isEqualTo(NINE.plusSeconds(300));
        assertThat(run.until()).isEqualTo(NINE.plusSeconds(300 + 75 * 120 + 74 * 3));
    }

    @Test
    void noFrameLiesOverTheFlip() {
        List<ShutterRun> runs = runs(75, 200, Optional.of(100));
        assertThat(runs).hasSize(2);
        assertThat(runs.get(0).until()).isBeforeOrEqualTo(NINE.plusSeconds(6000));
        // From 5 to 100 minutes: 5700 s, and the gap after the last is not needed.
        assertThat(runs.get(0).frames()).isEqualTo(46);
        assertThat(runs.get(1).from()).isEqualTo(NINE.plusSeconds(6300));
        assertThat(runs.get(1).frames()).isEqualTo(29);
        assertThat(runs.get(1).afterFlip()).isTrue();
    }

    @Test
    void whatDoesNotFitIsNotPromised() {
        assertThat(runs(75, 60, Optional.empty()).get(0).frames()).isEqualTo(26);
    }
}
