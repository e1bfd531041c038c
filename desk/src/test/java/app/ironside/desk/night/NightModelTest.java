package app.ironside.desk.night;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.Told;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Stage;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** What passes from the night's thread to the screen. */
class NightModelTest {
    private static final Instant NINE = Instant.parse("2026-11-14T20:00:00Z");

    private final AtomicInteger changes = new AtomicInteger();
    private final NightModel model = new NightModel(changes::incrementAndGet);

    private static NightEvent event(int minute) {
        return Told.sub(minute, true);
    }

    private static Frame frame() {
        return new Frame(4, 3, new float[12], Header.EMPTY);
    }

    @Test
    void everyChangeIsTold() {
        model.event(event(1));
        model.doing(Stage.FOCUS, "Focus sweep", NINE, Duration.ofSeconds(90));
        model.frame(Stage.FOCUS, "a frame", frame(), Optional.empty());
        assertThat(changes).hasValue(3);
        assertThat(model.night().events()).containsExactly(event(1));
        assertThat(model.doing().orElseThrow().what()).isEqualTo("Focus sweep");
        assertThat(model.latest(Stage.FOCUS).orElseThrow().caption()).isEqualTo("a frame");
        assertThat(model.latest(Stage.POLAR)).isEmpty();
    }

    /** Thousands of rings would hide the picture: the brightest are marked. */
    @Test
    void theBrightestStarsAreMarked() {
        Star star = new Star(2, 2, 1000, 100, 1, 2, 0, 0, 50, false, 5, Optional.empty());
        StarField many = new StarField(4, 3, Collections.nCopies(1500, star), 500, 5);
        model.frame(Stage.RUN, "a sub", frame(), Optional.of(many));
        assertThat(model.latest(Stage.RUN).orElseThrow().stars()).hasSize(400);
    }

    @Test
    void anotherNightTakesThePlaceOfThis() {
        model.event(event(1));
        model.frame(Stage.RUN, "a sub", frame(), Optional.empty());
        model.load(List.of(event(5), event(6)), List.of());
        assertThat(model.night().events()).containsExactly(event(5), event(6));
        assertThat(model.latest(Stage.RUN)).isEmpty();
        assertThat(model.doing()).isEmpty();
    }

    /** A snapshot does not change under the reader. */
    @Test
    void eventsAreACopy() {
        model.event(event(1));
        List<NightEvent> seen = model.night().events();
        model.event(event(2));
        assertThat(seen).hasSize(1);
    }

    @Test
    void simulatedHandsNeverKeepTheNightWaiting() throws InterruptedException {
        model.confirm("the tripod is level");
        assertThat(model.asked()).isEmpty();
    }

    /** A night's thread that waits for a person. */
    private final class Asking {
        private final CountDownLatch answered = new CountDownLatch(1);
        private final CountDownLatch stopped = new CountDownLatch(1);
        private final Thread night;

        Asking(String what) {
            night = new Thread(() -> {
                try {
                    model.confirm(what);
                    answered.countDown();
                } catch (InterruptedException e) {
                    stopped.countDown();
                }
            });
            night.start();
            while (model.asked().isEmpty()) {
                Thread.onSpinWait();
            }
        }

        boolean goesOn() throws InterruptedException {
            return answered.await(20, TimeUnit.SECONDS);
        }

        boolean isStopped() throws InterruptedException {
            return stopped.await(20, TimeUnit.SECONDS);
        }
    }

    @Test
    void ownHandsAreWaitedFor() throws InterruptedException {
        model.setOwnHands(true);
        Asking asking = new Asking("the tripod is level");
        assertThat(model.asked()).isEqualTo("the tripod is level");
        assertThat(asking.answered.getCount()).isEqualTo(1);
        model.confirmed();
        assertThat(asking.goesOn()).isTrue();
        assertThat(model.asked()).isEmpty();
    }

    /** What is to be looked at can be denied; what is to be done cannot. */
    @Test
    void aQuestionCanBeAnsweredWithNo() throws InterruptedException {
        model.setOwnHands(true);
        boolean[] so = {true};
        Thread night = new Thread(() -> {
            try {
                so[0] = model.isSo("cables: nothing pulls");
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        night.start();
        while (model.asked().isEmpty()) {
            Thread.onSpinWait();
        }
        assertThat(model.isQuestion()).isTrue();
        model.denied();
        night.join(20_000);
        assertThat(so[0]).isFalse();
        Asking asking = new Asking("knobs: half a turn");
        model.denied();
        assertThat(model.asked()).isEqualTo("knobs: half a turn");
        model.confirmed();
        assertThat(asking.goesOn()).isTrue();
    }

    /** Handing over to the simulated hands in the middle of a question answers it. */
    @Test
    void givingTheHandsAwayLetsTheNightGoOn() throws InterruptedException {
        model.setOwnHands(true);
        Asking asking = new Asking("the caps are off");
        model.setOwnHands(false);
        assertThat(asking.goesOn()).isTrue();
        assertThat(model.hasOwnHands()).isFalse();
    }

    @Test
    void aStoppedNightDoesNotHang() throws InterruptedException {
        model.setOwnHands(true);
        Asking asking = new Asking("the hood is on");
        asking.night.interrupt();
        assertThat(asking.isStopped()).isTrue();
    }

    /** At a real telescope nothing may pass as done that nobody did. */
    @Test
    void atARealTelescopeHandsAreAlwaysAsked() throws Exception {
        NightModel live = new NightModel(() -> {});
        live.askAlways();
        live.setOwnHands(false);
        Thread night = new Thread(() -> {
            try {
                live.confirm("knobs: altitude 0.50 turn to raise the axis");
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
        night.start();
        while (live.asked().isEmpty()) {
            Thread.onSpinWait();
        }
        assertThat(live.asked()).startsWith("knobs: altitude");
        live.setOwnHands(false);
        assertThat(live.asked()).as("not to be switched off").isNotEmpty();
        live.confirmed();
        night.join();
        assertThat(live.asked()).isEmpty();
    }
}
