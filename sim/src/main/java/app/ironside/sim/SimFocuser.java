package app.ironside.sim;

import app.ironside.device.DeviceException;
import app.ironside.device.Focuser;
import app.ironside.device.NightClock;
import app.ironside.kit.FocuserSpec;
import java.time.Duration;
import java.time.Instant;

/** A focuser whose gear has slack: the tube follows the motor only when the slack is taken up. */
final class SimFocuser implements Focuser {
    private static final double STEPS_PER_SECOND = 60;

    private final FocuserSpec spec;
    private final NightClock clock;
    private final Surroundings surroundings;
    private final double slackSteps;
    private int motorSteps;
    private double tubeSteps;
    private Instant busyUntil;

    SimFocuser(FocuserSpec spec, NightClock clock, Surroundings surroundings) {
        this.spec = spec;
        this.clock = clock;
        this.surroundings = surroundings;
        this.slackSteps = 0.7 * spec.backlashSteps();
        this.motorSteps = spec.startSteps();
        this.tubeSteps = spec.startSteps();
        this.busyUntil = clock.now();
    }

    /** Where the tube really is, micrometres from the inner end. */
    double tubeUm() {
        return tubeSteps * spec.stepUm();
    }

    /** The motor's position at which an inward approach brings the tube to a place. */
    double motorStepsFor(double tubeUm) {
        return tubeUm / spec.stepUm() - slackSteps;
    }

    @Override
    public int positionSteps() {
        return motorSteps;
    }

    @Override
    public void moveTo(int positionSteps) {
        if (positionSteps < 0 || positionSteps > spec.maxSteps()) {
            throw new DeviceException(
                    "focuser",
                    "position " + positionSteps + " is beyond its ends, 0 and " + spec.maxSteps(),
                    "If it should not be, the focuser has lost its zero: run it to the inner end and set 0 there.");
        }
        int way = Math.abs(positionSteps - motorSteps);
        motorSteps = positionSteps;
        // The motor pushes outward from below and pulls inward from above the slack.
        tubeSteps = Math.max(motorSteps, Math.min(motorSteps + slackSteps, tubeSteps));
        busyUntil = clock.now().plusMillis(Math.round(200 + 1000 * way / STEPS_PER_SECOND));
    }

    @Override
    public Duration remaining() {
        Duration left = Duration.between(clock.now(), busyUntil);
        return left.isNegative() ? Duration.ZERO : left;
    }

    @Override
    public int maxSteps() {
        return spec.maxSteps();
    }

    @Override
    public double temperatureC() {
        return surroundings.temperatureC(clock.now());
    }
}
