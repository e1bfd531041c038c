package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class PacedClockTest {
    private static final Instant DUSK = Instant.parse("2026-11-14T17:00:00Z");

    @Test
    void unboundedTimePassesAtOnceAndExactly() throws InterruptedException {
        PacedClock clock = new PacedClock(DUSK, PacedClock.UNBOUNDED);
        clock.await(Duration.ofHours(9));
        assertThat(clock.now()).isEqualTo(DUSK.plus(Duration.ofHours(9)));
    }

    @Test
    void pacedTimeIsExactToo() throws InterruptedException {
        PacedClock clock = new PacedClock(DUSK, 36_000);
        for (int i = 0; i < 50; i++) {
            clock.await(Duration.ofSeconds(7));
        }
        assertThat(clock.now()).isEqualTo(DUSK.plusSeconds(350));
    }

    @Test
    void heldTimeStandsUntilItIsLetGo() throws InterruptedException {
        PacedClock clock = new PacedClock(DUSK, PacedClock.UNBOUNDED);
        clock.hold(true);
        CountDownLatch done = new CountDownLatch(1);
        Thread waiter = new Thread(() -> {
            try {
                clock.await(Duration.ofSeconds(5));
                done.countDown();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        waiter.start();
        assertThat(done.await(100, TimeUnit.MILLISECONDS)).isFalse();
        assertThat(clock.now()).isEqualTo(DUSK);
        clock.hold(false);
        assertThat(done.await(20, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void aStoppedNightLeavesItsWait() {
        PacedClock clock = new PacedClock(DUSK, 1);
        Thread.currentThread().interrupt();
        assertThatThrownBy(() -> clock.await(Duration.ofHours(1))).isInstanceOf(InterruptedException.class);
    }
}
