package app.ironside.sim;

import app.ironside.device.Camera;
import app.ironside.device.Hands;
import app.ironside.device.NightClock;
import app.ironside.kit.FilterSpec;
import app.ironside.plan.Overheads;
import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** Hands that turn the knobs nearly as asked. */
final class SimHands implements Hands {
    private static final Duration TAKES = Duration.ofSeconds(35);

    /** To which a reticle is read and set, in each of the two axes (common practice: 5′ to 10′ in all). */
    private static final double RETICLE_ARCMIN = 5;

    private static final Duration BY_RETICLE = Duration.ofMinutes(3);
    private static final Duration LOOK = Duration.ofSeconds(20);

    /** A hand misses the asked turn by this share. */
    private static final double CLUMSINESS = 0.06;

    private static final double LEAST_STEP_ARCMIN = 0.15;

    private static final Duration FOCUS_TURN = Duration.ofSeconds(8);
    private static final Duration SWITCH = Duration.ofSeconds(2);

    /** A telescope is pointed so well by a sight along the tube, and nudged so well when it is known where it looks. */
    private static final double BY_EYE_DEG = 1;

    private static final double LEAST_NUDGE_DEG = 0.02;

    private final SimMount mount;
    private final SimFocuser focuser;
    private final SimWheel box;
    private final List<FilterSpec> filters;
    private final SimSettings settings;
    private final NightClock clock;
    private final Noise noise;

    /**
     * @param box what is in the beam, for a kit without a wheel
     * @param filters that lie in it
     */
    SimHands(
            SimMount mount,
            SimFocuser focuser,
            SimWheel box,
            List<FilterSpec> filters,
            SimSettings settings,
            NightClock clock) {
        this.mount = mount;
        this.focuser = focuser;
        this.box = box;
        this.filters = List.copyOf(filters);
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

    /** In a rehearsal everything is as it should be; what is not is a fault with a truth of its own, and shows elsewhere. */
    @Override
    public boolean isSo(String what) throws InterruptedException {
        clock.await(LOOK);
        return true;
    }

    @Override
    public boolean alignByReticle(String what) throws InterruptedException {
        mount.moveAxis(
                RETICLE_ARCMIN * noise.gaussian() - mount.altitudeErrorArcmin(),
                RETICLE_ARCMIN * noise.gaussian() - mount.azimuthErrorArcmin());
        clock.await(BY_RETICLE);
        return true;
    }

    @Override
    public void changeFilter(String filter) throws InterruptedException {
        box.put(filters.stream().map(FilterSpec::name).toList().indexOf(filter));
        clock.await(Duration.ofMillis(Math.round(1000 * Overheads.FILTER_BY_HAND)));
    }

    @Override
    public void focus(int steps, double stepUm) throws InterruptedException {
        focuser.turn(steps * (1 + CLUMSINESS * noise.gaussian()));
        clock.await(FOCUS_TURN);
    }

    @Override
    public void point(Optional<Equatorial> from, Equatorial to) throws InterruptedException {
        Equatorial start = from.orElseGet(() -> mount.looksAt(clock.now()));
        double sloppy = from.isPresent() ? LEAST_NUDGE_DEG : BY_EYE_DEG;
        mount.nudge(
                missed(Angles.wrap180(start.raDeg() - to.raDeg()), sloppy),
                missed(to.decDeg() - start.decDeg(), sloppy));
        clock.await(TAKES);
    }

    private double missed(double degrees, double sloppy) {
        return degrees * (1 + CLUMSINESS * noise.gaussian()) + sloppy * noise.gaussian();
    }

    @Override
    public void turnAxis(double degrees) throws InterruptedException {
        mount.nudge(degrees * (1 + CLUMSINESS * noise.gaussian()), 0);
        clock.await(TAKES);
    }

    @Override
    public void track(boolean on) throws InterruptedException {
        if (on) {
            mount.unpark();
        } else {
            mount.stop();
        }
        clock.await(SWITCH);
    }

    @Override
    public void expose(Camera.Exposure wanted) {
        // The simulated camera moves its own shutter.
    }

    @Override
    public void exposed() {
        // As above.
    }

    private double done(double arcmin) {
        return arcmin * (1 + CLUMSINESS * noise.gaussian()) + LEAST_STEP_ARCMIN * noise.gaussian();
    }
}
