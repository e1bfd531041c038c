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
import javafx.scene.control.Button;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Long work beside the interface: it tells where it is, can be stopped, and answers on the interface thread. */
class ChoreTest {
    private final List<String> told = new CopyOnWriteArrayList<>();
    private final CountDownLatch ended = new CountDownLatch(1);
    private Chore chore;

    @BeforeAll
    static void startTheToolkit() throws Exception {
        Headless.start();
    }

    @BeforeEach
    void make() {
        chore = on(() -> new Chore("test", busy -> told.add(busy ? "busy" : "idle"), told::add));
    }

    @AfterEach
    void close() {
        chore.close();
    }

    private void begin(BackgroundWork.Work<Runnable> work) {
        on(() -> {
            chore.begin(work, () -> tell("cancelled"), why -> tell("failed: " + why));
            return true;
        });
    }

    private void tell(String what) {
        told.add(what + (Platform.isFxApplicationThread() ? "" : " on another thread"));
        ended.countDown();
    }

    private void waitForTheEnd() throws InterruptedException {
        assertThat(ended.await(20, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void workTellsItsStepsAndAnswersOnTheInterfaceThread() throws Exception {
        begin(progress -> {
            assertThat(Platform.isFxApplicationThread()).isFalse();
            progress.step("half way", 0.5);
            return () -> tell("done");
        });
        waitForTheEnd();
        assertThat(told).containsExactly("busy", "half way", "idle", "done");
        assertThat(on(() -> chore.isVisible())).as("its bar goes with it").isFalse();
    }

    @Test
    void theButtonStopsIt() throws Exception {
        CountDownLatch asked = new CountDownLatch(1);
        begin(progress -> {
            while (true) {
                progress.step("on and on", 0.1);
                asked.countDown();
            }
        });
        assertThat(asked.await(20, TimeUnit.SECONDS)).isTrue();
        assertThat(on(() -> chore.isVisible())).isTrue();
        on(() -> {
            ((Button) chore.lookup("#cancel-test")).fire();
            return true;
        });
        waitForTheEnd();
        assertThat(told).endsWith("cancelled");
        assertThat(told.get(told.size() - 2)).isEqualTo("idle");
    }

    @Test
    void aFailureIsTold() throws Exception {
        begin(progress -> {
            throw new BadInputException("deep.csv", "has no star", "some");
        });
        waitForTheEnd();
        assertThat(told).containsExactly("busy", "idle", "failed: deep.csv: has no star; expected some");
    }
}
