package app.ironside.journal;

import java.time.Instant;
import java.util.List;
import java.util.Locale;

/** Verdicts that a person gives over the rule book's. Nothing is deleted: both stand in the journal, the last one counts. */
public final class Marks {
    private Marks() {}

    /** A verdict on a sub. */
    public record Given(String file, Verdict verdict) {}

    /** One sub left out or kept, by somebody. */
    public static List<Given> mark(SubTaken sub, boolean keep, String by) {
        return List.of(new Given(sub.file(), Verdict.byHand(keep, keep ? "kept by hand" : "left out by hand", by)));
    }

    /** A sub and all later ones of its target that are kept: where a fall begins, what follows goes with it. */
    public static List<Given> cutFrom(NightState night, SubTaken first, String by) {
        return night.subs().stream()
                .filter(s -> s.target().equals(first.target()) && !s.time().isBefore(first.time()) && s.kept())
                .map(s -> new Given(s.file(), Verdict.byHand(false, "cut by hand from " + first.name() + " on", by)))
                .toList();
    }

    /** What stands now for the subs of some verdicts: given again, it takes them back. */
    public static List<Given> standing(NightState night, List<Given> given) {
        return given.stream()
                .flatMap(g -> night.subs().stream()
                        .filter(s -> s.file().equals(g.file()))
                        .map(s -> new Given(s.file(), s.verdict())))
                .toList();
    }

    /** The events that give them; of subs that the night does not know, none. */
    public static List<SubRegraded> events(NightState night, List<Given> given, Instant now) {
        return given.stream()
                .flatMap(g -> night.subs().stream()
                        .filter(s -> s.file().equals(g.file()))
                        .map(s -> new SubRegraded(
                                now,
                                String.format(Locale.ROOT, "%s is %s.", s.name(), g.verdict()),
                                s.file(),
                                g.verdict())))
                .toList();
    }
}
