package app.ironside.cli;

import app.ironside.logbook.Backup;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "restore",
        description =
                "Takes a backup back into a folder that is empty or not there; every file is proven by its checksum first.")
final class RestoreVerb extends Verb {
    @Parameters(paramLabel = "FILE.zip", description = "The backup.")
    private Path file;

    @Option(names = "--data", paramLabel = "DIR", description = "The folder of the data (default: the user's own).")
    private Path data;

    @Override
    Answer answer() {
        Backup.Told told = Backup.restore(file, Optional.ofNullable(data).orElseGet(Wiring::usersData), progress());
        return Answer.done(Answer.facts("files", told.files(), "bytes", told.bytes()));
    }
}
