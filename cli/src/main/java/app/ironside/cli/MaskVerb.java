package app.ironside.cli;

import app.ironside.focus.MaskPattern;
import app.ironside.focus.MaskReader;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.kit.Optics;
import app.ironside.kit.Sampling;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "mask",
        description =
                "How far a frame taken through a focusing mask of three grids is from focus. Pixels, degrees, micrometres.")
final class MaskVerb extends Verb {
    @Parameters(paramLabel = "FRAME", description = "A frame of bright stars through the mask.")
    private Path file;

    @Option(names = "--before", paramLabel = "FRAME", description = "The frame before the last turn of the focuser.")
    private Path before;

    @Option(names = "--aperture", paramLabel = "MM", description = "Of the telescope; for micrometres.")
    private Double aperture;

    @Option(names = "--focal-length", paramLabel = "MM", description = "Of the telescope; for micrometres.")
    private Double focalLength;

    @Option(names = "--pixel-um", paramLabel = "UM", description = "Of the camera; for micrometres.")
    private Double pixel;

    @Option(
            names = "--lean",
            paramLabel = "WORD",
            defaultValue = "unknown",
            description =
                    "With the straight bars below, the leaning ones open apart or close together: apart, together or unknown (default).")
    private String leanWord;

    @Override
    Answer answer() {
        MaskPattern.Lean lean = Arrays.stream(MaskPattern.Lean.values())
                .filter(l -> l.word().equals(leanWord))
                .findFirst()
                .orElseThrow(() -> badOption("--lean", "is \"" + leanWord + "\"", "apart, together or unknown"));
        Optional<MaskPattern> read = read(file);
        if (read.isEmpty()) {
            return Answer.impossible(
                    "No bright star shows three spikes with one in the middle: expose longer, or look whether the mask is on.",
                    Answer.facts("stars", List.of()));
        }
        MaskPattern pattern = read.get();
        Map<String, Object> facts = Answer.facts(
                "offsetPx", rounded(pattern.offsetPx(), 3),
                "sigmaPx", rounded(pattern.sigmaPx(), 3),
                "middleAngleDeg", rounded(pattern.middleAngleDeg(), 2),
                "spreadDeg", rounded(pattern.spreadDeg(), 2),
                "stars",
                        pattern.stars().stream()
                                .map(s -> Answer.facts(
                                        "x", rounded(s.x(), 2),
                                        "y", rounded(s.y(), 2),
                                        "offsetPx", rounded(s.offsetPx(), 3),
                                        "sigmaPx", rounded(s.sigmaPx(), 3)))
                                .toList());
        if (aperture != null && focalLength != null && pixel != null) {
            Optics optics = optics();
            double zone = Sampling.criticalFocusUm(optics.focalRatio());
            facts.put("defocusUm", rounded(pattern.defocusUm(optics, pixel, lean), 2));
            facts.put("defocusSigmaUm", rounded(pattern.defocusSigmaUm(optics, pixel, lean), 2));
            facts.put("criticalZoneUm", rounded(zone, 2));
            facts.put("inFocus", pattern.defocusUm(optics, pixel, lean) <= zone);
            facts.put(
                    "sentence",
                    pattern.sentence(
                            optics,
                            pixel,
                            lean,
                            zone,
                            Optional.ofNullable(before).flatMap(this::read)));
        }
        return Answer.done(facts);
    }

    private Optics optics() {
        mustBeWithin("--aperture", aperture, 1, 20_000);
        mustBeWithin("--focal-length", focalLength, 1, 100_000);
        mustBeWithin("--pixel-um", pixel, 0.5, 100);
        return new Optics(aperture, focalLength, 0, 1, 0);
    }

    private void mustBeWithin(String option, double value, double least, double most) {
        if (!(value >= least && value <= most)) {
            throw badOption(option, "is " + value, "a number from " + least + " to " + most);
        }
    }

    private Optional<MaskPattern> read(Path path) {
        Frame frame = FrameFiles.read(path);
        return MaskReader.read(frame, finder().find(frame));
    }
}
