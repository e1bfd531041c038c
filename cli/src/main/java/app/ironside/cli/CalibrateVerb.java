package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "calibrate", description = "Calibrates lights into 32-bit FITS files. Levels in ADU.")
final class CalibrateVerb extends Verb {
    @Parameters(arity = "1..*", paramLabel = "LIGHTS", description = "FITS images.")
    private List<Path> lights;

    @Mixin
    private MasterOptions options;

    @Option(names = "--out", required = true, paramLabel = "DIR", description = "Folder for the calibrated lights.")
    private Path out;

    @Override
    Answer answer() {
        try {
            Files.createDirectories(out);
        } catch (IOException e) {
            throw new BadInputException("option --out", out + " cannot be made", "a folder that may be written to", e);
        }
        Calibrator calibrator = Calibrator.withPedestalFor(lights, options.masters());
        List<Map<String, Object>> written = new ArrayList<>();
        for (int i = 0; i < lights.size(); i++) {
            Path light = lights.get(i);
            progress().step("calibrating " + light.getFileName(), (double) i / lights.size());
            Frame calibrated = calibrator.calibrated(FitsFiles.read(light));
            Path file = out.resolve(light.getFileName());
            if (Files.exists(file) && isSame(file, light)) {
                throw new BadInputException(
                        "option --out", "is the folder of the lights", "another folder: inputs stay as they are");
            }
            FitsFiles.write(file, calibrated, FitsFiles.Encoding.FLOAT_32);
            long atZero = countAtOrBelowZero(calibrated);
            written.add(Answer.facts("file", file.toString(), "pixelsAtOrBelowZero", atZero));
        }
        return Answer.done(
                Answer.facts("calibrated", written.size(), "pedestalAdu", calibrator.pedestalAdu(), "files", written));
    }

    private static boolean isSame(Path a, Path b) {
        try {
            return Files.isSameFile(a, b);
        } catch (IOException e) {
            throw new BadInputException(a.toString(), "cannot be compared with " + b, "readable files", e);
        }
    }

    private static long countAtOrBelowZero(Frame frame) {
        long count = 0;
        for (float v : frame.pixels()) {
            count += v <= 0 ? 1 : 0;
        }
        return count;
    }
}
