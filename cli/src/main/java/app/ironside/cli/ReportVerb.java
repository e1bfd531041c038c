package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.document.NightReport;
import app.ironside.document.Project;
import app.ironside.document.ProjectReport;
import app.ironside.journal.NightState;
import app.ironside.logbook.Gathering;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "report",
        description =
                "Tells a night of the logbook on paper, or with --target a picture of many nights: what was kept, how it went, what went wrong,"
                        + " and what to do next. PDF, or a page where FILE ends in .html.")
final class ReportVerb extends Verb {
    @Option(names = "--out", required = true, paramLabel = "FILE", description = "Where to.")
    private Path out;

    @Option(
            names = "--night",
            paramLabel = "DATE",
            description = "The evening, for example 2026-11-14 (default: the last night that began).")
    private Optional<String> night;

    @Option(
            names = "--target",
            paramLabel = "NAME",
            description = "Of a target: what all nights gathered of it, what is wanted, and what is left.")
    private Optional<String> target;

    @Option(names = "--data", paramLabel = "DIR", description = "The folder of the data (default: the user's own).")
    private Path data;

    /** A night with what happened in it. */
    private record Told(NightEntry entry, NightFile file, NightState state) {}

    @Override
    Answer answer() {
        if (night.isPresent() && target.isPresent()) {
            throw new BadInputException("--target", "a report is of one night or of one target", "one of the two");
        }
        Path folder = Optional.ofNullable(data).orElseGet(Wiring::usersData);
        if (!Logbook.isIn(folder)) {
            throw new BadInputException(folder.toString(), "there is no logbook there", "the folder of one");
        }
        Wiring wiring = new Wiring(Workers.ALL_CORES);
        try (Logbook logbook = Logbook.open(folder)) {
            if (target.isPresent()) {
                return project(logbook, wiring.objects(), target.get());
            }
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

    private Answer project(Logbook logbook, DeepSkyCatalogue objects, String name) {
        String known = Project.sameName(name.strip(), objects);
        List<Gathering> all = Project.all(logbook, objects);
        Gathering of = all.stream()
                .filter(g -> g.target().equalsIgnoreCase(known))
                .findFirst()
                .orElseThrow(() -> new BadInputException(
                        "--target",
                        "no night of " + logbook.folder() + " kept light of " + name,
                        all.isEmpty()
                                ? "a logbook whose nights kept light"
                                : "one of "
                                        + String.join(
                                                ", ",
                                                all.stream()
                                                        .map(Gathering::target)
                                                        .toList())));
        Project project = Project.of(of, logbook, objects, Optional.empty(), LocalDate.now());
        new ProjectReport(project).write(out);
        return Answer.done(Answer.facts(
                "target", of.target(),
                "rehearsed", of.rehearsed(),
                "nights", project.nights().size(),
                "hoursKept", of.kept(),
                "hoursWanted", project.wanted(),
                "sentence", project.sentence(),
                "file", out.toString()));
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
