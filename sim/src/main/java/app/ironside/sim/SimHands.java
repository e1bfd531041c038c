package app.ironside.sim;

import app.ironside.device.Hands;
import app.ironside.device.NightClock;
import java.time.Duration;

/** Hands that turn the knobs nearly as asked. */
final class SimHands implements Hands {
    private static final Duration TAKES = Duration.ofSeconds(35);

    private static final Duration LOOK = Duration.ofSeconds(20);

    /** A hand misses the asked turn by this share. */
    private static final double CLUMSINESS = 0.06;

    private static final double LEAST_STEP_ARCMIN = 0.15;

    private final SimMount mount;
    private final SimSettings settings;
    private final NightClock clock;
    private final Noise noise;

    SimHands(SimMount mount, SimSettings settings, NightClock clock) {
        this.mount = mount;
        this.settings = settings;
        this.clock = clock;
        this.noise = Noise.of(settings.seed(), 11);
    }

    @Override
    public void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException {
        mount.moveAxis(
                done(altitudeTurns * settings.altitudeKnobArcmin()), done(azimuthTurns * settings.azimuthKnobArcmin()));
        clock.await(TAKES);
    }

    @Override
    public void confirm(String what) throws InterruptedException {
        clock.await(LOOK);
    }

    private double done(double arcmin) {
        return arcmin * (1 + CLUMSINESS * noise.gaussian()) + LEAST_STEP_ARCMIN * noise.gaussian();
    }
}
