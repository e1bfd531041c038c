package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.FaultTruth;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Each fault alone, in a night without pixels: it acts when and as it was set, the night ends in order, and the mount is parked. */
class FaultsTest {
    private static final LocalTime AT = LocalTime.of(22, 12);

    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);
    private static NightState undisturbed;

    /** A night with its truth. */
    private record Rehearsed(NightState state, List<FaultTruth> truth, boolean parked, String reason) {}

    private static NightFile night() throws Exception {
        return NightFile.parse(CommandsTest.smallNight(60, 3), "night.json", WIRING.objects());
    }

    private static Rehearsed with(FaultKind kind) throws Exception {
        return run(List.of(new RehearsedFault(kind, AT, Optional.empty(), Optional.empty())));
    }

    private static Rehearsed run(List<RehearsedFault> faults) throws Exception {
        NightFile file = night();
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        SwiftNight night = WIRING.swift(
                file.withObservatory(settings.withFaults(faults)),
                new JournalInMemory(),
                SteppedClock::new,
                NightWatcher.NONE,
                new NightControl());
        String reason = "";
        try {
            night.engine().run();
        } catch (UncheckedIOException e) {
            reason = e.getMessage();
        }
        return new Rehearsed(
                night.state(),
                night.observatory().faults(),
                night.observatory().devices().mount().isParked(),
                reason);
    }

    private static NightState undisturbed() throws Exception {
        if (undisturbed == null) {
            undisturbed = run(List.of()).state();
        }
        return undisturbed;
    }

    @ParameterizedTest
    @EnumSource(FaultKind.class)
    void aNightWithAFaultEndsInOrder(FaultKind kind) throws Exception {
        Rehearsed night = with(kind);
        Instant set = AT.atDate(night().program().date())
                .atZone(night().site().zone())
                .toInstant();
        assertThat(night.truth()).singleElement().satisfies(truth -> {
            assertThat(truth.kind()).isEqualTo(kind);
            assertThat(truth.from()).isEqualTo(set);
            assertThat(Duration.between(truth.from(), truth.until()).toMinutes())
                    .isEqualTo(kind.usualMinutes());
        });
        assertThat(night.parked()).as("the mount is parked").isTrue();
        if (kind == FaultKind.DISK_FULL) {
            assertThat(night.reason()).startsWith("The disk is full");
        } else {
            assertThat(night.state().ended()).isTrue();
        }
        assertThat(before(night.state(), set))
                .as("until then it is the night that it would have been")
                .isEqualTo(before(undisturbed(), set));
        acts(kind, night.state(), set);
    }

    private static List<SubTaken> before(NightState night, Instant time) {
        return night.subs().stream().filter(s -> s.time().isBefore(time)).toList();
    }

    /** What shows that it acted, in what the night measured. */
    private static void acts(FaultKind kind, NightState night, Instant set) throws Exception {
        switch (kind) {
            case CLOUD, DEW, FROST -> assertThat(
                            least(night, set, s -> s.measures().starFluxAdu().orElse(0)))
                    .isLessThan(0.9
                            * least(undisturbed(), set, s -> s.measures()
                                    .starFluxAdu()
                                    .orElse(0)));
            case FOG, STRAY_LIGHT, MOON, TWILIGHT -> assertThat(
                            most(night, set, s -> s.measures().skyAdu().orElse(0)))
                    .isGreaterThan(1.2
                            * most(undisturbed(), set, s -> s.measures()
                                    .skyAdu()
                                    .orElse(0)));
            case SEEING, FOCUSER_SLIP -> assertThat(
                            most(night, set, s -> s.measures().hfrPx().orElse(0)))
                    .isGreaterThan(1.15
                            * most(undisturbed(), set, s -> s.measures().hfrPx().orElse(0)));
            case WIND, GEAR_ERROR -> assertThat(most(night, set, FaultsTest::guiding))
                    .isGreaterThan(1.3 * most(undisturbed(), set, FaultsTest::guiding));
            case CONTACT,
                    KNOCK,
                    MOUNT_STUCK,
                    WRONG_GUIDE_STAR,
                    GUIDE_STAR_LOST,
                    POWER_DIP,
                    CAMERA_LOST,
                    FOCUSER_LOST -> assertThat(night.subs())
                    .isNotEqualTo(undisturbed().subs());
            case WRONG_FILTER, SPOT, CABLE, BALANCE, POLAR_ERROR, TRAILING_EXPOSURE, DISK_FULL -> assertThat(
                            night.subs())
                    .isNotEqualTo(undisturbed().subs());
        }
    }

    private static double guiding(SubTaken sub) {
        return sub.guiding().rmsTotalArcsec().orElse(0);
    }

    private static double least(NightState night, Instant from, ToDoubleFunction<SubTaken> value) {
        return night.subs().stream()
                .filter(s -> s.exposed().from().isAfter(from))
                .mapToDouble(value)
                .min()
                .orElseThrow();
    }

    private static double most(NightState night, Instant from, ToDoubleFunction<SubTaken> value) {
        return night.subs().stream()
                .filter(s -> s.exposed().from().isAfter(from))
                .mapToDouble(value)
                .max()
                .orElseThrow();
    }
}
