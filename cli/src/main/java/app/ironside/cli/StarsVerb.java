package app.ironside.cli;

import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.image.Frame;
import app.ironside.image.FrameFiles;
import app.ironside.star.StarField;
import app.ironside.star.StarTable;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "stars", description = "Finds and measures the stars of a frame. Lengths in pixels, fluxes in ADU.")
final class StarsVerb extends Verb {
    @Parameters(paramLabel = "FILE", description = "A FITS or 16-bit TIFF image.")
    private Path file;

    @Option(names = "--csv", paramLabel = "OUT", description = "Write the list of stars as CSV.")
    private Path csv;

    @Override
    Answer answer() {
        if (csv != null) {
            Destination.file(csv, "option --csv", List.of(file));
        }
        Frame frame = FrameFiles.read(file);
        long began = System.nanoTime();
        StarField field = finder().find(frame);
        double elapsed = (System.nanoTime() - began) / 1e6;
        if (csv != null) {
            AtomicFile.write(csv, out -> out.write(StarTable.text(field).getBytes(StandardCharsets.UTF_8)));
        }
        Map<String, Object> facts = Answer.facts(
                "count", field.stars().size(),
                "backgroundAdu", rounded(field.backgroundAdu(), 3),
                "noiseAdu", rounded(field.noiseAdu(), 4),
                "medianHfrPx", orNull(field.medianHalfFluxRadiusPx()),
                "medianFwhmPx", orNull(field.medianFwhmPx()),
                "medianEccentricity", orNull(field.medianEccentricity()),
                "elapsedMs", rounded(elapsed, 1));
        return field.stars().isEmpty()
                ? Answer.impossible("No star stands out of the noise: look for cloud, a cap, or focus.", facts)
                : Answer.done(facts);
    }

    private static Object orNull(OptionalDouble value) {
        return value.isPresent() ? rounded(value.getAsDouble(), 4) : null;
    }
}
