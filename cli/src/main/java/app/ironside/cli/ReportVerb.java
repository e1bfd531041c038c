package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.document.NightReport;
import app.ironside.journal.NightState;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "report",
        description =
                "Tells a night of the logbook on paper: what was kept, how the subs went, what went wrong, and what to do next time."
                        + " PDF, or a page where FILE ends in .html.")
final class ReportVerb extends Verb {
    @Option(names = "--out", required = true, paramLabel = "FILE", description = "Where to.")
    private Path out;

    @Option(
            names = "--night",
            paramLabel = "DATE",
            description = "The evening, for example 2026-11-14 (default: the last night that began).")
    private Optional<String> night;

    @Option(names = "--data", paramLabel = "DIR", description = "The folder of the data (default: the user's own).")
    private Path data;

    /** A night with what happened in it. */
    private record Told(NightEntry entry, NightFile file, NightState state) {}

    @Override
    Answer answer() {
        Path folder = Optional.ofNullable(data).orElseGet(Wiring::usersData);
        if (!Logbook.isIn(folder)) {
            throw new BadInputException(folder.toString(), "there is no logbook there", "the folder of one");
        }
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        try (Logbook logbook = Logbook.open(folder)) {
            List<NightEntry> newestFirst = new ArrayList<>(logbook.nights());
            Collections.reverse(newestFirst);
            Told told = newestFirst.stream()
                    .map(n -> told(logbook, n, wiring))
                    .flatMap(Optional::stream)
                    .findFirst()
                    .orElseThrow(() -> new BadInputException(
                            folder.toString(),
                            night.map(n -> "no night of the evening " + n + " was begun there")
                                    .orElse("no night was begun there"),
                            "a night of the logbook, its evening as 2026-11-14"));
            NightReport.of(told.file(), told.state(), Optional.of(told.entry().folder()))
                    .write(out);
            return Answer.done(Answer.facts(
                    "night", told.file().program().date().toString(),
                    "subs", told.state().subs().size(),
                    "kept", told.state().kept(),
                    "file", out.toString()));
        }
    }

    /** A night of the wanted evening that began. */
    private Optional<Told> told(Logbook logbook, NightEntry entry, Wiring wiring) {
        NightFile file = NightFile.parse(entry.document(), entry.title(), wiring.objects());
        if (night.isPresent()
                && !night.get().strip().equals(file.program().date().toString())) {
            return Optional.empty();
        }
        NightState state = NightState.of(logbook.journal(entry).events());
        return state.started() ? Optional.of(new Told(entry, file, state)) : Optional.empty();
    }
}
