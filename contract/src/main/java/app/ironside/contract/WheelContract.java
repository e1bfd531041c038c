package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.device.FilterWheel;
import org.junit.jupiter.api.Test;

/** What is asked of a filter wheel. */
public abstract class WheelContract extends DeviceContract<FilterWheel> {
    @Override
    protected Object ask(FilterWheel wheel) {
        return wheel.slot();
    }

    @Test
    public void itTurnsToTheSlotThatIsAskedFor() throws Exception {
        FilterWheel wheel = connected();
        done(wheel.select(2));
        assertThat(wheel.slot()).isEqualTo(2);
        done(wheel.select(0));
        assertThat(wheel.slot()).isZero();
    }
}
