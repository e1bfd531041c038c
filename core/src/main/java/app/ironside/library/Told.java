package app.ironside.library;

import app.ironside.gear.GearBook;
import app.ironside.gear.GearChange;
import app.ironside.library.FactBook.Correction;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a person told beside the headers.
 *
 * @param changes of the gear, which make flats of before void
 * @param facts corrections of frames, by absolute path
 */
public record Told(List<GearChange> changes, Map<Path, List<Correction>> facts) {
    public static final Told NOTHING = new Told(List.of(), Map.of());

    public Told {
        changes = List.copyOf(changes);
        facts = Map.copyOf(facts);
    }

    /**
     * As it is kept in a user's folder.
     *
     * @throws app.ironside.BadInputException if one of its files is damaged, naming it
     */
    public static Told in(Path data) {
        return new Told(new GearBook(data).changes(), new FactBook(data).byFile());
    }

    FrameFacts of(Path file, FrameFacts told) {
        FrameFacts facts = told;
        for (Correction c : this.facts.getOrDefault(file, List.of())) {
            facts = facts.corrected(c);
        }
        return facts;
    }

    /** What was done to the gear between flats and lights that makes these flats void. */
    Optional<GearChange> voids(FrameSet flats, FrameSet lights) {
        Optional<LocalDate> one = flats.night();
        Optional<LocalDate> other = lights.night();
        return one.isEmpty() || other.isEmpty()
                ? Optional.empty()
                : changes.stream()
                        .filter(c -> c.kind().voids().contains(GearChange.Voids.FLATS))
                        .filter(c -> c.between(one.get(), other.get()))
                        .filter(c -> c.mayConcern(lights.telescope().or(flats::telescope)))
                        .reduce((a, b) -> b);
    }
}
