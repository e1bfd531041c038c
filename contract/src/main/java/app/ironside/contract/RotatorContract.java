package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.device.Operation;
import app.ironside.device.Rotator;
import org.junit.jupiter.api.Test;

/** What is asked of a rotator. */
public abstract class RotatorContract extends DeviceContract<Rotator> {
    @Override
    protected Object ask(Rotator rotator) {
        return rotator.angleDeg();
    }

    @Test
    public void itTurnsAndCanBeStopped() throws Exception {
        Rotator rotator = connected();
        done(rotator.turnTo(30));
        assertThat(rotator.angleDeg()).isCloseTo(30, within(0.2));
        Operation turn = rotator.turnTo(170);
        clock().await(Operation.ASK_EVERY);
        turn.abort();
        assertThat(turn.await(clock())).isEqualTo(Operation.State.ABORTED);
        assertThat(rotator.angleDeg()).isBetween(29.9, 169.0);
    }
}
