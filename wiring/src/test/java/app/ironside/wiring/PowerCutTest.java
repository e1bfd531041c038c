package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.image.AtomicFile;
import app.ironside.image.FitsFiles;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightResumed;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.FrameArchive;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A night in a process of its own is killed without warning, again and again; each time it goes on, and nothing finished is lost. */
@Order(3)
class PowerCutTest {
    @TempDir
    Path folder;

    /** The night that is killed: few pixels, so that kills fall everywhere in it. */
    static String document() throws Exception {
        ObjectMapper json = new ObjectMapper();
        ObjectNode night = (ObjectNode) json.readTree(CommandsTest.smallNight(60, 3));
        ObjectNode target = (ObjectNode) night.at("/program/targets/0");
        target.put("until", "22:20:00").putArray("filters").add("L");
        ObjectNode program = (ObjectNode) night.at("/program");
        program.put("fullFramesPerLeg", 1);
        program.withObject("/calibrations").put("darks", 0).put("bias", 1).put("flatsPerFilter", 0);
        ((ObjectNode) night.at("/kit/focuser")).put("startSteps", 2480);
        ((ObjectNode) night.at("/kit/sensor"))
                .put("widthPx", 840)
                .put("heightPx", 630)
                .put("pixelUm", 21);
        return json.writeValueAsString(night);
    }

    /** What the killed process runs. */
    public static final class Night {
        private Night() {}

        public static void main(String[] arguments) throws Exception {
            Wiring wiring = new Wiring(Workers.ALL_CORES);
            Logbook logbook = Logbook.open(Path.of(arguments[0]));
            NightEntry entry = logbook.unfinished().orElseGet(() -> logbook.begin("cut", "night", ""));
            NightFile file = NightFile.parse(document(), "short-night.json", wiring.objects());
            NightWatcher teller = new NightWatcher() {
                @Override
                public void event(NightEvent event) {
                    System.out.println(EventCodec.kindOf(event));
                }
            };
            wiring.rehearsal(file, logbook, entry, SteppedClock::new, teller)
                    .engine()
                    .run();
        }
    }

    private Process start() throws Exception {
        return new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx2g",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Night.class.getName(),
                        folder.toString())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
    }

    /** Lets the night go on until it has told of so many events of a kind, then pulls the plug. */
    private void killAfter(String kind, int times) throws Exception {
        Process process = start();
        try (var told = process.inputReader()) {
            int seen = 0;
            for (String line = told.readLine(); line != null && seen < times; line = told.readLine()) {
                seen += line.equals(kind) ? 1 : 0;
            }
        }
        process.destroyForcibly();
        assertThat(process.waitFor(30, TimeUnit.SECONDS)).isTrue();
    }

    @Test
    void nothingFinishedIsLostAndTheNightGoesOn() throws Exception {
        killAfter("POLAR", 2);
        int gates = journal().size();
        killAfter("SUB", 3);
        List<NightEvent> afterSecond = journal();
        assertThat(afterSecond.size()).isGreaterThan(gates);
        allSubsAreThere(afterSecond);
        plantALostSubAndAHalfWrittenOne(afterSecond);
        Process last = start();
        last.getInputStream().readAllBytes();
        assertThat(last.waitFor(60, TimeUnit.SECONDS)).isTrue();
        List<NightEvent> whole = journal();
        allSubsAreThere(whole);
        assertThat(whole).anyMatch(e -> e.text().contains("1 finished subs were taken in, 1 unfinished files removed"));
        assertThat(whole).filteredOn(NightEnded.class::isInstance).hasSize(1);
        assertThat(whole).filteredOn(NightStarted.class::isInstance).hasSize(1);
        assertThat(whole).filteredOn(NightResumed.class::isInstance).hasSize(2);
        // The polar axis was aligned once and stands; after the first cut it had not passed its gate yet.
        assertThat(whole.stream()
                        .filter(e -> !(e instanceof SubTaken s && s.foundAfterStop()))
                        .map(NightEvent::time))
                .isSorted();
        // The sub that was found is a copy of an earlier one: it keeps that one's time and is measured and judged like
        // any other.
        List<SubTaken> subs = NightState.of(whole).subs();
        SubTaken found =
                subs.stream().filter(SubTaken::foundAfterStop).findFirst().orElseThrow();
        SubTaken original = subs.stream()
                .filter(e -> !e.foundAfterStop())
                .filter(e -> Math.abs(Duration.between(e.time(), found.time()).toSeconds()) < 10)
                .findFirst()
                .orElseThrow();
        assertThat(found.measures().hfrPx().orElseThrow())
                .isCloseTo(original.measures().hfrPx().orElseThrow(), within(1e-6));
        assertThat(found.verdict().reason()).doesNotContain("not yet judged");
        try (Logbook logbook = Logbook.open(folder)) {
            assertThat(logbook.unfinished()).isEmpty();
            assertThat(logbook.rescued()).isEmpty();
        }
    }

    private List<NightEvent> journal() {
        try (Logbook logbook = Logbook.open(folder)) {
            return logbook.journal(logbook.nights().get(0)).events();
        }
    }

    private void allSubsAreThere(List<NightEvent> events) {
        Set<String> files = new HashSet<>();
        for (SubTaken sub : NightState.of(events).subs()) {
            assertThat(files.add(sub.file())).as("told once: %s", sub.file()).isTrue();
            assertThat(FitsFiles.read(folder.resolve("night").resolve(sub.file()))
                            .pixels()
                            .length)
                    .isPositive();
        }
    }

    /** What a cut between writing a frame and telling of it leaves, and one in the middle of writing. */
    private void plantALostSubAndAHalfWrittenOne(List<NightEvent> events) throws Exception {
        SubTaken sub = NightState.of(events).last(SubTaken.class).orElseThrow();
        Path file = folder.resolve("night").resolve(sub.file());
        Files.copy(file, file.resolveSibling("M_33_L_60s_0900.fits"));
        Files.writeString(file.resolveSibling("M_33_L_60s_0901.fits" + AtomicFile.UNFINISHED), "half");
        FrameArchive archive = new FrameArchive(folder.resolve("night"));
        assertThat(archive.lights()).contains(sub.file().replaceFirst("_\\d+\\.fits", "_0900.fits"));
        try (Stream<Path> all = Files.walk(folder)) {
            assertThat(all.map(Path::toFile).filter(File::isFile).map(File::getName))
                    .anyMatch(n -> n.endsWith(AtomicFile.UNFINISHED));
        }
    }
}
