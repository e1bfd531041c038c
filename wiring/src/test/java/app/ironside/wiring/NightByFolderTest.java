package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Camera;
import app.ironside.device.Devices;
import app.ironside.device.Hands;
import app.ironside.device.NightClock;
import app.ironside.device.Operation;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.MasterMade;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.StackMade;
import app.ironside.journal.StepProven;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sim.SteppedClock;
import app.ironside.sky.Equatorial;
import app.ironside.sky.NightTimes;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A whole real night with a lens on a tracker: no motor anywhere, frames from a folder. Another program writes them as such programs do:
 * bit by bit, under odd names, with its own words in the header, one of them twice, one broken off, by a clock that is an hour behind.
 */
@Order(6)
class NightByFolderTest {
    private static final int SUBS = 8;

    private static final DateTimeFormatter FITS_TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss.SSS");

    @TempDir
    Path disk;

    private final Wiring wiring = new Wiring(Workers.ALL_CORES);
    private Path folder;

    @BeforeEach
    void aFolder() throws IOException {
        folder = Files.createDirectories(disk.resolve("card").resolve("Bilder für heute"));
    }

    /** Stands at the telescope: turns what is to be turned, and exposes what is asked for with a program of its own. */
    private final class Person implements Hands {
        private final Devices devices;
        private final NightClock clock;
        private final List<Instant> opened = new ArrayList<>();
        private final List<Path> written = new ArrayList<>();
        private Optional<Operation> exposing = Optional.empty();
        private Camera.Exposure wanted = Camera.Exposure.light(Duration.ZERO);

        /** What is still to be written of the file that is being written, and since when. */
        private Optional<Path> growing = Optional.empty();

        private byte[] rest = {};
        private Instant since = Instant.MIN;
        private int frames;

        Person(Devices devices, NightClock clock) {
            this.devices = devices;
            this.clock = clock;
        }

        @Override
        public void turn(double altitudeTurns, double azimuthTurns) throws InterruptedException {
            devices.hands().turn(altitudeTurns, azimuthTurns);
        }

        @Override
        public void confirm(String what) throws InterruptedException {
            devices.hands().confirm(what);
        }

        @Override
        public boolean alignByReticle(String what) throws InterruptedException {
            return devices.hands().alignByReticle(what);
        }

        @Override
        public boolean isSo(String what) throws InterruptedException {
            return devices.hands().isSo(what);
        }

        @Override
        public void focus(int steps, double stepUm) throws InterruptedException {
            devices.hands().focus(steps, stepUm);
        }

        @Override
        public void point(Optional<Equatorial> from, Equatorial to) throws InterruptedException {
            devices.hands().point(from, to);
        }

        @Override
        public void turnAxis(double degrees) throws InterruptedException {
            devices.hands().turnAxis(degrees);
        }

        @Override
        public void track(boolean on) throws InterruptedException {
            devices.hands().track(on);
        }

        @Override
        public void expose(Camera.Exposure exposure) {
            switch (exposure.kind()) {
                case LIGHT -> devices.panel().open();
                case DARK, BIAS -> devices.panel().cover();
                case FLAT -> devices.panel().light(0.5);
            }
            wanted = new Camera.Exposure(exposure.length(), exposure.kind(), 1, Optional.empty());
            opened.add(clock.now());
            exposing = Optional.of(devices.camera().start(wanted));
        }

        @Override
        public void exposed() {
            exposing.ifPresent(Operation::abort);
            exposing = Optional.empty();
        }

        /** As time goes by. */
        void lookRound() {
            try {
                if (growing.isPresent() && Duration.between(since, clock.now()).toMillis() > 600) {
                    Files.write(growing.get(), rest);
                    written.add(growing.get());
                    growing = Optional.empty();
                } else if (exposing.filter(e -> e.state() == Operation.State.DONE)
                        .isPresent()) {
                    exposing = Optional.empty();
                    write(devices.camera().download());
                }
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        private void write(Frame frame) throws IOException {
            Instant began = frame.header().start().orElseThrow();
            Header header = Header.EMPTY
                    .with("EXPOSURE", frame.header().exposureSeconds().orElseThrow())
                    .with("DATE-OBS", FITS_TIME.format(began.minusSeconds(3600).atOffset(ZoneOffset.UTC)))
                    .with("IMAGETYP", wanted.kind().word() + " Frame")
                    .with("SATURATE", frame.header().number("SATURATE").orElseThrow());
            Path aside = disk.resolve("aside.fits");
            FitsFiles.write(aside, frame.withHeader(header), FitsFiles.Encoding.UNSIGNED_16);
            rest = Files.readAllBytes(aside);
            frames++;
            if (frames % 9 == 4) {
                // The program fell over while it wrote this one.
                Files.write(folder.resolve("broken " + frames + ".fits"), Arrays.copyOf(rest, rest.length / 3));
            }
            if (frames % 9 == 7) {
                Files.copy(written.get(written.size() - 1), folder.resolve("again " + frames + ".fits"));
            }
            String[] names = {"IMG %04d.FIT", "capture-(%d) copy.fits", "größer %d.fts", "L_%d.v2.fit"};
            growing = Optional.of(Files.createDirectories(folder.resolve("set " + frames % 3))
                    .resolve(String.format(names[frames % names.length], frames)));
            Files.write(growing.get(), Arrays.copyOf(rest, rest.length / 2));
            since = clock.now();
        }
    }

    /** The person looks round whenever time has gone by. */
    private static final class Evening implements NightClock {
        private final SteppedClock clock;
        private Optional<Person> person = Optional.empty();

        Evening(Instant start) {
            clock = new SteppedClock(start);
        }

        @Override
        public Instant now() {
            return clock.now();
        }

        @Override
        public void await(Duration time) throws InterruptedException {
            clock.await(time);
            person.ifPresent(Person::lookRound);
        }
    }

    private NightFile night() throws IOException {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(ByHandNightTest.night());
        night.withObject("/kit/equipment/drivers/camera")
                .put("driver", "Folder, shutter by hand")
                .put("address", folder.toString());
        ((ObjectNode) night.at("/kit/sensor")).put("widthPx", 900).put("heightPx", 680);
        ((ObjectNode) night.at("/program/targets/0")).put("mostSubs", SUBS);
        ((ObjectNode) night.at("/program/calibrations"))
                .put("darks", 2)
                .put("bias", 2)
                .put("flatsPerFilter", 2);
        return NightFile.parse(json.writeValueAsString(night), "folder.json", wiring.objects());
    }

    @Test
    void fromPlanToStack() throws Exception {
        NightFile file = night();
        Instant sunset =
                NightTimes.of(file.site(), file.program().date()).sunset().orElseThrow();
        Evening evening = new Evening(sunset);
        SimulatedObservatory observatory = new SimulatedObservatory(
                file.site(),
                file.kit(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                new SkySource(wiring.stars(), wiring.objects()),
                evening,
                sunset,
                Workers.ALL_CORES);
        Person person = new Person(observatory.devices(), evening);
        evening.person = Optional.of(person);
        try (Logbook logbook = Logbook.open(disk.resolve("logbook"))) {
            NightEntry entry = logbook.begin("lark", "night", file.text());
            NightRun run = wiring.night(
                    file,
                    logbook,
                    entry,
                    new LiveVenue(wiring.drivers(), evening, Workers.ALL_CORES, watcher -> person),
                    NightWatcher.NONE,
                    new NightControl());
            run.engine().run();
            NightState night = NightState.of(run.journal().events());
            List<String> told =
                    night.all(FaultTold.class).stream().map(FaultTold::text).toList();
            assertThat(night.last(NightStarted.class).orElseThrow().provenance())
                    .isEqualTo(Provenance.BY_FOLDER);
            assertThat(night.all(StepProven.class)).as("%s", told).allMatch(StepProven::proven);
            assertThat(night.ended()).isTrue();

            AxisMeasured axis = night.last(AxisMeasured.class).orElseThrow();
            double[] truth = observatory.polarErrorArcmin();
            assertThat(Math.hypot(axis.altitudeErrorArcmin(), axis.azimuthErrorArcmin()))
                    .isCloseTo(Math.hypot(truth[0], truth[1]), within(1.5));
            assertThat(night.all(FocusSwept.class)).isNotEmpty();

            assertThat(night.subs())
                    .as("%s", told)
                    .hasSize(SUBS)
                    .allMatch(SubTaken::kept)
                    .as("a real night keeps all its light")
                    .allMatch(SubTaken::full);
            for (SubTaken sub : night.subs()) {
                assertThat(person.opened)
                        .as("the shutter's own time, by a clock that is right")
                        .contains(sub.exposed().from());
                assertThat(sub.exposed().duration()).isEqualTo(Duration.ofSeconds(30));
            }
            assertThat(night.all(MasterMade.class)).hasSize(3);
            StackMade stack = night.last(StackMade.class).orElseThrow();
            assertThat(stack.kept()).isEqualTo(SUBS);
            assertThat(entry.folder().resolve(stack.file())).exists();

            assertThat(told)
                    .contains("The camera's clock is 1 h behind: the times of its frames are put right by that.")
                    .anyMatch(t -> t.contains("broken 4.fits")
                            && t.endsWith("It is left aside, and the next frame that comes is taken."))
                    .anyMatch(t -> t.startsWith("again 7.fits holds the same frame as "))
                    .allMatch(t -> t.contains("clock")
                            || t.contains("broken ")
                            || t.contains("again ")
                            || t.contains("count as what they are"));
            assertThat(person.written)
                    .as("what the other program wrote is its own")
                    .allMatch(Files::exists);
        }
    }
}
