package app.ironside.cli;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.calibrate.MasterBuilder;
import app.ironside.calibrate.MasterKind;
import app.ironside.calibrate.MasterPixels;
import app.ironside.calibrate.MasterVerdict;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "master", description = "Combines calibration frames into a master, by clipped mean. Levels in ADU.")
final class MasterVerb extends Verb {
    @Option(names = "--kind", required = true, paramLabel = "KIND", description = "bias, dark, flat or flat-dark.")
    private String kindName;

    @Parameters(arity = "1..*", paramLabel = "FILES", description = "FITS or TIFF images of one size.")
    private List<Path> files;

    @Option(names = "--out", required = true, paramLabel = "OUT", description = "The master, 32-bit FITS.")
    private Path out;

    @Option(names = "--bias", paramLabel = "M", description = "Master bias to take off flats.")
    private Path bias;

    @Option(
            names = "--flat-dark",
            paramLabel = "M",
            description = "Master flat dark to take off flats, instead of the bias.")
    private Path flatDark;

    @Override
    Answer answer() {
        MasterKind kind = Arrays.stream(MasterKind.values())
                .filter(k -> k.word().equals(kindName))
                .findFirst()
                .orElseThrow(() -> badOption("--kind", "is \"" + kindName + "\"", "bias, dark, flat or flat-dark"));
        if (kind != MasterKind.FLAT && (bias != null || flatDark != null)) {
            throw badOption(
                    bias != null ? "--bias" : "--flat-dark",
                    "is given for a master " + kind.word(),
                    "it for flats only: darks keep their bias");
        }
        Destination.mustDiffer(files);
        List<Path> inputs = new ArrayList<>(files);
        Stream.of(bias, flatDark).filter(Objects::nonNull).forEach(inputs::add);
        Destination.file(out, "option --out", inputs);
        Optional<MasterPixels> subtract =
                Optional.ofNullable(flatDark != null ? flatDark : bias).map(MasterPixels::in);
        Frame master = new MasterBuilder(Workers.ALL_CORES).build(kind, files, subtract, progress());
        float[] sample = Statistics.sample(master, 200_000);
        if (sample.length == 0) {
            throw new BadInputException(files.get(0).toString(), "and the others have no pixel with a value", "frames");
        }
        FitsFiles.write(out, master, FitsFiles.Encoding.FLOAT_32);
        Statistics.Spread spread = Statistics.robust(sample);
        MasterVerdict verdict = MasterVerdict.of(kind, files, master, subtract);
        return Answer.done(Answer.facts(
                "kind", kind.word(),
                "frames", files.size(),
                "widthPx", master.width(),
                "heightPx", master.height(),
                "level", rounded(spread.centre(), 5),
                "spread", rounded(spread.sigma(), 5),
                "sound", verdict.isSound(),
                "verdict", verdict.sentences(),
                "out", out.toString()));
    }
}
