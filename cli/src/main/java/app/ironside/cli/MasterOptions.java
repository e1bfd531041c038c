package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsBands;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
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
        Masters none = Masters.NONE;
        Optional<Frame> biasFrame = read(bias);
        Optional<Frame> darkFrame = read(dark);
        Optional<Frame> flatFrame = read(flat);
        try (FitsBands first = FitsBands.open(lights.get(0))) {
            fits("--bias", bias, new Masters(biasFrame, none.dark(), none.flat()), first);
            fits("--dark", dark, new Masters(none.bias(), darkFrame, none.flat()), first);
            fits("--flat", flat, new Masters(none.bias(), none.dark(), flatFrame), first);
        }
        return Calibrator.withPedestalFor(lights, new Masters(biasFrame, darkFrame, flatFrame));
    }

    /** A calibrator that adds no pedestal, for measuring. */
    Calibrator bareCalibrator() {
        return new Calibrator(new Masters(read(bias), read(dark), read(flat)), 0);
    }

    private static Optional<Frame> read(Path file) {
        return Optional.ofNullable(file).map(FitsFiles::read);
    }

    private static void fits(String option, Path file, Masters one, FitsBands light) {
        try {
            new Calibrator(one, 0).mustFit(light.width(), light.height());
        } catch (BadInputException e) {
            throw e.in("option " + option + " " + file);
        }
    }
}
