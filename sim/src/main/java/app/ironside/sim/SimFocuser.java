package app.ironside.sim;

import app.ironside.device.DeviceException;
import app.ironside.device.Focuser;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.device.Timed;
import app.ironside.document.FaultKind;
import app.ironside.kit.FocuserSpec;
import java.time.Duration;
import java.util.OptionalInt;

/** A focuser whose gear has slack: the tube follows the motor only when the slack is taken up. */
final class SimFocuser extends SimDevice implements Focuser {
    private static final double STEPS_PER_SECOND = 60;

    private final FocuserSpec spec;
    private final NightClock clock;
    private final Surroundings surroundings;
    private final double slackSteps;
    private OptionalInt zeroLostAt = OptionalInt.empty();
    private int motorSteps;
    private double tubeSteps;

    SimFocuser(FocuserSpec spec, NightClock clock, Surroundings surroundings) {
        super("focuser");
        this.spec = spec;
        this.clock = clock;
        this.surroundings = surroundings;
        this.slackSteps = 0.7 * spec.backlashSteps();
        this.motorSteps = spec.startSteps();
        this.tubeSteps = spec.startSteps();
    }

    /** Where the tube really is, micrometres from the inner end. */
    double tubeUm() {
        return tubeSteps * spec.stepUm() + surroundings.faults().focusUm(clock.now());
    }

    /** The motor's position at which an inward approach brings the tube to a place. */
    double motorStepsFor(double tubeUm) {
        return tubeUm / spec.stepUm() - slackSteps;
    }

    /** A hand turns the ring: there is no motor, and the slack is in the ring. */
    void turn(double steps) {
        motorSteps += (int) Math.round(steps);
        tubeSteps += steps;
    }

    @Override
    public int positionSteps() {
        mustAnswer();
        return toldFrom(motorSteps);
    }

    @Override
    public Operation moveTo(int positionSteps) {
        mustAnswer();
        if (positionSteps < 0 || positionSteps > spec.maxSteps()) {
            throw new DeviceException(
                    "focuser",
                    "position " + positionSteps + " is beyond its ends, 0 and " + spec.maxSteps(),
                    "If it should not be, the focuser has lost its zero: run it to the inner end and set 0 there.");
        }
        int wanted = Math.max(0, Math.min(spec.maxSteps(), positionSteps + lostSteps()));
        int from = motorSteps;
        double tubeFrom = tubeSteps;
        Duration takes = Duration.ofMillis(Math.round(200 + 1000 * Math.abs(wanted - from) / STEPS_PER_SECOND));
        run(wanted);
        Timed[] move = new Timed[1];
        move[0] = new Timed(name(), "the move", clock, takes, () -> {
            int reached = from + (int) Math.round(move[0].share() * (wanted - from));
            tubeSteps = tubeFrom;
            run(reached);
        });
        return move[0];
    }

    /** A focuser that lost its zero calls the place where that happened 0. */
    private int toldFrom(int motor) {
        return motor - lostSteps();
    }

    private int lostSteps() {
        if (zeroLostAt.isEmpty() && surroundings.faults().hasBegun(FaultKind.FOCUSER_LOST, clock.now())) {
            zeroLostAt = OptionalInt.of(motorSteps);
        }
        return zeroLostAt.orElse(0);
    }

    /** The motor pushes outward from below and pulls inward from above the slack. */
    private void run(int to) {
        motorSteps = to;
        tubeSteps = Math.max(motorSteps, Math.min(motorSteps + slackSteps, tubeSteps));
    }

    @Override
    public int maxSteps() {
        return spec.maxSteps();
    }

    @Override
    public double temperatureC() {
        mustAnswer();
        return surroundings.temperatureC(clock.now());
    }
}
