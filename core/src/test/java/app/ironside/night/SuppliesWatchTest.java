package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.JumpingClock;
import app.ironside.Mocks;
import app.ironside.device.PowerBox;
import app.ironside.device.WeatherStation;
import app.ironside.journal.AlertRaised;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.FaultTold;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.SubTaken;
import app.ironside.journal.Trouble;
import app.ironside.kit.Kit;
import app.ironside.kit.KitFile;
import app.ironside.sky.Interval;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;
import org.mockito.Mockito;

/** What runs out before the lights do is told once, in time; by figures that a hand can follow. */
class SuppliesWatchTest {
    private static final Instant BEGAN = Instant.parse("2026-11-14T20:00:00Z");
    private static final Instant END = Instant.parse("2026-11-15T04:00:00Z");

    private final JumpingClock clock = new JumpingClock(BEGAN.toString());
    private final JournalInMemory journal = new JournalInMemory();
    private final NightRecord record = new NightRecord(journal, clock, NightWatcher.NONE);

    /** Lark, whose lights of 3 000 x 2 000 pixels take 12 MB. */
    private static Kit kit(double card, double battery) {
        return KitFile.parse(
                Examples.text("kits/lark.json")
                        .replace("\"cardGigabytes\": 64", "\"cardGigabytes\": " + card)
                        .replace("\"batteryWattHours\": 74", "\"batteryWattHours\": " + battery),
                "lark.json");
    }

    private void planned() {
        record.tell(new BlockPlanned(
                BEGAN, "", "M 33", 400, 60, new Interval(BEGAN, END), Optional.empty(), BEGAN, 70, 8, 6, 90));
    }

    private void sub() {
        SubTaken sub = Mockito.mock(SubTaken.class);
        Instant now = clock.now();
        when(sub.time()).thenReturn(now);
        when(sub.exposed()).thenReturn(new Interval(now.minusSeconds(60), now));
        record.tell(sub);
    }

    private List<String> told() {
        return journal.events().stream()
                .filter(FaultTold.class::isInstance)
                .map(e -> ((FaultTold) e).text())
                .toList();
    }

    /** 2.4 GB hold 200 lights; at one a minute, the forty-fifth minute before that is the 156th light. */
    @Test
    void aCardIsToldOfInTimeForAWalk() throws Exception {
        SuppliesWatch watch = watch(kit(2.4, 900), Optional.empty(), Optional.empty());
        planned();
        int at = 0;
        for (int i = 1; i <= 230; i++) {
            clock.await(Duration.ofMinutes(1));
            sub();
            watch.look(clock.now());
            at = at == 0 && !told().isEmpty() ? i : at;
        }
        assertThat(at).isBetween(156, 160);
        assertThat(told()).singleElement().satisfies(t -> assertThat(t)
                .startsWith("The camera's card of 2 GB has room for 4")
                .contains("lights go on until 04:00"));
        assertThat(journal.events())
                .filteredOn(AlertRaised.class::isInstance)
                .as("hands are needed before it is full")
                .singleElement()
                .matches(e -> ((AlertRaised) e).wake() && ((AlertRaised) e).trouble() == Trouble.DISK);
    }

    /** 100 Wh at 5 °C: four fifths, and 0.8 % less for each of 20 K, are 67.2 Wh; at 24 W 2 h 48 min, 45 min before that 2 h 3 min. */
    @Test
    void aBatteryIsToldOfByItsMeter() throws Exception {
        PowerBox power = Mocks.device(PowerBox.class);
        WeatherStation air = Mocks.device(WeatherStation.class);
        when(power.watts()).thenReturn(24.0);
        when(air.temperatureC()).thenReturn(OptionalDouble.of(5));
        SuppliesWatch watch = watch(kit(64, 100), Optional.of(power), Optional.of(air));
        planned();
        Instant at = null;
        while (clock.now().isBefore(BEGAN.plus(Duration.ofHours(4)))) {
            clock.await(Duration.ofMinutes(1));
            watch.look(clock.now());
            at = at == null && !told().isEmpty() ? clock.now() : at;
        }
        assertThat(Duration.between(BEGAN, at).toMinutes()).isBetween(123L, 129L);
        assertThat(told()).singleElement().satisfies(t -> assertThat(t)
                .contains("measured, of 67 that can be taken from it at 5 °C: at 24 W it lasts until 22:4"));
    }

    @Test
    void whatLastsIsNotSpokenOf() throws Exception {
        SuppliesWatch watch = watch(kit(64, 74), Optional.empty(), Optional.empty());
        planned();
        for (int i = 0; i < 480; i++) {
            clock.await(Duration.ofMinutes(1));
            sub();
            watch.look(clock.now());
        }
        assertThat(told()).isEmpty();
    }

    private SuppliesWatch watch(Kit kit, Optional<PowerBox> power, Optional<WeatherStation> air) {
        return new SuppliesWatch(
                kit, ZoneOffset.UTC, FrameArchive.ofNames(Path.of("night"), List.of()), power, air, record);
    }
}
