package app.ironside.trainer;

import app.ironside.JsonText;
import app.ironside.TextFiles;
import app.ironside.image.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** What was reached in exercises, kept in a file of the user's data. */
public final class ScoreBook {
    private static final String NAME = "exercises.json";

    private final Path file;

    /**
     * @param data the user's folder
     */
    public ScoreBook(Path data) {
        this.file = data.resolve(NAME);
    }

    /**
     * One try.
     *
     * @param seed by which the very same night comes again
     */
    public record Try(String exercise, LocalDate on, long seed, int points) {}

    private record Document(List<Try> tries) {
        Document {
            tries = List.copyOf(tries);
        }
    }

    /**
     * All tries, the oldest first.
     *
     * @throws app.ironside.BadInputException if the file is damaged, naming it
     */
    public List<Try> tries() {
        return Files.exists(file)
                ? JsonText.read(TextFiles.read(file, NAME), Document.class, file.toString(), "a list of tries")
                        .tries()
                : List.of();
    }

    /** The best try of an exercise. */
    public Optional<Try> best(String exercise) {
        return tries().stream().filter(t -> t.exercise().equals(exercise)).max(Comparator.comparingInt(Try::points));
    }

    /** Keeps a try; false if that night of that exercise was looked back on before: the first counts. */
    public boolean add(Try made) {
        List<Try> all = new ArrayList<>(tries());
        if (all.stream().anyMatch(t -> t.exercise().equals(made.exercise()) && t.seed() == made.seed())) {
            return false;
        }
        all.add(made);
        String text = JsonText.write(JsonText.tree(new Document(all)));
        AtomicFile.write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
        return true;
    }
}
