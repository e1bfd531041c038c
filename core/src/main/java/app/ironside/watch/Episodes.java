package app.ironside.watch;

import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Keeps from telling the same thing twice: one alert for one trouble, until it has been gone for a while. */
public final class Episodes {
    /** Sound looks after which a trouble is over. */
    private static final int CALM = 3;

    /** A certainty that has changed by less is the same. */
    private static final double ANOTHER_CERTAINTY = 0.15;

    private record Episode(Finding told, boolean woken, int calm) {}

    private final Map<Trouble, Episode> running = new EnumMap<>(Trouble.class);

    /** What is new in what is found now. */
    public record News(List<Finding> findings, List<Alert> alerts) {}

    /**
     * Takes in what is found after one more sub, the surest first.
     *
     * @param now for alerts
     */
    public News next(List<Finding> found, Instant now) {
        List<Finding> fresh = new ArrayList<>();
        List<Alert> alerts = new ArrayList<>();
        Optional<Trouble> surest = found.stream().findFirst().map(Finding::trouble);
        for (Finding finding : found) {
            Episode before = running.get(finding.trouble());
            boolean first = before == null;
            boolean changed = first
                    || Math.abs(before.told().certainty() - finding.certainty()) >= ANOTHER_CERTAINTY
                    || finding.losing() && !before.told().losing();
            if (changed) {
                fresh.add(finding);
            }
            // Of competing causes only the surest is told aloud; for what hands cannot help nobody is woken.
            boolean leading = surest.filter(finding.trouble()::equals).isPresent();
            boolean wake = finding.losing() && finding.trouble().handsHelp();
            boolean woken = !first && before.woken();
            if (leading && (first || wake && !woken)) {
                alerts.add(new Alert(
                        now,
                        wake,
                        finding.trouble(),
                        finding.sentence() + " " + finding.trouble().remedy()));
            }
            running.put(finding.trouble(), new Episode(changed ? finding : before.told(), woken || leading && wake, 0));
        }
        running.replaceAll((trouble, episode) -> found.stream().anyMatch(f -> f.trouble() == trouble)
                ? episode
                : new Episode(episode.told(), episode.woken(), episode.calm() + 1));
        running.values().removeIf(e -> e.calm() >= CALM);
        return new News(fresh, alerts);
    }
}
