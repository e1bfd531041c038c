package app.ironside.cli;

import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.stack.Crop;
import app.ironside.stack.Footprint;
import app.ironside.stack.NothingToStack;
import app.ironside.stack.StackMaps;
import app.ironside.stack.StackResult;
import app.ironside.stack.StackSettings;
import app.ironside.stack.Stacker;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "stack",
        description =
                "Aligns lights by their stars, brings them to one light and sky, and averages them by weight. Frames of a mosaic give a"
                        + " cube of red, green and blue. Levels in ADU.")
final class StackVerb extends Verb {
    @Parameters(arity = "1..*", paramLabel = "LIGHTS", description = "FITS or TIFF images of one field and size.")
    private List<Path> lights;

    @Mixin
    private MasterOptions options;

    @Option(names = "--out", required = true, paramLabel = "OUT", description = "The stack, 32-bit FITS.")
    private Path out;

    @Mixin
    private StackOptions how;

    @Override
    Answer answer() {
        StackSettings settings = new StackSettings(how.rejection(), how.keepAll(), how.maxMemoryBytes())
                .withMaps(how.maps())
                .withDrizzle(how.drizzle());
        Destination.mustDiffer(lights);
        List<Path> inputs = new ArrayList<>(lights);
        inputs.addAll(options.files());
        Destination.file(out, "option --out", inputs);
        Path maps = mapsBeside(out);
        if (how.maps()) {
            Destination.file(maps, "the maps beside --out", inputs);
        }
        long began = System.nanoTime();
        Calibrator calibrator = options.calibrator(lights);
        Stacker stacker = new Stacker(
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES),
                Workers.ALL_CORES,
                settings);
        StackResult result;
        try {
            result = stacker.stack(lights, calibrator, progress());
        } catch (NothingToStack e) {
            return Answer.impossible(
                    e.getMessage(),
                    Answer.facts("frames", lights.size(), "kept", 0, "rejected", rejected(e.rejected())));
        }
        Optional<Crop> crop = result.crop();
        boolean cuts = how.crop() && crop.isPresent();
        FitsFiles.writePlanes(out, cut(result.planes(), cuts, crop));
        if (how.maps()) {
            StackMaps told = result.maps().orElseThrow();
            FitsFiles.writePlanes(
                    maps, StackMaps.NAMES.size(), plane -> cuts ? crop.get().of(told.plane(plane)) : told.plane(plane));
        }
        return Answer.done(Answer.facts(
                "frames", lights.size(),
                "kept", result.kept().size(),
                "rejected", rejected(result.rejected()),
                "widthPx", cuts ? crop.get().width() : result.picture().width(),
                "heightPx", cuts ? crop.get().height() : result.picture().height(),
                "crop", crop.map(StackVerb::told).orElse(null),
                "cropped", cuts,
                "maps", how.maps() ? maps.toString() : null,
                "referenceFile", result.reference().toString(),
                "rejectedPixelFraction", rounded(result.rejectedPixelFraction(), 6),
                "noiseAdu", rounded(result.noiseAdu(), 4),
                "snrGainOverOneSub", rounded(result.gain().measured(), 3),
                "snrGainPossible", rounded(result.gain().possible(), 3),
                "snrGainError", rounded(result.gain().error(), 3),
                "drizzle", result.drizzled().map(d -> drizzled(d, result)).orElse(null),
                "bent", Footprint.bends(result.footprints()).orElse(null),
                "planes", result.planes().size(),
                "weights",
                        result.contributions().stream()
                                .map(c -> Answer.facts("file", c.file().toString(), "weight", rounded(c.weight(), 4)))
                                .toList(),
                "pedestalAdu", calibrator.pedestalAdu(),
                "elapsedMs", rounded((System.nanoTime() - began) / 1e6, 1),
                "peakMemoryMb", rounded(StackOptions.peakMemoryMb(), 1),
                "out", out.toString()));
    }

    private static Map<String, Object> drizzled(StackResult.Drizzled d, StackResult result) {
        return Answer.facts(
                "scale", rounded(d.how().scale(), 3),
                "drop", rounded(d.how().drop(), 3),
                "weightSpread", rounded(d.spread(), 3),
                "even", d.isEven(),
                "fwhmPx", rounded(d.fwhmPx(), 3),
                "interpolatedFwhmPx", rounded(d.plainFwhmPx(), 3),
                "interpolatedSnrGainOverOneSub", rounded(d.plainGain().measured(), 3),
                "pixelNoiseBelowLargeScale", rounded(d.how().noiseRatio(), 3),
                "words", d.words(result.gain()));
    }

    private static List<Frame> cut(List<Frame> planes, boolean cuts, Optional<Crop> crop) {
        return cuts ? planes.stream().map(crop.get()::of).toList() : planes;
    }

    private static Path mapsBeside(Path out) {
        String name = out.getFileName().toString();
        int dot = name.lastIndexOf('.');
        return out.resolveSibling((dot < 0 ? name : name.substring(0, dot)) + " maps.fits");
    }

    /** In FITS pixels of the uncut stack. */
    static Map<String, Object> told(Crop crop) {
        return Answer.facts(
                "firstX",
                crop.left() + 1,
                "firstY",
                crop.bottom() + 1,
                "widthPx",
                crop.width(),
                "heightPx",
                crop.height());
    }

    private static List<Map<String, Object>> rejected(List<StackResult.Rejected> rejected) {
        return rejected.stream()
                .map(r -> Answer.facts("file", r.file().toString(), "reason", r.reason()))
                .toList();
    }
}
