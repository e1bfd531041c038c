package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.TextFiles;
import app.ironside.Workers;
import app.ironside.device.DeviceException;
import app.ironside.image.Destination;
import app.ironside.logbook.FolderLock;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.EventKind;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SteppedClock;
import app.ironside.wiring.NightRun;
import app.ironside.wiring.Wiring;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "rehearse", description = "Runs a whole night against the simulated observatory on a virtual clock.")
final class RehearseVerb extends Verb {
    @Parameters(paramLabel = "NIGHT.json", description = "Site, kit and program; see examples/.")
    private Path file;

    @Option(names = "--seed", paramLabel = "N", description = "Replaces the seed of the file.")
    private Long seed;

    @Option(
            names = "--keep",
            paramLabel = "DIR",
            description =
                    "Keep frames, masters, stacks and the journal in this folder; a stopped rehearsal there goes on.")
    private Path keep;

    @Override
    Answer answer() throws InterruptedException {
        String text = TextFiles.read(file, "a night file as in examples/");
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        NightFile parsed = NightFile.parse(text, file.toString(), wiring.objects());
        NightFile night = seed == null ? parsed : parsed.withSeed(seed);
        try {
            wiring.check(night);
        } catch (BadInputException e) {
            throw e.in(file.toString());
        }
        if (keep == null) {
            Path folder = temporary();
            try {
                return run(wiring, night, folder);
            } finally {
                delete(folder);
            }
        }
        Destination.folder(keep, "option --keep");
        try (FolderLock lock = FolderLock.take(keep)
                .orElseThrow(() -> badOption(
                        "--keep",
                        keep + " is in use by another Ironside",
                        "a folder of its own for each rehearsal; wait for the other, or choose another"))) {
            return run(wiring, night, lock.folder());
        }
    }

    /** The night that was left in a folder, if it is this one: under another program it would be another night. */
    private Optional<NightEntry> left(Logbook logbook, NightFile night, Wiring wiring) {
        Optional<NightEntry> left = logbook.unfinished();
        left.filter(entry -> !NightFile.parse(entry.document(), entry.title(), wiring.objects())
                        .sameNight(night))
                .ifPresent(entry -> {
                    throw badOption(
                            "--keep",
                            keep + " holds an unfinished night of another program (" + entry.title() + ")",
                            "its own night file and seed to go on with it, or another folder");
                });
        return left;
    }

    private Answer run(Wiring wiring, NightFile night, Path folder) throws InterruptedException {
        Logbook logbook = Logbook.open(folder);
        NightEntry entry = left(logbook, night, wiring)
                .orElseGet(() -> logbook.begin(
                        "Rehearsal of " + night.program().date(),
                        "night-" + night.program().date() + "-"
                                + (logbook.nights().size() + 1),
                        night.text()));
        PrintWriter err = commandLine().getErr();
        ZoneId zone = night.site().zone();
        NightWatcher watcher = new NightWatcher() {
            @Override
            public void event(NightEvent event) {
                err.println(time(event.time(), zone) + "  " + Printable.line(event.text()));
                err.flush();
            }
        };
        NightRun run = wiring.rehearsal(night, logbook, entry, SteppedClock::new, watcher);
        String reason = "";
        try {
            run.engine().run();
        } catch (DeviceException e) {
            reason = e.getMessage();
        }
        Map<String, Object> facts = summary(run, zone);
        return reason.isEmpty() ? Answer.done(facts) : Answer.impossible(reason, facts);
    }

    private static Map<String, Object> summary(NightRun run, ZoneId zone) {
        List<NightEvent> events = run.journal().events();
        List<Map<String, Object>> told = events.stream()
                .map(e -> Answer.facts(
                        "time", time(e.time(), zone),
                        "kind", e.kind().name(),
                        "text", e.text()))
                .toList();
        double planned = events.stream()
                .filter(e -> e.kind() == EventKind.PLAN)
                .mapToDouble(e -> e.number("subs").orElse(0))
                .sum();
        return Answer.facts(
                "subsPlanned", (long) planned,
                "subsTaken", count(events, EventKind.SUB),
                "subsKept",
                        events.stream()
                                .filter(e -> e.kind() == EventKind.SUB && e.isTrue("keep"))
                                .count(),
                "meridianFlips", count(events, EventKind.FLIP),
                "focusRuns", count(events, EventKind.FOCUS),
                "recentres", Math.max(0, recentres(events)),
                "faults", count(events, EventKind.FAULT),
                "events", told);
    }

    /** Centrings beyond the one at each start and flip. */
    private static long recentres(List<NightEvent> events) {
        long starts = events.stream()
                .filter(e -> e.kind() == EventKind.STAGE
                        && e.text("stage").orElse("").equals("POINT"))
                .count();
        return count(events, EventKind.CENTRED) - starts - count(events, EventKind.FLIP);
    }

    private static long count(List<NightEvent> events, EventKind kind) {
        return events.stream().filter(e -> e.kind() == kind).count();
    }

    private static Path temporary() {
        try {
            return Files.createTempDirectory("ironside-rehearsal");
        } catch (IOException e) {
            throw new BadInputException("temporary folder", "cannot be made", "room on the disk, or --keep DIR", e);
        }
    }

    private static void delete(Path folder) {
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path path : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(path);
            }
        } catch (IOException e) {
            throw new UncheckedIOException(folder + " could not be removed", e);
        }
    }
}
