package app.ironside.library;

import app.ironside.Check;
import app.ironside.JsonText;
import app.ironside.TextFiles;
import app.ironside.image.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a person says of frames whose headers are wrong or silent, kept in a file of their data and never in a raw frame. What is said later
 * counts.
 */
public final class FactBook {
    private static final String NAME = "frame-facts.json";

    private final Path file;

    /**
     * @param data the user's folder
     */
    public FactBook(Path data) {
        this.file = data.resolve(NAME);
    }

    /**
     * One correction of many frames; what is empty stays as the header tells it.
     *
     * @param files by absolute path
     * @param gain the camera's own setting
     */
    public record Correction(
            List<String> files,
            Optional<FrameKind> kind,
            Optional<String> target,
            Optional<String> filter,
            Optional<Double> exposureS,
            Optional<Double> gain,
            Optional<Double> offset,
            Optional<Double> temperatureC) {
        public Correction {
            files = List.copyOf(files);
            Check.atLeast("frames that are corrected", files.size(), 1);
            target.ifPresent(t -> Check.name("the target", t));
            filter.ifPresent(f -> Check.name("the filter", f));
            exposureS.ifPresent(s -> Check.inRange("exposure", s, 0, 86_400));
            gain.ifPresent(g -> Check.inRange("gain", g, 0, 1e6));
            offset.ifPresent(o -> Check.inRange("offset", o, 0, 1e6));
            temperatureC.ifPresent(t -> Check.inRange("sensor temperature", t, -120, 80));
        }

        boolean saysNothing() {
            return kind.isEmpty()
                    && target.isEmpty()
                    && filter.isEmpty()
                    && exposureS.isEmpty()
                    && gain.isEmpty()
                    && offset.isEmpty()
                    && temperatureC.isEmpty();
        }
    }

    private record Document(List<Correction> corrections) {
        Document {
            corrections = List.copyOf(corrections);
        }
    }

    /**
     * All corrections, the oldest first.
     *
     * @throws app.ironside.BadInputException if the file is damaged, naming it
     */
    public List<Correction> corrections() {
        return Files.exists(file)
                ? JsonText.read(TextFiles.read(file, NAME), Document.class, file.toString(), "a list of corrections")
                        .corrections()
                : List.of();
    }

    /** Keeps a correction; one that says nothing takes back what was said of these frames. */
    public void keep(Correction correction) {
        List<Correction> all = new ArrayList<>(corrections());
        if (correction.saysNothing()) {
            all.replaceAll(c -> without(c, correction.files()));
            all.removeIf(c -> c == null);
        } else {
            all.add(correction);
        }
        String text = JsonText.write(JsonText.tree(new Document(all)));
        AtomicFile.write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }

    /** Nothing if no frame is left. */
    private static Correction without(Correction c, List<String> files) {
        List<String> left = c.files().stream().filter(f -> !files.contains(f)).toList();
        return left.isEmpty()
                ? null
                : new Correction(
                        left, c.kind(), c.target(), c.filter(), c.exposureS(), c.gain(), c.offset(), c.temperatureC());
    }

    /** What is said of each frame, in the order in which it was said. */
    Map<Path, List<Correction>> byFile() {
        Map<Path, List<Correction>> of = new HashMap<>();
        corrections().forEach(c -> c.files().forEach(f -> of.computeIfAbsent(Path.of(f), p -> new ArrayList<>())
                .add(c)));
        return of;
    }
}
