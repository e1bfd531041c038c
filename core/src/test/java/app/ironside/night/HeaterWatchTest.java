package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.when;

import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.device.PowerBox;
import app.ironside.device.WeatherStation;
import app.ironside.journal.HeatersSwitched;
import app.ironside.journal.JournalInMemory;
import java.time.Duration;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * Heaters follow the air. At 10 °C the dew point is 3.3 °C at 63 % and 7.9 °C at 87 % (Magnus' formula with WMO's constants, by hand), so
 * that glass three degrees below the air stands 3.7 above it, and 0.9 below.
 */
class HeaterWatchTest {
    private final JumpingClock clock = new JumpingClock("2026-11-14T20:00:00Z");
    private final JournalInMemory journal = new JournalInMemory();
    private final WeatherStation air = Mocks.device(WeatherStation.class);
    private final PowerBox power = Mocks.device(PowerBox.class);
    private final HeaterWatch watch = new HeaterWatch(air, power, new NightRecord(journal, clock, NightWatcher.NONE));
    private boolean on;

    @BeforeEach
    void theHeatersDrawWhenTheyAreOn() {
        doAnswer(call -> on = call.getArgument(0)).when(power).heat(anyBoolean());
        when(power.heaterWatts()).thenAnswer(call -> on ? 14.0 : 0);
    }

    private boolean after(double humidityPercent) throws InterruptedException {
        when(air.temperatureC()).thenReturn(OptionalDouble.of(10));
        when(air.humidityPercent()).thenReturn(OptionalDouble.of(humidityPercent));
        clock.await(Duration.ofMinutes(5));
        watch.look(clock.now());
        return on;
    }

    @Test
    void theyGoOnBeforeTheDewAndOffWellAfterIt() throws Exception {
        assertThat(after(63)).as("3.7 °C above the dew point").isFalse();
        assertThat(after(87)).isTrue();
        assertThat(after(63)).as("not yet dry enough to be off again").isTrue();
        assertThat(after(50)).isFalse();
        List<HeatersSwitched> told = journal.events().stream()
                .filter(HeatersSwitched.class::isInstance)
                .map(HeatersSwitched.class::cast)
                .toList();
        assertThat(told).extracting(HeatersSwitched::on).containsExactly(true, false);
        assertThat(told.get(0).text())
                .isEqualTo(
                        "The heaters are on: by 10.0 °C and 87 % of humidity, glass under the sky is 0.9 °C below the dew point.");
    }

    /** Ready switches them on to see whether they draw: where the air is dry they are switched off again, whatever was done before. */
    @Test
    void whoeverSwitchedThemOnDryAirSwitchesThemOff() throws Exception {
        assertThat(after(87)).isTrue();
        assertThat(after(50)).isFalse();
        on = true;
        assertThat(after(50)).isFalse();
    }

    @Test
    void whereNothingTellsOfTheAirTheyStayAsTheyAre() throws Exception {
        on = true;
        when(air.temperatureC()).thenReturn(OptionalDouble.of(10));
        when(air.humidityPercent()).thenReturn(OptionalDouble.empty());
        watch.look(clock.now());
        assertThat(on).isTrue();
        assertThat(journal.events()).isEmpty();
    }
}
