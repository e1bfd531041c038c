package app.ironside.cli;

import app.ironside.Workers;
import app.ironside.library.HeadShelf;
import app.ironside.library.Library;
import app.ironside.library.Told;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(
        name = "sort",
        description =
                "Reads the headers of all FITS and TIFF files below some folders, gathers them in sets, and tells which calibration frames"
                        + " fit which lights and what is missing. Exposures in seconds, temperatures in °C, work in minutes.")
final class SortVerb extends Verb {
    @Parameters(
            arity = "1..*",
            paramLabel = "FOLDER",
            description = "Folders with FITS or TIFF images; looked into all the way down.")
    private List<Path> folders;

    @Override
    Answer answer() {
        Path data = Wiring.usersData();
        Library library = Library.read(
                folders,
                path -> false,
                Told.in(data),
                HeadShelf.in(data, Clock.systemUTC()),
                Workers.ALL_CORES,
                progress());
        return Answer.unless(
                library.frames().isEmpty()
                        ? Optional.of("there is no FITS or TIFF image that can be read")
                        : Optional.empty(),
                Answer.facts(
                        "sets", LibraryFacts.sets(library),
                        "matches", LibraryFacts.matches(library),
                        "gaps", LibraryFacts.gaps(library.gaps()),
                        "unusable", LibraryFacts.unusable(library.unusable())));
    }
}
