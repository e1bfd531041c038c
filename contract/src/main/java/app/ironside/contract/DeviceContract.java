package app.ironside.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import java.time.Duration;
import java.util.concurrent.Callable;
import org.junit.jupiter.api.Test;

/**
 * What is asked of any device: a connection that opens, closes, is lost in plain words and comes back.
 *
 * @param <T> its port
 */
public abstract class DeviceContract<T extends Device> {
    /** A device that has not been connected yet, always the same one within a test. */
    protected abstract T device() throws Exception;

    /** The clock that the device lives by. */
    protected abstract NightClock clock();

    /** Pulls the device's cable out, or plugs it in again. */
    protected abstract void pull(boolean out) throws Exception;

    /** Something that needs the device to answer. */
    protected abstract Object ask(T device) throws Exception;

    /** The device, connected. */
    protected final T connected() throws Exception {
        T device = device();
        device.connect();
        return device;
    }

    /** Waits for the end of something, which must be {@link Operation.State#DONE}. */
    protected final void done(Operation operation) throws InterruptedException {
        assertThat(operation.device()).isNotBlank();
        assertThat(operation.what()).isNotBlank();
        assertThat(operation.limit()).isGreaterThanOrEqualTo(Duration.ZERO);
        assertThat(operation.await(clock())).isEqualTo(Operation.State.DONE);
        assertThat(operation.state()).as("over stays over").isEqualTo(Operation.State.DONE);
        assertThat(operation.remaining().map(d -> d.isZero()).orElse(true)).isTrue();
        operation.abort();
        assertThat(operation.state()).as("what is over cannot be aborted").isEqualTo(Operation.State.DONE);
    }

    /** Says something that a person can act on: which device, and more than a word. */
    protected final void fails(Callable<?> call) throws Exception {
        String name = device().name();
        assertThatThrownBy(call::call)
                .isInstanceOf(DeviceException.class)
                .hasMessageStartingWith(name + ": ")
                .satisfies(e -> assertThat(e.getMessage().length()).isGreaterThan(name.length() + 20))
                .satisfies(e -> assertThat(((DeviceException) e).device()).isEqualTo(name));
    }

    @Test
    public void itHasANameInTheWordsOfTheField() throws Exception {
        assertThat(device().name()).isNotBlank().isLowerCase();
    }

    @Test
    public void itConnectsAndClosesAsOftenAsOneLikes() throws Exception {
        T device = connected();
        assertThat(device.link()).isEqualTo(Device.Link.CONNECTED);
        device.connect();
        assertThat(ask(device)).isNotNull();
        device.disconnect();
        device.disconnect();
        assertThat(device.link()).isEqualTo(Device.Link.CLOSED);
        fails(() -> ask(device));
        device.connect();
        assertThat(ask(device)).isNotNull();
    }

    @Test
    public void itsLossIsToldAndItComesBack() throws Exception {
        T device = connected();
        pull(true);
        fails(() -> ask(device));
        assertThat(device.link()).isEqualTo(Device.Link.LOST);
        fails(() -> {
            device.connect();
            return "connected to nothing";
        });
        pull(false);
        device.connect();
        assertThat(device.link()).isEqualTo(Device.Link.CONNECTED);
        assertThat(ask(device)).isNotNull();
    }
}
