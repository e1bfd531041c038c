package app.ironside.cli;

import app.ironside.calibrate.Calibrator;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
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
    @Parameters(arity = "1..*", paramLabel = "LIGHTS", description = "FITS or TIFF images.")
    private List<Path> lights;

    @Mixin
    private MasterOptions options;

    @Option(names = "--out", required = true, paramLabel = "DIR", description = "Folder for the calibrated lights.")
    private Path out;

    @Override
    Answer answer() {
        Destination.folder(out, "option --out");
        Map<Path, Path> results = Destination.oneEach(out, lights, "option --out");
        // A light's result may carry a master's name: the masters are inputs too.
        results.values().forEach(file -> Destination.file(file, "option --out", options.files()));
        Calibrator calibrator = options.calibrator(lights);
        List<Map<String, Object>> written = new ArrayList<>();
        for (int i = 0; i < lights.size(); i++) {
            Path light = lights.get(i);
            progress().step("calibrating " + light.getFileName(), (double) i / lights.size());
            Frame calibrated = calibrator.calibrated(FrameFiles.read(light));
            Path file = results.get(light);
            FitsFiles.write(file, calibrated, FitsFiles.Encoding.FLOAT_32);
            long atZero = countAtOrBelowZero(calibrated);
            written.add(Answer.facts("file", file.toString(), "pixelsAtOrBelowZero", atZero));
        }
        return Answer.done(
                Answer.facts("calibrated", written.size(), "pedestalAdu", calibrator.pedestalAdu(), "files", written));
    }

    private static long countAtOrBelowZero(Frame frame) {
        long count = 0;
        for (float v : frame.pixels()) {
            count += v <= 0 ? 1 : 0;
        }
        return count;
    }
}
