package app.ironside.watch;

import app.ironside.journal.Trouble;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Keeps from telling the same thing twice: one alert for one trouble, until it has been gone for a while. */
public final class Episodes {
    /** Sound looks after which a trouble is over. */
    private static final int CALM = 3;

    /** Surer by less is the same. */
    private static final double ANOTHER_CERTAINTY = 0.15;

    /**
     * A trouble that goes on.
     *
     * @param told as it was told last
     * @param seen as it was found last
     */
    private record Episode(Finding told, Finding seen, boolean woken, int calm) {}

    /** What goes on doing harm while something is tried. */
    private static final Set<Trouble> AT_ONCE =
            EnumSet.of(Trouble.CONTACT, Trouble.MOUNT, Trouble.DISK, Trouble.NO_FRAMES);

    private final Map<Trouble, Episode> running = new EnumMap<>(Trouble.class);
    private final boolean acts;

    /**
     * @param acts whether the night tries by itself what can be tried: then a person is woken only when it did not help
     */
    public Episodes(boolean acts) {
        this.acts = acts;
    }

    /**
     * A trouble that shows no more.
     *
     * @param seen as it was found last
     */
    public record Over(Finding seen) {}

    /**
     * What is new in what is found now.
     *
     * @param cases that are new, or surer, or lose light now
     */
    public record News(List<Case> cases, List<Over> over, List<Alert> alerts) {
        /** All causes of the cases. */
        public List<Finding> findings() {
            return cases.stream().flatMap(c -> c.causes().stream()).toList();
        }
    }

    /**
     * Takes in what is found after one more sub.
     *
     * @param now for alerts
     */
    public News next(List<Finding> found, Instant now) {
        List<Case> fresh = new ArrayList<>();
        List<Alert> alerts = new ArrayList<>();
        List<Case> cases = Case.of(found);
        boolean leading = true;
        for (Case one : cases) {
            Finding lead = one.lead();
            Episode before = running.get(lead.trouble());
            boolean first = before == null;
            boolean changed = first
                    || lead.certainty() - before.told().certainty() >= ANOTHER_CERTAINTY
                    || lead.losing() && !before.told().losing();
            if (changed) {
                fresh.add(one);
            }
            // Of troubles at one time only the surest is told aloud; for what hands cannot help nobody is woken.
            boolean tried = !acts
                    || AT_ONCE.contains(lead.trouble())
                    || !first && before.seen().losing();
            boolean wake = lead.losing() && lead.trouble().handsHelp() && tried;
            boolean woken = !first && before.woken();
            if (leading && (first || wake && !woken)) {
                alerts.add(new Alert(
                        now,
                        wake,
                        lead.trouble(),
                        lead.sentence() + " " + lead.trouble().remedy()));
            }
            running.put(lead.trouble(), new Episode(changed ? lead : before.told(), lead, woken || leading && wake, 0));
            leading = false;
        }
        return new News(fresh, over(cases), alerts);
    }

    private List<Over> over(List<Case> cases) {
        List<Over> over = new ArrayList<>();
        for (Iterator<Map.Entry<Trouble, Episode>> i = running.entrySet().iterator(); i.hasNext(); ) {
            Map.Entry<Trouble, Episode> entry = i.next();
            Episode e = entry.getValue();
            boolean goesOn = cases.stream().anyMatch(c -> c.lead().trouble() == entry.getKey());
            if (!goesOn && e.calm() + 1 >= CALM) {
                over.add(new Over(e.seen()));
                i.remove();
            } else if (!goesOn) {
                entry.setValue(new Episode(e.told(), e.seen(), e.woken(), e.calm() + 1));
            }
        }
        return over;
    }
}
