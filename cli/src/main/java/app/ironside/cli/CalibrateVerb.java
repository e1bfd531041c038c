package app.ironside.cli;

import app.ironside.calibrate.CalibrationProof;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
        Optional<Map<String, Object>> proof = Optional.empty();
        for (int i = 0; i < lights.size(); i++) {
            Path light = lights.get(i);
            progress().step("calibrating " + light.getFileName(), (double) i / lights.size());
            Frame raw = FrameFiles.read(light);
            Frame calibrated = calibrator.calibrated(raw);
            if (i == lights.size() / 2 && !options.files().isEmpty()) {
                proof = Optional.of(proof(light, raw, calibrated, calibrator));
            }
            Path file = results.get(light);
            FitsFiles.write(file, calibrated, FitsFiles.Encoding.FLOAT_32);
            long atZero = countAtOrBelowZero(calibrated);
            written.add(Answer.facts("file", file.toString(), "pixelsAtOrBelowZero", atZero));
        }
        Map<String, Object> facts =
                Answer.facts("calibrated", written.size(), "pedestalAdu", calibrator.pedestalAdu(), "files", written);
        proof.ifPresent(p -> facts.put("proof", p));
        return Answer.done(facts);
    }

    /** Whether the masters are those of the lights, by the one in the middle. */
    private static Map<String, Object> proof(Path light, Frame raw, Frame calibrated, Calibrator calibrator) {
        CalibrationProof proof = CalibrationProof.of(raw, calibrator.masters(), calibrated, calibrator.pedestalAdu());
        Map<String, Object> facts = Answer.facts("file", light.toString(), "sound", proof.isSound());
        facts.put("cornersBefore", told(proof.cornersBefore()));
        facts.put("cornersAfter", told(proof.cornersAfter()));
        facts.put("dustBefore", proof.dust().map(d -> d.before().value()).orElse(null));
        facts.put("dustAfter", proof.dust().map(d -> d.after().value()).orElse(null));
        facts.put(
                "hotPixelsOverDark",
                proof.hot().map(CalibrationProof.Ratio::value).orElse(null));
        facts.put("sentences", proof.sentences());
        return facts;
    }

    private static Double told(double value) {
        return Double.isNaN(value) ? null : value;
    }

    private static long countAtOrBelowZero(Frame frame) {
        long count = 0;
        for (float v : frame.pixels()) {
            count += v <= 0 ? 1 : 0;
        }
        return count;
    }
}
