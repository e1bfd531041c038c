package app.ironside.cli;

import app.ironside.Workers;
import app.ironside.colour.ColourFiles;
import app.ironside.colour.ColourPicture;
import app.ironside.colour.Combination;
import app.ironside.image.Destination;
import app.ironside.image.FitsFiles;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "combine",
        description =
                "Makes a colour picture of stacks: brought onto the first's grid, levelled by their common stars and sky. Levels in ADU.")
final class CombineVerb extends Verb {
    @Option(names = "--red", required = true, paramLabel = "FILE", description = "The stack for red.")
    private Path red;

    @Option(names = "--green", required = true, paramLabel = "FILE", description = "The stack for green.")
    private Path green;

    @Option(names = "--blue", required = true, paramLabel = "FILE", description = "The stack for blue.")
    private Path blue;

    @Option(names = "--luminance", paramLabel = "FILE", description = "A stack that gives brightness and detail.")
    private Path luminance;

    @Option(
            names = "--add",
            paramLabel = "FILE:RED:GREEN:BLUE",
            description = "A further filter, blended in by a share of each channel, 0 to 1; may be given again.")
    private List<String> added = List.of();

    @Option(
            names = "--out",
            required = true,
            paramLabel = "OUT",
            description = "The picture: a FITS cube of three planes, or stretched, 16-bit, .tif or .png by its ending.")
    private Path out;

    private record Share(Path file, double red, double green, double blue) {}

    @Override
    Answer answer() {
        List<Share> shares = added.stream().map(CombineVerb::share).toList();
        // One stack may serve two channels.
        List<Path> inputs = new ArrayList<>(
                Stream.of(red, green, blue, luminance).filter(Objects::nonNull).toList());
        shares.forEach(s -> inputs.add(s.file()));
        Destination.file(out, "option --out", inputs);
        if (!ColourFiles.isPossible(out)) {
            throw badOption("--out", "is " + out, "a name that ends in .fits, .tif or .png");
        }
        Combination combination =
                new Combination(new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES));
        ColourPicture picture = combination.combine(
                input(red),
                input(green),
                input(blue),
                Optional.ofNullable(luminance).map(CombineVerb::input),
                shares.stream()
                        .map(s -> new Combination.Added(input(s.file()), s.red(), s.green(), s.blue()))
                        .toList());
        ColourFiles.write(out, picture);
        return Answer.done(Answer.facts(
                "channels",
                        picture.channels().stream()
                                .map(c -> Answer.facts(
                                        "channel", c.name(),
                                        "file", c.file(),
                                        "scale", rounded(c.scale(), 5),
                                        "offset", rounded(c.offset(), 4),
                                        "stars", c.stars()))
                                .toList(),
                "referenceChannel", picture.reference(),
                "widthPx", picture.red().width(),
                "heightPx", picture.red().height(),
                "out", out.toString()));
    }

    private static Combination.Input input(Path file) {
        return new Combination.Input(file.toString(), FitsFiles.read(file));
    }

    private static Share share(String text) {
        String[] parts = text.split(":");
        String expected = "FILE:RED:GREEN:BLUE with shares from 0 to 1";
        if (parts.length < 4) {
            throw badOption("--add", "is \"" + text + "\"", expected);
        }
        int n = parts.length;
        double[] shares = new double[3];
        for (int i = 0; i < 3; i++) {
            try {
                shares[i] = Double.parseDouble(parts[n - 3 + i]);
            } catch (NumberFormatException e) {
                throw badOption("--add", "has the share \"" + parts[n - 3 + i] + "\"", expected);
            }
            if (!(shares[i] >= 0 && shares[i] <= 1)) {
                throw badOption("--add", "has the share " + parts[n - 3 + i], expected);
            }
        }
        String file = String.join(":", List.of(parts).subList(0, n - 3));
        return new Share(Path.of(file), shares[0], shares[1], shares[2]);
    }
}
