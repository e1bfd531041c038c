package app.ironside.device;

import app.ironside.kit.FocuserSpec;
import java.util.function.DoubleSupplier;

/** A focus ring or draw tube that a hand turns, counted in the least turns that it makes. */
public final class HandFocuser extends ByHand implements Focuser {
    private final FocuserSpec spec;
    private final Hands hands;
    private final DoubleSupplier airC;
    private int steps;

    /**
     * @param airC temperature of the air, which the tube follows
     */
    public HandFocuser(FocuserSpec spec, Hands hands, DoubleSupplier airC) {
        this.spec = spec;
        this.hands = hands;
        this.airC = airC;
        this.steps = spec.startSteps();
    }

    @Override
    public int positionSteps() {
        return steps;
    }

    @Override
    public Operation moveTo(int positionSteps) {
        if (positionSteps < 0 || positionSteps > spec.maxSteps()) {
            throw new DeviceException(
                    name(),
                    "a turn of " + Math.abs(positionSteps - steps) + " steps is further than a ring turns",
                    "Focus by eye on a bright star first.");
        }
        int turn = positionSteps - steps;
        if (turn == 0) {
            return Operation.done(name(), "the turn of the focus ring");
        }
        Operation done = by("the turn of the focus ring", () -> hands.focus(turn, spec.stepUm()));
        steps = positionSteps;
        return done;
    }

    @Override
    public int maxSteps() {
        return spec.maxSteps();
    }

    @Override
    public double temperatureC() {
        return airC.getAsDouble();
    }
}
