package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.TextFiles;
import app.ironside.Workers;
import app.ironside.device.DeviceException;
import app.ironside.document.NightFile;
import app.ironside.image.Destination;
import app.ironside.journal.BlockPlanned;
import app.ironside.journal.FaultTold;
import app.ironside.journal.Flipped;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.GateOverruled;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.journal.SubTaken;
import app.ironside.journal.TargetCentred;
import app.ironside.logbook.EventCodec;
import app.ironside.logbook.FolderLock;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
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
        try (Logbook logbook = Logbook.open(folder)) {
            logbook.rescued().ifPresent(commandLine().getErr()::println);
            return run(wiring, night, logbook);
        }
    }

    private Answer run(Wiring wiring, NightFile night, Logbook logbook) throws InterruptedException {
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
        NightState end = NightState.of(run.journal().events());
        Map<String, Object> facts = summary(end, zone);
        if (reason.isEmpty()) {
            reason = nothingKept(end);
        }
        return reason.isEmpty() ? Answer.done(facts) : Answer.impossible(reason, facts);
    }

    /** Why a night that went to its end has no light to show, in the words of what it told last; empty where it has. */
    private static String nothingKept(NightState night) {
        if (night.kept() > 0) {
            return "";
        }
        if (!night.subs().isEmpty()) {
            return "none of " + night.subs().size() + " subs was kept: "
                    + night.subs().get(night.subs().size() - 1).text();
        }
        List<FaultTold> faults = night.all(FaultTold.class);
        return "no sub was taken"
                + (faults.isEmpty() ? "" : ": " + faults.get(faults.size() - 1).text());
    }

    private static Map<String, Object> summary(NightState night, ZoneId zone) {
        List<Map<String, Object>> told = night.events().stream()
                .map(e -> Answer.facts("time", time(e.time(), zone), "kind", EventCodec.kindOf(e), "text", e.text()))
                .toList();
        return Answer.facts(
                "subsPlanned",
                (long) night.all(BlockPlanned.class).stream()
                        .mapToInt(BlockPlanned::subs)
                        .sum(),
                "subsTaken",
                (long) night.subs().size(),
                "subsKept",
                (long) night.kept(),
                "meridianFlips",
                (long) night.all(Flipped.class).size(),
                "focusRuns",
                (long) night.all(FocusSwept.class).size(),
                "recentres",
                (long) recentres(night),
                "lightSeconds",
                night.subs().stream()
                        .filter(SubTaken::kept)
                        .mapToDouble(SubTaken::seconds)
                        .sum(),
                "overruled",
                night.all(GateOverruled.class).stream()
                        .map(o -> Answer.facts("stage", o.stage().title(), "sentence", o.text()))
                        .toList(),
                "faults",
                (long) night.all(FaultTold.class).size(),
                "events",
                told);
    }

    /** Centrings beyond the one at each start and flip. */
    private static int recentres(NightState night) {
        int starts = (int) night.all(StageBegan.class).stream()
                .filter(s -> s.stage() == Stage.POINT)
                .count();
        return Math.max(
                0,
                night.all(TargetCentred.class).size()
                        - starts
                        - night.all(Flipped.class).size());
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
