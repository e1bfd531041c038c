package app.ironside.drivers;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Common practice: cameras' clocks stand at local time, at that of another season, or at nothing. */
class CameraClockTest {
    private static final Instant BEGAN = Instant.parse("2026-11-14T20:00:00Z");
    private static final Duration MINUTE = Duration.ofMinutes(1);

    private final List<String> said = new ArrayList<>();
    private final CameraClock clock = new CameraClock(said::add);

    /** An exposure of a minute, whose file is there some seconds after its end. */
    private Duration error(Instant began, Duration ahead, int seconds) {
        return Duration.between(
                began,
                clock.began(
                        Optional.of(began.plus(ahead)),
                        MINUTE,
                        began.plus(MINUTE).plusSeconds(seconds)));
    }

    @Test
    void aClockThatIsRightIsBelieved() {
        for (int seconds : new int[] {0, 3, 100, 5}) {
            assertThat(error(BEGAN.plusSeconds(100L * seconds), Duration.ZERO, seconds))
                    .isZero();
        }
        assertThat(said).isEmpty();
    }

    @Test
    void everyZoneIsFound() {
        for (int quarter = -48; quarter <= 56; quarter++) {
            CameraClock fresh = new CameraClock(said::add);
            Duration ahead = Duration.ofMinutes(15L * quarter);
            for (int seconds : new int[] {0, 20, 110}) {
                assertThat(fresh.began(
                                Optional.of(BEGAN.plus(ahead)),
                                MINUTE,
                                BEGAN.plus(MINUTE).plusSeconds(seconds)))
                        .isEqualTo(BEGAN);
            }
        }
        assertThat(said)
                .contains(
                        "The camera's clock is 1 h behind: the times of its frames are put right by that.",
                        "The camera's clock is 5 h 45 min ahead: the times of its frames are put right by that.");
    }

    /** Off by what is no zone: then the file's coming is all that is known, and is right to the time that it takes. */
    @Test
    void aClockThatWasNeverSetIsLaidAside() {
        assertThat(error(BEGAN, Duration.ofDays(-9000), 4)).isEqualTo(Duration.ofSeconds(4));
        assertThat(error(BEGAN.plusSeconds(100), Duration.ofDays(-9000), 4)).isEqualTo(Duration.ofSeconds(4));
        assertThat(said)
                .containsExactly(
                        "The camera's clock is 9000 days behind: the times of its frames are put right by that.");
    }

    /** One old file among new ones is an old frame, not a clock that changed. */
    @Test
    void anOldFrameStaysOld() {
        assertThat(error(BEGAN, Duration.ZERO, 2)).isZero();
        Instant old = BEGAN.minus(Duration.ofHours(20));
        assertThat(clock.began(Optional.of(old), MINUTE, BEGAN.plusSeconds(200)))
                .isEqualTo(old);
        assertThat(error(BEGAN.plusSeconds(300), Duration.ZERO, 2)).isZero();
        assertThat(said).isEmpty();
    }

    @Test
    void aClockThatIsSetBackInTheNightIsNoticedAtTheThirdFrame() {
        assertThat(error(BEGAN, Duration.ZERO, 2)).isZero();
        Duration hour = Duration.ofHours(-1);
        assertThat(error(BEGAN.plusSeconds(100), hour, 2)).isEqualTo(hour);
        assertThat(error(BEGAN.plusSeconds(200), hour, 2)).isEqualTo(hour);
        assertThat(error(BEGAN.plusSeconds(300), hour, 2)).isZero();
        assertThat(error(BEGAN.plusSeconds(400), hour, 2)).isZero();
    }

    @Test
    void withoutATimeTheFileTellsIt() {
        assertThat(clock.began(Optional.empty(), MINUTE, BEGAN)).isEqualTo(BEGAN.minus(MINUTE));
    }
}
