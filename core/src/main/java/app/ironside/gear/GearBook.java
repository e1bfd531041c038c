package app.ironside.gear;

import app.ironside.JsonText;
import app.ironside.TextFiles;
import app.ironside.gear.GearChange.Voids;
import app.ironside.image.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** The changes of a user's gear, kept in a file of their data. */
public final class GearBook {
    private static final String NAME = "gear.json";

    private final Path file;

    /**
     * @param data the user's folder
     */
    public GearBook(Path data) {
        this.file = data.resolve(NAME);
    }

    private record Document(List<GearChange> changes) {
        Document {
            changes = List.copyOf(changes);
        }
    }

    /**
     * All changes, the oldest first.
     *
     * @throws app.ironside.BadInputException if the file is damaged, naming it
     */
    public List<GearChange> changes() {
        return Files.exists(file)
                ? JsonText.read(TextFiles.read(file, NAME), Document.class, file.toString(), "a list of changes")
                        .changes()
                : List.of();
    }

    /** The last change of a kit that makes something void, not after a night. */
    public Optional<GearChange> last(String kit, Voids what, LocalDate night) {
        return changes().stream()
                .filter(c -> c.mayConcern(Optional.of(kit)) && c.kind().voids().contains(what))
                .filter(c -> !c.on().isAfter(night))
                .max(Comparator.comparing(GearChange::on));
    }

    public void add(GearChange change) {
        List<GearChange> all = new ArrayList<>(changes());
        all.add(change);
        all.sort(Comparator.comparing(GearChange::on));
        write(all);
    }

    /** Takes a change out that was entered by mistake. */
    public void remove(GearChange change) {
        List<GearChange> all = new ArrayList<>(changes());
        all.remove(change);
        write(all);
    }

    private void write(List<GearChange> all) {
        String text = JsonText.write(JsonText.tree(new Document(all)));
        AtomicFile.write(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
    }
}
