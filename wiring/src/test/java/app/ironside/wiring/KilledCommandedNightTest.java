package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.journal.Command;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightStarted;
import app.ironside.journal.NightState;
import app.ironside.journal.ProgramRevised;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.EventRow;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A night that is commanded and re-planned in a process of its own is killed at any instant and goes on. */
class KilledCommandedNightTest {
    /** More by hand: -Dkills=200. */
    private static final int KILLS = Integer.getInteger("kills", 2);

    private static final int SHORTEST_LIFE_MILLIS = 1500;
    private static final int LONGEST_LIFE_MILLIS = 20_000;

    @TempDir
    Path folder;

    /** What the killed process runs: a night, and somebody who does not leave it alone. */
    public static final class Night {
        private Night() {}

        public static void main(String[] arguments) throws Exception {
            Wiring wiring = new Wiring(Workers.ALL_CORES);
            Logbook logbook = Logbook.open(Path.of(arguments[0]));
            NightFile file = NightFile.parse(CommandsTest.smallNight(60, 3), "night.json", wiring.objects());
            NightEntry entry = logbook.unfinished()
                    .orElseGet(() ->
                            logbook.begin("killed", "night-" + logbook.nights().size(), file.text()));
            NightControl control = new NightControl();
            Random random = new Random(Long.parseLong(arguments[1]));
            Thread person = new Thread(() -> command(control, random));
            person.setDaemon(true);
            person.start();
            wiring.rehearsal(file, logbook, entry, SteppedClock::new, NightWatcher.NONE, control)
                    .engine()
                    .run();
        }

        private static void command(NightControl control, Random random) {
            try {
                while (true) {
                    TimeUnit.MILLISECONDS.sleep(100 + random.nextInt(1500));
                    Command next = control.isHeld()
                            ? new Command.GoOn()
                            : random.nextInt(4) == 0
                                    ? new Command.Replan(CommandsTest.smallNight(40 + random.nextInt(40), 3))
                                    : CommandsTest.any(random);
                    control.give(next, "Ada", "at random", Instant.EPOCH);
                }
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        }
    }

    private void runAndKill(int round, Random random) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx2g",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Night.class.getName(),
                        folder.toString(),
                        String.valueOf(round))
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        long life = SHORTEST_LIFE_MILLIS + random.nextInt(LONGEST_LIFE_MILLIS - SHORTEST_LIFE_MILLIS);
        if (!process.waitFor(life, TimeUnit.MILLISECONDS)) {
            process.destroyForcibly();
        }
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    }

    /** Law: what the journal held before a kill, it holds after any number of them, in its order; each sub is told once and can be read. */
    @Test
    void nothingToldIsLostAndTheProgramInForceStays() throws Exception {
        Random random = new Random(KILLS);
        List<EventRow> before = List.of();
        int night = 0;
        for (int round = 0; round < KILLS; round++) {
            runAndKill(round, random);
            try (Logbook logbook = Logbook.open(folder)) {
                List<NightEntry> nights = logbook.nights();
                if (nights.size() > night + 1) {
                    before = List.of();
                    night = nights.size() - 1;
                }
                if (nights.isEmpty()) {
                    continue;
                }
                List<NightEvent> now = logbook.journal(nights.get(night)).events();
                List<EventRow> rows = now.stream().map(EventCodec::write).toList();
                assertThat(rows.size()).as("round %d", round).isGreaterThanOrEqualTo(before.size());
                for (int i = 0; i < before.size(); i++) {
                    assertThat(rows.get(i)).as("round %d, event %d", round, i).isEqualTo(before.get(i));
                }
                subsAreWhole(nights.get(night), now);
                assertThat(now.stream().filter(NightStarted.class::isInstance).count())
                        .isLessThanOrEqualTo(1);
                if (NightState.of(now).ended()) {
                    // A night begins anew with the next round.
                    assertThat(logbook.unfinished()).isEmpty();
                }
                inForceIsWhatWasRevisedLast(nights.get(night), now);
                before = rows;
            }
        }
    }

    private static void subsAreWhole(NightEntry night, List<NightEvent> events) {
        Set<String> files = new HashSet<>();
        for (SubTaken sub : NightState.of(events).subs()) {
            assertThat(files.add(sub.file())).as("told once: %s", sub.file()).isTrue();
            assertThat(FitsFiles.read(night.folder().resolve(sub.file())).pixels())
                    .isNotEmpty();
        }
    }

    /** The next process reads the program from the journal, and not from the file that the night began with. */
    private static void inForceIsWhatWasRevisedLast(NightEntry night, List<NightEvent> events) {
        Optional<ProgramRevised> revised = NightState.of(events).last(ProgramRevised.class);
        revised.ifPresent(r -> {
            Wiring wiring = new Wiring(Workers.SERIAL);
            NightFile inForce = NightFile.parse(r.document(), night.title(), wiring.objects());
            NightFile begun = NightFile.parse(night.document(), night.title(), wiring.objects());
            assertThat(begun.differsInProgramOnly(inForce)).isTrue();
            double seconds = inForce.program().targets().get(0).longestSubSeconds();
            Instant from = r.time();
            assertThat(NightState.of(events).subs().stream()
                            .filter(s -> s.exposed().from().isAfter(from))
                            .filter(s -> !s.foundAfterStop())
                            .map(SubTaken::seconds))
                    .allMatch(s -> s <= seconds);
        });
    }
}
