package app.ironside.journal;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What was wrong in a night, each trouble from when it was first told until it was over. */
public final class Troubles {
    private Troubles() {}

    /**
     * A trouble with all that was told of it.
     *
     * @param told in time; at least one
     * @param over empty if it still goes on
     */
    public record Lasting(List<TroubleSeen> told, Optional<TroubleOver> over) {
        public Lasting {
            told = List.copyOf(told);
        }

        public Trouble trouble() {
            return told.get(0).trouble();
        }

        /** As it stood last. */
        public TroubleSeen last() {
            return told.get(told.size() - 1);
        }

        /** When it began. */
        public Instant since() {
            return told.stream().map(TroubleSeen::since).min(Instant::compareTo).orElseThrow();
        }

        /** Subs that were not kept while it lasted. */
        public int subsLost(NightState night) {
            return over.map(TroubleOver::subsLost).orElseGet(() -> (int) night.subs().stream()
                    .filter(s -> !s.kept() && !s.time().isBefore(since()))
                    .count());
        }
    }

    /** In the order in which they were first told. */
    public static List<Lasting> of(NightState night) {
        List<List<TroubleSeen>> told = new ArrayList<>();
        List<Optional<TroubleOver>> over = new ArrayList<>();
        for (NightEvent event : night.events()) {
            if (event instanceof TroubleSeen seen) {
                int open = open(told, over, seen.trouble());
                if (open < 0) {
                    told.add(new ArrayList<>(List.of(seen)));
                    over.add(Optional.empty());
                } else {
                    told.get(open).add(seen);
                }
            } else if (event instanceof TroubleOver end) {
                int open = open(told, over, end.trouble());
                if (open >= 0) {
                    over.set(open, Optional.of(end));
                }
            }
        }
        List<Lasting> all = new ArrayList<>();
        for (int i = 0; i < told.size(); i++) {
            all.add(new Lasting(told.get(i), over.get(i)));
        }
        return all;
    }

    private static int open(List<List<TroubleSeen>> told, List<Optional<TroubleOver>> over, Trouble trouble) {
        for (int i = told.size() - 1; i >= 0; i--) {
            if (over.get(i).isEmpty() && told.get(i).get(0).trouble() == trouble) {
                return i;
            }
        }
        return -1;
    }

    /** What goes on now: what loses light first, then the surest. */
    public static Optional<Lasting> present(NightState night) {
        return of(night).stream()
                .filter(l -> l.over().isEmpty())
                .max(java.util.Comparator.comparing((Lasting l) -> l.last().losing())
                        .thenComparing(l -> l.last().time())
                        .thenComparing(l -> l.last().certainty()));
    }
}
