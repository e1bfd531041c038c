package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Printable;
import app.ironside.TextFiles;
import app.ironside.Workers;
import app.ironside.device.DeviceException;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.document.RehearsedFault;
import app.ironside.image.Destination;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightEvent;
import app.ironside.journal.NightState;
import app.ironside.logbook.FolderLock;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.night.NightWork;
import app.ironside.sim.FaultTruth;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SteppedClock;
import app.ironside.wiring.ManyNights;
import app.ironside.wiring.NightRun;
import app.ironside.wiring.Outcome;
import app.ironside.wiring.SwiftNight;
import app.ironside.wiring.Wiring;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "rehearse", description = "Runs a whole night against the simulated observatory on a virtual clock.")
final class RehearseVerb extends Verb {
    private static final int MOST_NIGHTS = 10_000;

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

    @Option(
            names = "--no-pixels",
            description = "Frames are not drawn; what measuring them would give is worked out. An answer in seconds.")
    private boolean noPixels;

    @Option(
            names = "--nights",
            paramLabel = "K",
            description =
                    "As many nights of a year, each with weather, seeing and faults of its own seed; without pixels.")
    private Integer nights;

    @Option(
            names = "--fault",
            paramLabel = "KIND@HH:MM[+MINUTES]",
            description =
                    "Something goes wrong at a time; may be given again and again. See docs/FILES.md for the kinds.")
    private List<String> faults = List.of();

    @Override
    Answer answer() throws InterruptedException {
        String text = TextFiles.read(file, "a night file as in examples/");
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        List<RehearsedFault> more = faults.stream().map(FaultOption::parse).toList();
        NightFile night;
        try {
            NightFile parsed = NightFile.parse(text, file.toString(), wiring.objects());
            wiring.check(parsed);
            night = withFaults(seed == null ? parsed : parsed.withSeed(seed), more);
        } catch (BadInputException e) {
            throw e.in(file.toString());
        }
        if (noPixels || nights != null) {
            return swift(wiring, night);
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

    private static NightFile withFaults(NightFile night, List<RehearsedFault> more) {
        if (more.isEmpty()) {
            return night;
        }
        SimSettings settings = night.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        List<RehearsedFault> all = new ArrayList<>(settings.faults());
        all.addAll(more);
        return night.withObservatory(settings.withFaults(all));
    }

    /** Without pixels: nothing is kept, there are no frames to keep. */
    private Answer swift(Wiring wiring, NightFile night) throws InterruptedException {
        if (keep != null) {
            throw badOption(
                    "--keep", "asks for frames that a rehearsal without pixels does not have", "the one or the other");
        }
        if (nights != null && (nights < 1 || nights > MOST_NIGHTS)) {
            throw badOption("--nights", "is " + nights, "1 to " + MOST_NIGHTS);
        }
        long first = seed == null
                ? night.observatoryOver(SimSettings.DEFAULT, SimSettings.class).seed()
                : seed;
        NightFile one = nights == null ? night : ManyNights.drawn(night, first);
        SwiftNight run = wiring.swift(one, new JournalInMemory(), SteppedClock::new, teller(night), new NightControl());
        Answer answer = answer(run.engine(), run::state, run.observatory().faults(), night);
        if (nights == null) {
            return answer;
        }
        Outcome outcome = new ManyNights(wiring).run(night, first, nights, progress());
        Map<String, Object> facts = new LinkedHashMap<>(answer.facts());
        facts.remove("reason");
        facts.put("outcome", RehearsalFacts.of(outcome));
        return Answer.done(facts);
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
        NightRun run = wiring.rehearsal(night, logbook, entry, SteppedClock::new, teller(night));
        return answer(
                run.engine(),
                () -> NightState.of(run.journal().events()),
                run.observatory().orElseThrow().faults(),
                night);
    }

    /** Each event on standard error as it comes. */
    private NightWatcher teller(NightFile night) {
        PrintWriter err = commandLine().getErr();
        return new NightWatcher() {
            @Override
            public void event(NightEvent event) {
                err.println(time(event.time(), night.site().zone()) + "  " + Printable.line(event.text()));
                err.flush();
            }
        };
    }

    private static Answer answer(NightWork engine, Supplier<NightState> state, List<FaultTruth> truth, NightFile night)
            throws InterruptedException {
        String reason = "";
        try {
            engine.run();
        } catch (DeviceException e) {
            reason = e.getMessage();
        } catch (UncheckedIOException e) {
            if (truth.stream().noneMatch(f -> f.kind() == FaultKind.DISK_FULL)) {
                throw e;
            }
            reason = e.getMessage();
        }
        NightState end = state.get();
        Map<String, Object> facts = RehearsalFacts.of(end, truth, night.site());
        if (reason.isEmpty()) {
            reason = RehearsalFacts.nothingKept(end);
        }
        return reason.isEmpty() ? Answer.done(facts) : Answer.impossible(reason, facts);
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
