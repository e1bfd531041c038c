package app.ironside.cli;

import app.ironside.logbook.Backup;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "backup",
        description =
                "Writes all that Ironside keeps for a person into one file: logbook, profiles, wishes, stars to go by. The desk may be"
                        + " open meanwhile.")
final class BackupVerb extends Verb {
    @Parameters(paramLabel = "FILE.zip", description = "Where to.")
    private Path file;

    @Option(names = "--data", paramLabel = "DIR", description = "The folder of the data (default: the user's own).")
    private Path data;

    @Option(names = "--frames", description = "The nights' frames too.")
    private boolean frames;

    @Override
    Answer answer() {
        Backup.Told told =
                Backup.write(Optional.ofNullable(data).orElseGet(Wiring::usersData), file, frames, progress());
        return Answer.done(Answer.facts("files", told.files(), "bytes", told.bytes()));
    }
}
