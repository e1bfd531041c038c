package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.MasterPixels;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsBands;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
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

    @Option(names = "--flat", paramLabel = "M", description = "Master flat of the lights' filter, 1 in its middle.")
    private Path flat;

    /** The files of the masters. */
    List<Path> files() {
        return Stream.of(bias, dark, flat).filter(Objects::nonNull).toList();
    }

    /**
     * A calibrator for some lights.
     *
     * @throws BadInputException naming the option and the file of a master that does not fit the first light
     */
    Calibrator calibrator(List<Path> lights) {
        Masters all = masters();
        try (FitsBands first = FitsBands.open(lights.get(0))) {
            fits("--bias", bias, all.bias(), first);
            fits("--dark", dark, all.dark(), first);
            fits("--flat", flat, all.flat(), first);
        }
        return Calibrator.withPedestalFor(lights, all);
    }

    /** A calibrator that adds no pedestal, for measuring. */
    Calibrator bareCalibrator() {
        return new Calibrator(masters(), 0);
    }

    private Masters masters() {
        return new Masters(read(bias), read(dark), read(flat));
    }

    private static Optional<MasterPixels> read(Path file) {
        return Optional.ofNullable(file).map(MasterPixels::in);
    }

    private static void fits(String option, Path file, Optional<MasterPixels> master, FitsBands light) {
        try {
            master.ifPresent(m -> Calibrator.mustFit(option.substring(2), m, light.width(), light.height()));
        } catch (BadInputException e) {
            throw e.in("option " + option + " " + file);
        }
    }
}
