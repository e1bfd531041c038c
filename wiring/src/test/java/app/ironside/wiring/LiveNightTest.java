package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Device;
import app.ironside.device.DeviceDriver;
import app.ironside.device.DeviceRole;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.guide.GuideSample;
import app.ironside.journal.Command;
import app.ironside.journal.FaultTold;
import app.ironside.journal.GuidingProven;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.NightTimes;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A real night, whose devices come from drivers; what stands behind these drivers is the simulated observatory. */
@Order(5)
class LiveNightTest {
    @TempDir
    Path folder;

    private final Wiring wiring = new Wiring(Workers.ALL_CORES);

    /** Time goes on while the night computes, as it does at a telescope: by what is waited for, whoever waits. */
    private static final class OwnTime implements NightClock {
        private final SteppedClock clock;

        OwnTime(Instant start) {
            clock = new SteppedClock(start);
        }

        @Override
        public Instant now() {
            return clock.now();
        }

        @Override
        public boolean runsByItself() {
            return true;
        }

        @Override
        public void await(Duration time) throws InterruptedException {
            clock.await(time);
        }
    }

    /** Connects the simulated devices as if they were real ones. */
    private final class Bench implements DeviceDriver {
        private final NightFile file;
        private Optional<SimulatedObservatory> observatory = Optional.empty();

        Bench(NightFile file) {
            this.file = file;
        }

        SimulatedObservatory observatory(NightClock clock) {
            if (observatory.isEmpty()) {
                observatory = Optional.of(new SimulatedObservatory(
                        file.site(),
                        file.kit(),
                        file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                        new SkySource(wiring.stars(), wiring.objects()),
                        clock,
                        clock.now(),
                        Workers.ALL_CORES));
            }
            return observatory.get();
        }

        @Override
        public String name() {
            return "Bench";
        }

        @Override
        public String about() {
            return "For this test.";
        }

        @Override
        public Set<DeviceRole> roles() {
            return EnumSet.allOf(DeviceRole.class);
        }

        @Override
        public Device device(DeviceRole role, Setup setup) {
            Devices all = observatory(setup.clock()).devices();
            return switch (role) {
                case MOUNT -> all.mount();
                case CAMERA -> all.camera();
                case GUIDE_CAMERA -> all.guideCamera().orElseThrow();
                case FOCUSER -> all.focuser();
                case FILTER_WHEEL -> all.wheel();
                case FLAT_PANEL -> all.panel();
                case ROTATOR -> all.rotator().orElseThrow();
                case WEATHER -> all.weather().orElseThrow();
                case POWER -> all.power().orElseThrow();
            };
        }
    }

    private NightFile night(String driver) throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(CommandsTest.smallNight(60, 3));
        ((ObjectNode) night.at("/kit/sensor"))
                .put("widthPx", 840)
                .put("heightPx", 630)
                .put("pixelUm", 21);
        ((ObjectNode) night.at("/kit/guider"))
                .put("widthPx", 480)
                .put("heightPx", 360)
                .put("pixelUm", 10);
        ObjectNode equipment = (ObjectNode) night.withObject("/kit/equipment");
        ObjectNode drivers = equipment.putObject("drivers");
        for (DeviceRole role : DeviceRole.values()) {
            if (role != DeviceRole.ROTATOR) {
                drivers.putObject(role.word()).put("driver", driver).put("address", "");
            }
        }
        // Nobody turns knobs in this test.
        ((ObjectNode) night.withObject("/observatory"))
                .put("polarAltitudeArcmin", 0.3)
                .put("polarAzimuthArcmin", 0.2);
        return NightFile.parse(json.writeValueAsString(night), "live.json", wiring.objects());
    }

    private NightRun run(NightFile file, Logbook logbook, DeviceDriver driver, NightWatcher watcher) {
        return run(file, logbook, driver, watcher, new NightControl());
    }

    private NightRun run(
            NightFile file, Logbook logbook, DeviceDriver driver, NightWatcher watcher, NightControl control) {
        Instant sunset =
                NightTimes.of(file.site(), file.program().date()).sunset().orElseThrow();
        NightEntry entry = logbook.begin("live", "night", file.text());
        return wiring.night(
                file,
                logbook,
                entry,
                new LiveVenue(List.of(driver), new OwnTime(sunset), Workers.ALL_CORES),
                watcher,
                control);
    }

    /**
     * The guide star is followed while a sub is measured, solved and written; nothing of it passes for a rehearsal. Two subs show it, and
     * then the night is ended.
     */
    @Test
    void guidingGoesOnWhileSubsAreMeasured() throws Exception {
        NightFile file = night("Bench");
        List<GuideSample> guided = new ArrayList<>();
        List<String> asked = new ArrayList<>();
        NightControl control = new NightControl();
        NightWatcher watcher = new NightWatcher() {
            private int subs;

            @Override
            public void guided(GuideSample sample) {
                guided.add(sample);
            }

            @Override
            public void event(NightEvent event) {
                subs += event instanceof SubTaken ? 1 : 0;
                if (event instanceof SubTaken && subs == 2) {
                    control.give(new Command.EndNight(), "Ada", "enough", event.time());
                }
            }

            @Override
            public void confirm(String what) {
                asked.add(what);
            }
        };
        try (Logbook logbook = Logbook.open(folder.resolve("live"))) {
            NightRun run = run(file, logbook, new Bench(file), watcher, control);
            run.engine().run();
            NightState night = NightState.of(run.journal().events());
            assertThat(night.last(NightStarted.class).orElseThrow().provenance())
                    .isEqualTo(Provenance.REAL);
            assertThat(night.ended()).isTrue();
            assertThat(night.subs()).hasSizeGreaterThan(1);
            assertThat(asked).as("what has no motor is asked of the person").anyMatch(a -> a.startsWith("tripod"));
            for (SubTaken sub : night.subs()) {
                assertThat(guided)
                        .as("guide exposures between the shutter's closing and the sub's being told")
                        .anyMatch(g -> !g.time().isBefore(sub.exposed().until())
                                && g.time().isBefore(sub.time()));
            }
            assertThat(logbook.habits()
                            .focusPositions(file.kit().name(), run.entry(), Provenance.REHEARSED, Instant.MIN))
                    .isEmpty();
        }
    }

    /** The camera's cable is pulled in the middle of the second sub, until the night has said so; pixels are not the point. */
    @Test
    void aCameraThatWasLostIsTakenBackAndTheNightGoesOn() throws Exception {
        NightFile file = night("Bench");
        Instant[] pulled = {Instant.MAX};
        SwiftNight[] run = {null};
        NightWatcher watcher = new NightWatcher() {
            @Override
            public void event(NightEvent event) {
                if (event instanceof SubTaken && pulled[0].equals(Instant.MAX)) {
                    pulled[0] = event.time();
                    run[0].observatory().pull("camera", true);
                } else if (event instanceof FaultTold && event.text().contains("does not answer")) {
                    run[0].observatory().pull("camera", false);
                }
            }
        };
        run[0] = wiring.swift(file, new JournalInMemory(), SteppedClock::new, watcher, new NightControl());
        run[0].engine().run();
        NightState night = run[0].state();
        assertThat(night.all(FaultTold.class))
                .extracting(NightEvent::text)
                .contains(
                        "camera: it does not answer. Look at its power and its cable; it is connected again as soon as it answers.",
                        "The camera answers again.");
        assertThat(night.all(GuidingProven.class)).hasSizeGreaterThan(1);
        assertThat(night.subs().stream().filter(s -> s.time().isAfter(pulled[0])))
                .isNotEmpty();
        assertThat(night.ended()).isTrue();
    }

    /** Real devices are not begun with for a night that is over: all its light would be gone, and the caps be asked for. */
    @Test
    void onlyTonightIsBegun() throws Exception {
        NightFile file = night("Bench");
        List<DeviceDriver> drivers = List.of(new Bench(file));
        new LiveVenue(drivers, new OwnTime(Instant.parse("2026-11-14T13:00:00Z")), Workers.ALL_CORES).check(file);
        new LiveVenue(drivers, new OwnTime(Instant.parse("2026-11-15T04:00:00Z")), Workers.ALL_CORES).check(file);
        assertThatThrownBy(() -> new LiveVenue(
                                drivers, new OwnTime(Instant.parse("2026-11-26T17:30:00Z")), Workers.ALL_CORES)
                        .check(file))
                .isInstanceOf(BadInputException.class)
                .hasMessage(
                        "the night of 2026-11-14: is not tonight; expected the date 2026-11-26, chosen at Plan, Tonight");
    }

    @Test
    void aDriverThatIsMissingIsNamedBeforeAnythingMoves() throws Exception {
        NightFile without = NightFile.parse(CommandsTest.smallNight(60, 3), "live.json", wiring.objects());
        NightFile unknown = night("Elsewhere");
        // The drivers that ship are none for a mount: said before a night is written or ended.
        assertThatThrownBy(() -> wiring.checkLive(without))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("names no driver for its mount");
        try (Logbook logbook = Logbook.open(folder.resolve("missing"))) {
            assertThatThrownBy(() -> run(without, logbook, new Bench(without), NightWatcher.NONE))
                    .isInstanceOf(BadInputException.class)
                    .hasMessage(
                            "kit Wren: names no driver for its mount; expected one, chosen at Site and kit; there are [Bench]");
            assertThatThrownBy(() -> run(unknown, logbook, new Bench(unknown), NightWatcher.NONE))
                    .isInstanceOf(BadInputException.class)
                    .hasMessageContaining("names the driver \"Elsewhere\"")
                    .hasMessageContaining("one of [Bench]");
        }
    }
}
