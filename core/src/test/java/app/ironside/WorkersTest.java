package app.ironside;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicIntegerArray;
import org.junit.jupiter.api.Test;

class WorkersTest {
    /** Law: whoever works, each piece is done once, and all are done when the call returns. */
    @Test
    void eachPieceIsDoneOnce() {
        for (Workers workers : new Workers[] {Workers.SERIAL, Workers.ALL_CORES}) {
            AtomicIntegerArray done = new AtomicIntegerArray(10_000);
            workers.forEach(done.length(), done::incrementAndGet);
            for (int i = 0; i < done.length(); i++) {
                assertThat(done.get(i)).isEqualTo(1);
            }
            workers.forEach(0, i -> {
                throw new AssertionError("there is no piece");
            });
        }
    }

    /** Pieces within pieces: a stack measures stars of several subs at once. */
    @Test
    void workMayBeginMoreWork() {
        AtomicInteger sum = new AtomicInteger();
        Workers.ALL_CORES.forEach(20, i -> Workers.ALL_CORES.forEach(50, j -> sum.addAndGet(i * j)));
        assertThat(sum.get()).isEqualTo(190 * 1225);
    }

    @Test
    void whatFailsIsTold() {
        for (Workers workers : new Workers[] {Workers.SERIAL, Workers.ALL_CORES}) {
            assertThatThrownBy(() -> workers.forEach(100, i -> {
                        if (i == 37) {
                            throw new BadInputException("piece 37", "is broken", "a whole one");
                        }
                    }))
                    .isInstanceOf(BadInputException.class)
                    .hasMessage("piece 37: is broken; expected a whole one");
        }
    }
}
