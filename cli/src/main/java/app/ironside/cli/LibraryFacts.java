package app.ironside.cli;

import app.ironside.library.FrameSet;
import app.ironside.library.Gap;
import app.ironside.library.Library;
import app.ironside.library.Match;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** Sets, matches and gaps as the command line tells them. */
final class LibraryFacts {
    private LibraryFacts() {}

    static List<Map<String, Object>> sets(Library library) {
        return library.sets().stream().map(LibraryFacts::set).toList();
    }

    private static Map<String, Object> set(FrameSet s) {
        return Answer.facts(
                "id", s.id(),
                "kind", s.kind().word(),
                "target", orNull(s.target()),
                "filter", orNull(s.filter()),
                "exposureS", orNull(s.exposureS(), 4),
                "gain", orNull(s.gain(), 3),
                "offset", orNull(s.offset(), 3),
                "temperatureC", orNull(s.temperatureC(), 1),
                "binning", orNull(s.binning()),
                "widthPx", s.widthPx(),
                "heightPx", s.heightPx(),
                "bayer", orNull(s.bayer()),
                "camera", orNull(s.camera()),
                "night", s.night().map(Object::toString).orElse(null),
                "frames", s.files().size(),
                "files", s.files().stream().map(Path::toString).toList());
    }

    static List<Map<String, Object>> matches(Library library) {
        return library.matches().stream().map(LibraryFacts::match).toList();
    }

    private static Map<String, Object> match(Match m) {
        return Answer.facts(
                "set", m.lights().id(),
                "dark", m.dark().map(FrameSet::id).orElse(null),
                "bias", m.bias().map(FrameSet::id).orElse(null),
                "flat", m.flat().map(FrameSet::id).orElse(null),
                "flatDark", m.flatDark().map(FrameSet::id).orElse(null),
                "why", m.why());
    }

    static List<Map<String, Object>> gaps(List<Gap> gaps) {
        return gaps.stream()
                .map(g -> Answer.facts(
                        "kind", g.kind().word(),
                        "filter", orNull(g.filter()),
                        "exposureS", orNull(g.exposureS(), 4),
                        "gain", orNull(g.gain(), 3),
                        "temperatureC", orNull(g.temperatureC(), 1),
                        "forSet", g.forSet(),
                        "minutes", Verb.rounded(g.minutes(), 1),
                        "reason", g.reason()))
                .toList();
    }

    static List<Map<String, Object>> unusable(List<Library.Unusable> unusable) {
        return unusable.stream()
                .map(u -> Answer.facts("file", u.file().toString(), "reason", u.reason()))
                .toList();
    }

    static Object orNull(Optional<String> text) {
        return text.orElse(null);
    }

    static Object orNull(OptionalDouble value, int digits) {
        return value.isPresent() ? Verb.rounded(value.getAsDouble(), digits) : null;
    }

    private static Object orNull(OptionalInt value) {
        return value.isPresent() ? value.getAsInt() : null;
    }
}
