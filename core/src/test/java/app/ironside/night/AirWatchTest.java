package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.JumpingClock;
import app.ironside.device.DeviceLost;
import app.ironside.device.WeatherStation;
import app.ironside.guide.GuideSample;
import app.ironside.journal.AirMeasured;
import app.ironside.journal.Command;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The weather station is read in every wait, and drops stop the night. */
class AirWatchTest {
    private static final Instant DUSK = Instant.parse("2026-11-14T17:00:00Z");

    private final List<NightEvent> events = new ArrayList<>();
    private final NightControl control = new NightControl();
    private final WeatherStation station = mock(WeatherStation.class);
    private AirWatch watch;

    @BeforeEach
    void atDusk() {
        Journal journal = new Journal() {
            @Override
            public void append(NightEvent event) {
                events.add(event);
            }

            @Override
            public List<NightEvent> events() {
                return List.copyOf(events);
            }

            @Override
            public void guided(GuideSample sample) {}

            @Override
            public List<GuideSample> guiding() {
                return List.of();
            }
        };
        NightRecord record = new NightRecord(journal, new JumpingClock(DUSK.toString()), NightWatcher.NONE);
        watch = new AirWatch(station, record, control);
        when(station.temperatureC()).thenReturn(OptionalDouble.of(4.26));
        when(station.humidityPercent()).thenReturn(OptionalDouble.empty());
        when(station.windMetresPerSecond()).thenReturn(OptionalDouble.of(1.5));
        when(station.skyColderByK()).thenReturn(OptionalDouble.of(21));
    }

    private void lookFor(int minutes) {
        for (int s = 0; s < 60 * minutes; s += 10) {
            watch.look(DUSK.plusSeconds(s));
        }
    }

    @Test
    void theAirIsWrittenDownEveryTenMinutes() {
        lookFor(31);
        assertThat(events).hasSize(4).allSatisfy(e -> assertThat(e)
                .isInstanceOf(AirMeasured.class)
                .extracting(NightEvent::text)
                .isEqualTo("The air: 4.3 °C, wind 1.5 m/s, the sky 21 K colder, dry."));
        assertThat(control.take(c -> true)).isEmpty();
    }

    @Test
    void dropsParkTheMountOnce() {
        when(station.isRaining()).thenReturn(false, false, false, true);
        lookFor(9);
        assertThat(events)
                .filteredOn(AirMeasured.class::isInstance)
                .extracting(e -> ((AirMeasured) e).raining())
                .containsExactly(false, true);
        assertThat(events).filteredOn(FaultTold.class::isInstance).hasSize(1);
        assertThat(control.take(Command.ParkNow.class::isInstance))
                .hasValueSatisfying(order -> assertThat(order.by()).isEqualTo("The weather station"));
        assertThat(control.take(c -> true)).isEmpty();
    }

    /** A station that falls silent is told of once, and is listened to again when it answers. */
    @Test
    void aSilentStationIsToldOfOnce() {
        when(station.isRaining())
                .thenThrow(new DeviceLost("weather station"))
                .thenThrow(new DeviceLost("weather station"))
                .thenReturn(false);
        lookFor(5);
        assertThat(events).hasSize(2);
        assertThat(events.get(0).text())
                .startsWith("weather station: it does not answer")
                .endsWith("nobody tells of rain.");
        assertThat(events.get(1)).isInstanceOf(AirMeasured.class);
    }
}
