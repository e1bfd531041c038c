package app.ironside.journal;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * Something is wrong: what the night's subs, guiding and devices show together.
 *
 * @param since when it began: the middle of the first sub that shows it
 * @param certainty 0 to 1
 * @param sentence what was seen, with numbers
 * @param others what fits too, less well, each with its certainty
 * @param losing whether light is being lost to it now
 * @param evidence files of the subs that show it, the first one first
 */
public record TroubleSeen(
        Instant time,
        String text,
        Trouble trouble,
        Instant since,
        double certainty,
        String sentence,
        List<Rival> others,
        boolean losing,
        List<String> evidence)
        implements NightEvent {
    /** A competing cause. */
    public record Rival(Trouble trouble, double certainty) {}

    public TroubleSeen {
        others = List.copyOf(others);
        evidence = List.copyOf(evidence);
    }

    /** The second best cause. */
    public Optional<Trouble> or() {
        return others.stream().findFirst().map(Rival::trouble);
    }

    @Override
    public Stage station() {
        return Stage.RUN;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
