package app.ironside.cli;

import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.stack.Rejection;
import app.ironside.stack.StackResult;
import app.ironside.stack.StackSettings;
import app.ironside.stack.Stacker;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
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
    @Parameters(arity = "1..*", paramLabel = "LIGHTS", description = "FITS images of one field and size.")
    private List<Path> lights;

    @Mixin
    private MasterOptions options;

    @Option(names = "--out", required = true, paramLabel = "OUT", description = "The stack, 32-bit FITS.")
    private Path out;

    @Option(
            names = "--reject",
            paramLabel = "NAME",
            defaultValue = "winsorized",
            description = "none, sigma, winsorized, linear-fit, percentile or min-max (default winsorized).")
    private String reject;

    @Option(names = "--keep-all", description = "Keep soft and trailed lights too.")
    private boolean keepAll;

    @Option(
            names = "--max-memory",
            paramLabel = "MB",
            defaultValue = "600",
            description =
                    "Memory for the bands of lights that are combined at one time, megabytes (default 600); masters, the stack and"
                            + " the star search of whole frames come on top.")
    private long maxMemory;

    @Override
    Answer answer() {
        Rejection rejection = Arrays.stream(Rejection.values())
                .filter(r -> r.word().equals(reject))
                .findFirst()
                .orElseThrow(() -> badOption(
                        "--reject",
                        "is \"" + reject + "\"",
                        String.join(
                                ", ",
                                Arrays.stream(Rejection.values())
                                        .map(Rejection::word)
                                        .toList())));
        if (maxMemory < 16 || maxMemory > 1 << 20) {
            throw badOption("--max-memory", "is " + maxMemory, "megabytes, 16 to 1048576");
        }
        Destination.mustDiffer(lights);
        List<Path> inputs = new ArrayList<>(lights);
        inputs.addAll(options.files());
        Destination.file(out, "option --out", inputs);
        long began = System.nanoTime();
        Calibrator calibrator = options.calibrator(lights);
        Stacker stacker = new Stacker(
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES),
                Workers.ALL_CORES,
                new StackSettings(rejection, keepAll, maxMemory << 20));
        StackResult result = stacker.stack(lights, calibrator, progress());
        FitsFiles.writePlanes(out, result.planes());
        List<Map<String, Object>> rejected = result.rejected().stream()
                .map(r -> Answer.facts("file", r.file().toString(), "reason", r.reason()))
                .toList();
        return Answer.done(Answer.facts(
                "frames", lights.size(),
                "kept", result.kept().size(),
                "rejected", rejected,
                "widthPx", result.picture().width(),
                "heightPx", result.picture().height(),
                "referenceFile", result.reference().toString(),
                "rejectedPixelFraction", rounded(result.rejectedPixelFraction(), 6),
                "noiseAdu", rounded(result.noiseAdu(), 4),
                "snrGainOverOneSub", rounded(result.gain().measured(), 3),
                "snrGainPossible", rounded(result.gain().possible(), 3),
                "snrGainError", rounded(result.gain().error(), 3),
                "planes", result.planes().size(),
                "weights",
                        result.contributions().stream()
                                .map(c -> Answer.facts("file", c.file().toString(), "weight", rounded(c.weight(), 4)))
                                .toList(),
                "pedestalAdu", calibrator.pedestalAdu(),
                "elapsedMs", rounded((System.nanoTime() - began) / 1e6, 1),
                "peakMemoryMb", rounded(peakMemoryMb(), 1),
                "out", out.toString()));
    }

    private static double peakMemoryMb() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                        .mapToLong(pool -> pool.getPeakUsage().getUsed())
                        .sum()
                / 1e6;
    }
}
