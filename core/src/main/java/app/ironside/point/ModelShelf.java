package app.ironside.point;

import app.ironside.FileNames;
import app.ironside.Provenance;
import app.ironside.image.AtomicFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Optional;

/** Pointing models kept in a folder, one for each kit; those of rehearsals apart from those of real mounts. */
public final class ModelShelf {
    private final Path folder;
    private final Provenance provenance;

    /**
     * @param provenance which models are kept and given: the others are not seen
     */
    public ModelShelf(Path folder, Provenance provenance) {
        this.folder = folder;
        this.provenance = provenance.isReal() ? Provenance.REAL : provenance;
    }

    public Provenance provenance() {
        return provenance;
    }

    private Path path(String kit) {
        return folder.resolve("pointing-model-" + provenance.word() + "-" + FileNames.distinct(kit, "-") + ".json");
    }

    /**
     * The model of a kit, if one is kept.
     *
     * @throws app.ironside.BadInputException if its file cannot be read as one
     */
    public Optional<PointingModel> of(String kit) {
        Path file = path(kit);
        if (!Files.exists(file)) {
            return Optional.empty();
        }
        try {
            return Optional.of(PointingModel.parse(
                    Files.readString(file), file.getFileName().toString()));
        } catch (IOException e) {
            throw new UncheckedIOException(file + " cannot be read", e);
        }
    }

    /** As above, if it was kept since a moment: before, the gear was another. */
    public Optional<PointingModel> of(String kit, Instant since) {
        try {
            Path file = path(kit);
            return Files.exists(file)
                            && Files.getLastModifiedTime(file).toInstant().isBefore(since)
                    ? Optional.empty()
                    : of(kit);
        } catch (IOException e) {
            throw new UncheckedIOException(path(kit) + " cannot be read", e);
        }
    }

    /** Keeps a model in place of an earlier one; whole or not at all. */
    public void keep(String kit, PointingModel model) {
        AtomicFile.write(path(kit), out -> out.write(model.toJson().getBytes(StandardCharsets.UTF_8)));
    }

    /** Takes the model of a kit away. */
    public void clear(String kit) {
        try {
            Files.deleteIfExists(path(kit));
        } catch (IOException e) {
            throw new UncheckedIOException(path(kit) + " cannot be removed", e);
        }
    }
}
