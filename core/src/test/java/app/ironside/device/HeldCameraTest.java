package app.ironside.device;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.JumpingClock;
import app.ironside.Mocks;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The temperature of the sensor is looked at for as long as it is to be held. */
class HeldCameraTest {
    private final JumpingClock clock = new JumpingClock("2026-11-14T20:00:00Z");
    private final Camera camera = Mocks.device(Camera.class);
    private final HeldCamera held = new HeldCamera(camera, clock);

    @BeforeEach
    void answers() {
        when(camera.coolerPower()).thenReturn(OptionalDouble.of(1));
        when(camera.remarks()).thenReturn(List.of());
    }

    /** What is remarked when the sensor is read every two minutes. */
    private List<String> told(double... temperatures) throws InterruptedException {
        List<String> told = new ArrayList<>();
        for (double temperature : temperatures) {
            when(camera.sensorTemperatureC()).thenReturn(temperature);
            told.addAll(held.remarks());
            clock.await(Duration.ofMinutes(2));
        }
        return told;
    }

    @Test
    void aSensorThatDriftsAwayIsToldOnceAndItsReturnToo() throws Exception {
        held.coolTo(-10);
        verify(camera).coolTo(-10);
        assertThat(told(12, 2, -6, -9.8, -10, -10.3)).as("it is on its way").isEmpty();
        assertThat(told(-7.6, -10)).as("one reading is none").isEmpty();
        assertThat(told(-8.8, -8.1, -7.4, -7.0))
                .containsExactly(
                        "The sensor stands at -8.1 °C and was held at -10, its cooler at 100 %: look at its supply and fan, or"
                                + " choose a warmer set point. Subs from here on need darks of their own temperature.");
        assertThat(told(-9.2, -9.7, -10)).containsExactly("The sensor is back at -9.7 °C.");
    }

    @Test
    void aSensorThatIsToWarmUpIsLeftAlone() throws Exception {
        held.coolTo(-10);
        assertThat(told(-10)).isEmpty();
        held.warmUp();
        verify(camera).warmUp();
        assertThat(told(-4, 2, 8)).isEmpty();
    }

    @Test
    void betweenTwoLooksNothingIsAsked() throws Exception {
        held.coolTo(-10);
        when(camera.sensorTemperatureC()).thenReturn(-10.0, 5.0, 5.0, 5.0);
        for (int look = 0; look < 4; look++) {
            assertThat(held.remarks()).isEmpty();
            clock.await(Duration.ofSeconds(20));
        }
    }
}
