package app.ironside.desk.session;

import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.plan.PlanStart;
import app.ironside.document.NightFile;
import app.ironside.journal.Journal;
import app.ironside.journal.NightEvent;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.plan.NightPlan;
import app.ironside.wiring.Wiring;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * The night that is on the desk, with everything that has to be reckoned before it can be shown.
 *
 * @param entry in the logbook; empty while it is only planned
 * @param model what is known of it: of a night that runs, what it tells; else its journal
 * @param start with what its planning begins
 * @param nights of the logbook, this one included
 */
public record ShownNight(
        NightFile file,
        Optional<NightEntry> entry,
        NightModel model,
        PlanStart start,
        RibbonState ribbon,
        Reckoner reckoner,
        List<NightEntry> nights) {
    /** Makes a night ready to be shown. On any thread but the interface's: it plans, and reads the logbook. */
    static ShownNight of(Wiring wiring, Logbook logbook, NightFile file, Optional<NightEntry> entry, NightModel model) {
        PlanStart start = PlanStart.of(wiring, file);
        NightPlan plan = start.draft().plan();
        return new ShownNight(
                file,
                entry,
                model,
                start,
                RibbonState.of(file.site(), plan, start.sky()),
                new Reckoner(
                        file, plan, logbook.habits().framings(file.program().date(), entry)),
                logbook.nights());
    }

    /** A night of the logbook that does not run. On any thread but the interface's. */
    public static ShownNight kept(Wiring wiring, Logbook logbook, NightEntry entry) {
        NightFile file = NightFile.parse(entry.document(), entry.title(), wiring.objects());
        // A model of its own, in which nothing changes: what a running night goes on telling is not this night's.
        NightModel model = new NightModel(() -> {});
        Journal journal = logbook.journal(entry);
        model.load(journal.events(), journal.guiding());
        return of(wiring, logbook, file, Optional.of(entry), model);
    }

    /** The same night, as it tells of itself while it runs. */
    ShownNight as(NightModel running) {
        return new ShownNight(file, entry, running, start, ribbon, reckoner, nights);
    }

    /** When its plan begins; the moment of a night of which nothing is told yet. */
    public Instant begins() {
        return start.draft().plan().times().night().from();
    }

    /** The last moment of which its journal tells. */
    public Optional<Instant> lastTime() {
        List<NightEvent> events = model.night().events();
        return events.isEmpty()
                ? Optional.empty()
                : Optional.of(events.get(events.size() - 1).time());
    }

    /** Whether it is a night of the logbook. */
    public boolean is(NightEntry other) {
        return entry.filter(e -> e.id() == other.id()).isPresent();
    }
}
