package app.ironside.sample;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.contract.FocuserContract;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceDriver.Setup;
import app.ironside.device.DeviceException;
import app.ironside.device.DeviceRole;
import app.ironside.device.Focuser;
import app.ironside.device.NightClock;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ServiceLoader;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The line focuser against a small machine of its kind on this computer: everything that any focuser must do. */
class LineFocuserTest extends FocuserContract {
    private LineMachine machine;
    private Focuser focuser;

    @BeforeEach
    void aMachineThatAnswers() throws IOException {
        machine = new LineMachine();
        focuser = new LineFocuser("localhost", machine.port());
    }

    @AfterEach
    void switchedOff() {
        machine.close();
    }

    @Override
    protected Focuser device() {
        return focuser;
    }

    @Override
    protected NightClock clock() {
        return new NightClock() {
            @Override
            public Instant now() {
                return Instant.now();
            }

            @Override
            public void await(Duration time) throws InterruptedException {
                Thread.sleep(Math.min(20, time.toMillis()));
            }
        };
    }

    @Override
    protected void pull(boolean out) throws IOException {
        if (out) {
            machine.close();
        } else {
            machine.open();
        }
    }

    @Test
    void itIsFoundAndNamesABadAddress() {
        DeviceDriver driver = ServiceLoader.load(DeviceDriver.class).stream()
                .map(ServiceLoader.Provider::get)
                .filter(d -> d.name().equals("Line focuser"))
                .findFirst()
                .orElseThrow();
        assertThat(driver.roles()).containsExactly(DeviceRole.FOCUSER);
        assertThat(driver.device(DeviceRole.FOCUSER, new Setup(null, null, "localhost:4030", clock(), null, false)))
                .isInstanceOf(DeviceRole.FOCUSER.port());
        for (String wrong : new String[] {"", "localhost", "localhost:", "localhost:port", ":4030"}) {
            assertThatThrownBy(
                            () -> driver.device(DeviceRole.FOCUSER, new Setup(null, null, wrong, clock(), null, false)))
                    .isInstanceOf(DeviceException.class)
                    .hasMessageContaining("host:port");
        }
    }

    @Test
    void anotherDeviceAtItsAddressIsTold() throws Exception {
        focuser.connect();
        machine.babble(true);
        fails(() -> focuser.positionSteps());
    }
}
