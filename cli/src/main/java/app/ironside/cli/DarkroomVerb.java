package app.ironside.cli;

import app.ironside.Workers;
import app.ironside.darkroom.Darkroom;
import app.ironside.darkroom.Development;
import app.ironside.image.Destination;
import app.ironside.library.FrameSet;
import app.ironside.library.HeadShelf;
import app.ironside.library.Told;
import app.ironside.stack.Footprint;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import app.ironside.wiring.Wiring;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "darkroom",
        description =
                "The whole way from folders of raw frames to pictures: sorts, makes masters, calibrates, grades, aligns and stacks each"
                        + " target and filter over all nights, then colour. Exposures in seconds, temperatures in °C, levels in ADU.")
final class DarkroomVerb extends Verb {
    @Parameters(
            arity = "1..*",
            paramLabel = "FOLDER",
            description = "Folders with FITS or TIFF images; looked into all the way down.")
    private List<Path> folders;

    @Option(
            names = "--out",
            required = true,
            paramLabel = "DIR",
            description = "Folder for masters, stacks and pictures.")
    private Path out;

    @Mixin
    private StackOptions options;

    @Option(
            names = "--combine",
            paramLabel = "FILTERS",
            description =
                    "A colour picture of these filters, by commas: three for red, green, blue; four with the luminance first; two, of"
                            + " which the second is green and blue. May be given again.")
    private List<String> combine = List.of();

    @Option(
            names = "--scale-darks",
            description =
                    "Where no dark has the lights' exposure, scale one of another above the bias, if the sensor's glow and the lights' hot"
                            + " pixels allow it (default: calibrate by the bias alone).")
    private boolean scaleDarks;

    @Override
    Answer answer() {
        List<List<String>> combinations =
                combine.stream().map(DarkroomVerb::filters).toList();
        Set<Darkroom.Extra> extras = options.extras();
        if (scaleDarks) {
            extras.add(Darkroom.Extra.SCALED_DARKS);
        }
        Destination.folder(out, "option --out");
        long began = System.nanoTime();
        Darkroom darkroom = new Darkroom(
                Workers.ALL_CORES,
                new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.ALL_CORES),
                new Wiring(Workers.ALL_CORES, Optional.of(Wiring.usersData())).placer(),
                new Darkroom.Settings(
                        options.rejection(),
                        options.keepAll(),
                        Map.of(),
                        options.maxMemoryBytes(),
                        combinations,
                        extras,
                        options.drizzle()));
        Development made = darkroom.develop(
                folders,
                out,
                Told.in(Wiring.usersData()),
                HeadShelf.in(Wiring.usersData(), Clock.systemUTC()),
                progress());
        Map<String, Object> facts = Answer.facts(
                "masters",
                        Stream.concat(made.masters().stream().map(DarkroomVerb::master), brought(made))
                                .toList(),
                "stacks", made.stacks().stream().map(DarkroomVerb::stack).toList(),
                "pictures",
                        made.pictures().stream()
                                .map(p -> Answer.facts(
                                        "file", p.file().toString(), "target", p.target(), "channels", p.channels()))
                                .toList(),
                "gaps", LibraryFacts.gaps(made.gaps()),
                "unusable", LibraryFacts.unusable(made.unusable()),
                "failed", made.failed(),
                "elapsedMs", rounded((System.nanoTime() - began) / 1e6, 1),
                "peakMemoryMb", rounded(StackOptions.peakMemoryMb(), 1));
        String why =
                made.matches().isEmpty() ? "there are no lights in these folders" : String.join("; ", made.failed());
        return Answer.unless(made.stacks().isEmpty() ? Optional.of(why) : Optional.empty(), facts);
    }

    private static List<String> filters(String text) {
        List<String> filters = Stream.of(text.split(","))
                .map(String::strip)
                .filter(f -> !f.isEmpty())
                .toList();
        if (filters.size() < 2 || filters.size() > 4) {
            throw badOption("--combine", "is \"" + text + "\"", "two to four filters by commas, for instance R,G,B");
        }
        return filters;
    }

    private static Map<String, Object> master(Development.MasterFile m) {
        FrameSet s = m.of();
        Map<String, Object> facts =
                master(m.file().toString(), s, s.kind().master().word(), m.made());
        facts.put("sound", m.sound());
        facts.put("verdict", m.verdict());
        return facts;
    }

    /** Masters that were in the folders and were used. */
    private static Stream<Map<String, Object>> brought(Development made) {
        return made.matches().stream()
                .flatMap(m -> Stream.of(m.dark(), m.bias(), m.flat(), m.flatDark()))
                .flatMap(Optional::stream)
                .filter(s -> s.kind().isMaster())
                .distinct()
                .map(s -> master(s.files().get(0).toString(), s, s.kind().word(), false));
    }

    private static Map<String, Object> master(String file, FrameSet s, String kind, boolean made) {
        return Answer.facts(
                "file", file,
                "kind", kind,
                "filter", LibraryFacts.orNull(s.filter()),
                "exposureS", LibraryFacts.orNull(s.exposureS(), 4),
                "gain", LibraryFacts.orNull(s.gain(), 3),
                "temperatureC", LibraryFacts.orNull(s.temperatureC(), 1),
                "frames", s.depth(),
                "made", made);
    }

    private static Map<String, Object> stack(Development.StackFile s) {
        return Answer.facts(
                "file", s.file().toString(),
                "cropped", s.cropped().map(c -> c.file().toString()).orElse(null),
                "crop", s.cropped().map(c -> StackVerb.told(c.part())).orElse(null),
                "target", s.target(),
                "filter", s.filter().isEmpty() ? null : s.filter(),
                "nights", s.nights(),
                "frames", s.frames(),
                "kept", s.kept(),
                "exposureS", rounded(s.exposureS(), 2),
                "noiseAdu", rounded(s.noiseAdu(), 4),
                "snrGainOverOneSub", rounded(s.snrGainOverOneSub(), 3),
                "snrGainPossible", rounded(s.snrGainPossible(), 3),
                "drizzle", s.drizzled().orElse(null),
                "bent", Footprint.bends(s.footprints()).orElse(null),
                "referenceFile", s.referenceFile().toString(),
                "rejected",
                        s.rejected().stream()
                                .map(r -> Answer.facts("file", r.file().toString(), "reason", r.reason()))
                                .toList(),
                "made", s.made());
    }
}
