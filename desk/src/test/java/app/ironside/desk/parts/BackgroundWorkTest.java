package app.ironside.desk.parts;

import static app.ironside.desk.Headless.on;
import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.BadInputException;
import app.ironside.desk.Headless;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.testfx.util.WaitForAsyncUtils;

class BackgroundWorkTest {
    private final BackgroundWork work = new BackgroundWork("test");
    private final List<String> told = new CopyOnWriteArrayList<>();

    @BeforeAll
    static void startTheToolkit() throws Exception {
        Headless.start();
    }

    @AfterEach
    void close() {
        work.close();
    }

    private void tell(String what) {
        told.add(what + (Platform.isFxApplicationThread() ? "" : " on another thread"));
    }

    private void idle() throws Exception {
        WaitForAsyncUtils.waitFor(20, TimeUnit.SECONDS, work::isIdle);
    }

    @Test
    void stepsAndAnswerComeOnTheInterfaceThread() throws Exception {
        on(() -> work.ask(progress -> {
                    assertThat(Platform.isFxApplicationThread()).isFalse();
                    progress.step("half", 0.5);
                    return 42;
                })
                .step((what, share) -> tell(what + " " + share))
                .then(answer -> tell("answer " + answer)));
        idle();
        assertThat(told).containsExactly("half 0.5", "answer 42");
    }

    @Test
    void whyThereIsNoAnswerIsSaidInWords() throws Exception {
        on(() -> work.ask(progress -> {
                    throw new BadInputException("a.fits", "is cut off", "a whole file");
                })
                .failed(this::tell)
                .then(answer -> tell("never")));
        on(() -> work.ask(progress -> {
                    throw new IllegalStateException("a slip");
                })
                .failed(this::tell)
                .then(answer -> tell("never")));
        idle();
        assertThat(told.get(0)).contains("a.fits").contains("is cut off");
        assertThat(told.get(1)).isEqualTo("A fault of Ironside itself (IllegalStateException: a slip)");
    }

    /** Of many wishes for one thing the last counts: what was begun before is not told any more, what waits is not done. */
    @Test
    void onlyTheNewestCounts() throws Exception {
        CountDownLatch hold = new CountDownLatch(1);
        CountDownLatch begun = new CountDownLatch(1);
        on(() -> work.ask(progress -> {
                    begun.countDown();
                    hold.await();
                    return "first";
                })
                .onlyNewest()
                .then(this::tell));
        begun.await();
        for (String wish : List.of("second", "third")) {
            on(() -> work.ask(progress -> {
                        tell("doing " + wish);
                        return wish;
                    })
                    .onlyNewest()
                    .then(this::tell));
        }
        hold.countDown();
        idle();
        assertThat(told).containsExactly("doing third on another thread", "third");
    }

    @Test
    void itIsCancelledAtItsNextStep() throws Exception {
        CountDownLatch begun = new CountDownLatch(1);
        BackgroundWork.Ticket<?> ticket = on(() -> work.ask(progress -> {
                    while (true) {
                        progress.step("on and on", 0.1);
                        begun.countDown();
                    }
                })
                .cancelled(() -> tell("cancelled"))
                .then(answer -> tell("never")));
        begun.await();
        ticket.cancel();
        idle();
        assertThat(told).containsExactly("cancelled");
    }

    @Test
    void onceClosedNothingIsBegun() throws Exception {
        work.close();
        on(() -> work.ask(progress -> "late").then(this::tell));
        idle();
        assertThat(told).isEmpty();
    }
}
