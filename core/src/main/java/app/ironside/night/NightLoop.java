package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.device.NightClock;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import app.ironside.journal.Command;
import app.ironside.journal.Stage;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/** The one loop that pumps what must go on while the night waits: guiding. */
final class NightLoop {
    private static final Duration STEP = Duration.ofSeconds(2);

    private final NightClock clock;
    private final Guider guider;
    private final Conduct conduct;

    NightLoop(NightClock clock, Guider guider, Conduct conduct) {
        this.clock = clock;
        this.guider = guider;
        this.conduct = conduct;
    }

    /**
     * An exposure that is over.
     *
     * @param opened when the shutter opened
     * @param open for how long
     * @param ended the command that ended it before its time
     */
    record Exposed(Frame frame, Instant opened, Duration open, Optional<NightControl.Order> ended) {}

    /** Exposes with the main camera, guiding meanwhile, until it is over or somebody ends it. */
    Exposed expose(Camera camera, Camera.Exposure exposure) throws InterruptedException {
        Instant opened = clock.now();
        Duration open = exposure.length();
        Optional<NightControl.Order> ended = Optional.empty();
        camera.start(exposure);
        Duration readout = camera.remaining().minus(exposure.length());
        conduct.announce("after this sub", camera.remaining());
        // The last guide exposure ends with the sub: one that reaches beyond would only make the next one wait.
        while (camera.remaining().compareTo(readout) > 0) {
            conduct.leaveIfAsked(Stage.RUN);
            ended = conduct.control().take(Command.EndSub.class::isInstance);
            if (ended.isPresent()) {
                camera.stop();
                open = Duration.between(opened, clock.now());
                break;
            }
            Duration left = camera.remaining().minus(readout);
            if (guider.isGuiding() && left.compareTo(guider.cycleTime()) >= 0) {
                guider.cycle();
            } else {
                clock.await(shorter(STEP, left));
            }
        }
        clock.await(camera.remaining());
        return new Exposed(camera.download(), opened, open, ended);
    }

    /** Waits, guiding meanwhile. */
    void aWhile(Duration time) throws InterruptedException {
        waitUntil(clock.now().plus(time));
    }

    /** Waits until a time, guiding meanwhile. */
    void waitUntil(Instant time) throws InterruptedException {
        while (clock.now().isBefore(time)) {
            if (guider.isGuiding()) {
                guider.cycle();
            } else {
                clock.await(shorter(Duration.ofSeconds(30), Duration.between(clock.now(), time)));
            }
        }
    }

    private static Duration shorter(Duration a, Duration b) {
        return a.compareTo(b) < 0 ? a : b;
    }
}
