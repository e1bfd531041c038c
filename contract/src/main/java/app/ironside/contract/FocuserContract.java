package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.device.Focuser;
import app.ironside.device.Operation;
import org.junit.jupiter.api.Test;

/** What is asked of a focuser. */
public abstract class FocuserContract extends DeviceContract<Focuser> {
    @Override
    protected Object ask(Focuser focuser) {
        return focuser.positionSteps();
    }

    @Test
    public void itGoesWhereItIsSent() throws Exception {
        Focuser focuser = connected();
        int at = focuser.positionSteps();
        assertThat(at).isBetween(0, focuser.maxSteps());
        int aside = at + 40 <= focuser.maxSteps() ? at + 40 : at - 40;
        done(focuser.moveTo(aside));
        assertThat(focuser.positionSteps()).isEqualTo(aside);
        done(focuser.moveTo(aside));
        assertThat(focuser.temperatureC()).isBetween(-60.0, 70.0);
    }

    @Test
    public void itRefusesWhatIsBeyondItsEndsAndStands() throws Exception {
        Focuser focuser = connected();
        int at = focuser.positionSteps();
        fails(() -> focuser.moveTo(focuser.maxSteps() + 1));
        fails(() -> focuser.moveTo(-1));
        assertThat(focuser.positionSteps()).isEqualTo(at);
    }

    @Test
    public void itCanBeStoppedOnItsWay() throws Exception {
        Focuser focuser = connected();
        int at = focuser.positionSteps();
        int far = at > focuser.maxSteps() / 2 ? 0 : focuser.maxSteps();
        Operation move = focuser.moveTo(far);
        clock().await(Operation.ASK_EVERY);
        assertThat(move.state()).isEqualTo(Operation.State.UNDER_WAY);
        move.abort();
        assertThat(move.await(clock())).isEqualTo(Operation.State.ABORTED);
        int stands = focuser.positionSteps();
        assertThat(stands).isBetween(Math.min(at, far), Math.max(at, far)).isNotEqualTo(far);
        clock().await(Operation.ASK_EVERY);
        assertThat(focuser.positionSteps()).as("it stands").isEqualTo(stands);
    }
}
