package app.ironside.cli;

import app.ironside.calibrate.Masters;
import app.ironside.image.FitsFiles;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;

/** The masters that lights are calibrated with. */
final class MasterOptions {
    @Option(names = "--bias", paramLabel = "M", description = "Master bias; used only without a dark.")
    private Path bias;

    @Option(
            names = "--dark",
            paramLabel = "M",
            description = "Master dark of the lights' exposure, temperature and gain.")
    private Path dark;

    @Option(names = "--flat", paramLabel = "M", description = "Master flat of the lights' filter, mean 1.")
    private Path flat;

    Masters masters() {
        return new Masters(
                Optional.ofNullable(bias).map(FitsFiles::read),
                Optional.ofNullable(dark).map(FitsFiles::read),
                Optional.ofNullable(flat).map(FitsFiles::read));
    }
}
