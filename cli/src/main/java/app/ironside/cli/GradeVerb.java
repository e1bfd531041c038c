package app.ironside.cli;

import app.ironside.Csv;
import app.ironside.Workers;
import app.ironside.image.AtomicFile;
import app.ironside.image.Destination;
import app.ironside.judge.Grade;
import app.ironside.judge.Grader;
import app.ironside.judge.Looks;
import app.ironside.judge.SubLook;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "grade",
        description =
                "Judges lights of one field, each by its series: what it adds to a stack, what lowers it most, whether it is kept."
                        + " Sizes in pixels, levels in ADU, weights and transparency as shares of the best.")
final class GradeVerb extends Verb {
    @Parameters(
            arity = "1..*",
            paramLabel = "LIGHTS",
            description = "FITS or 16-bit TIFF images of one field, in any order.")
    private List<Path> lights;

    @Mixin
    private MasterOptions options;

    @Option(names = "--csv", paramLabel = "OUT", description = "Write the verdicts as a table.")
    private Path csv;

    @Override
    Answer answer() {
        Destination.mustDiffer(lights);
        if (csv != null) {
            List<Path> inputs = new ArrayList<>(lights);
            inputs.addAll(options.files());
            Destination.file(csv, "option --csv", inputs);
        }
        Looks.Found found = new Looks(new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES))
                .measure(lights, options.bareCalibrator(), progress());
        List<Grade> grades = Grader.grade(Looks.of(found.measured()));
        List<Map<String, Object>> frames = grades.stream().map(GradeVerb::facts).toList();
        if (csv != null) {
            AtomicFile.write(csv, out -> out.write(table(frames).getBytes(StandardCharsets.UTF_8)));
        }
        boolean any = grades.stream().anyMatch(Grade::keep);
        return Answer.unless(
                any ? Optional.empty() : Optional.of("nothing can be kept"),
                Answer.facts(
                        "frames", frames,
                        "unusable",
                                found.unusable().stream()
                                        .map(u -> Answer.facts("file", u.file().toString(), "reason", u.reason()))
                                        .toList(),
                        "collapse", Grader.collapse(grades).map(SubLook::name).orElse(null),
                        "keepAll", facts(Grader.keepAll(grades)),
                        "keepSharp", facts(Grader.keepSharp(grades))));
    }

    /** One frame's verdict, as every verb tells it. */
    static Map<String, Object> facts(Grade g) {
        SubLook s = g.sub();
        return Answer.facts(
                "file", s.name(),
                "time", s.time().map(Object::toString).orElse(null),
                "hfrPx", rounded(s.hfrPx(), 3),
                "fwhmPx", rounded(s.fwhmPx(), 3),
                "eccentricity", rounded(s.eccentricity(), 3),
                "starCount", s.stars(),
                "backgroundAdu", rounded(s.backgroundAdu(), 2),
                "noiseAdu", rounded(s.noiseAdu(), 3),
                "transparency", rounded(g.transparency(), 4),
                "weight", rounded(g.weight(), 4),
                "keep", g.keep(),
                "cause", g.cause().word(),
                "reason", g.reason());
    }

    private static Map<String, Object> facts(Grader.Choice choice) {
        return Answer.facts(
                "frames", choice.frames(),
                "effectiveSeconds", rounded(choice.effectiveSeconds(), 1),
                "fwhmPx", rounded(choice.fwhmPx(), 3));
    }

    private static String table(List<Map<String, Object>> frames) {
        StringBuilder table = new StringBuilder(
                String.join(",", frames.isEmpty() ? List.of() : frames.get(0).keySet()));
        for (Map<String, Object> frame : frames) {
            table.append('\n')
                    .append(frame.values().stream()
                            .map(v -> v == null ? "" : Csv.cell(v.toString()))
                            .collect(Collectors.joining(",")));
        }
        return table.append('\n').toString();
    }
}
