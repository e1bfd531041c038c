package app.ironside.night;

import app.ironside.device.Camera;
import app.ironside.device.NightClock;
import app.ironside.guide.Guider;
import app.ironside.image.Frame;
import java.time.Duration;
import java.time.Instant;

/** The one loop that pumps what must go on while the night waits: guiding. */
final class NightLoop {
    private static final Duration STEP = Duration.ofSeconds(2);

    private final NightClock clock;
    private final Guider guider;

    NightLoop(NightClock clock, Guider guider) {
        this.clock = clock;
        this.guider = guider;
    }

    /** Exposes with the main camera, guiding meanwhile. */
    Frame expose(Camera camera, Camera.Exposure exposure) throws InterruptedException {
        camera.start(exposure);
        Duration readout = camera.remaining().minus(exposure.length());
        // The last guide exposure ends with the sub: one that reaches beyond would only make the next one wait.
        while (camera.remaining().compareTo(readout) > 0) {
            Duration open = camera.remaining().minus(readout);
            if (guider.isGuiding() && open.compareTo(guider.cycleTime()) >= 0) {
                guider.cycle();
            } else {
                clock.await(shorter(STEP, open));
            }
        }
        clock.await(camera.remaining());
        return camera.download();
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
