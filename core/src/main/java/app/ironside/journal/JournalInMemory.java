package app.ironside.journal;

import app.ironside.guide.GuideSample;
import java.util.ArrayList;
import java.util.List;

/** A journal that is gone with the program: of rehearsals that only answer a question. Guide exposures are counted by the subs and not kept. */
public final class JournalInMemory implements Journal {
    private final List<NightEvent> events = new ArrayList<>();

    @Override
    public synchronized void append(NightEvent event) {
        events.add(event);
    }

    @Override
    public synchronized List<NightEvent> events() {
        return List.copyOf(events);
    }

    @Override
    public void guided(GuideSample sample) {
        // The figures of each sub hold what is asked of such a night.
    }

    @Override
    public List<GuideSample> guiding() {
        return List.of();
    }
}
