package app.ironside.desk;

import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.session.Nights;
import app.ironside.document.NightFile;
import app.ironside.logbook.NightEntry;
import java.util.List;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;

/** What is asked before a night is begun, ended or taken out of the logbook. */
final class Beginnings implements PlanDesk.Runner {
    private final Nights nights;
    private final Questions questions;
    private final BiConsumer<Nights.Kind, NightFile> begin;
    private final Consumer<NightEntry> remove;

    /**
     * @param begin begins a night from its plan
     * @param remove takes a night out of the logbook
     */
    Beginnings(
            Nights nights, Questions questions, BiConsumer<Nights.Kind, NightFile> begin, Consumer<NightEntry> remove) {
        this.nights = nights;
        this.questions = questions;
        this.begin = begin;
        this.remove = remove;
    }

    /** A night that runs is not ended unasked. */
    @Override
    public void rehearse(NightFile night) {
        unlessOneRuns(Nights.Kind.REHEARSAL, night, "End it and rehearse this plan");
    }

    /** Real devices move only after a second word. */
    @Override
    public void begin(NightFile night) {
        questions.ask(
                "Begin the night with real devices?",
                "The drivers of kit " + night.kit().name()
                        + (night.kit().equipment().goTo()
                                ? " are connected, and the mount moves as soon as Ready is passed. Look that nothing is in its way"
                                : " are connected, and you are asked for what hands do. Look that nothing is in the tracker's way")
                        + " and that the optics are not pointed toward the Sun; local rules and your own judgement"
                        + " come before anything that is said here.",
                List.of(
                        new StartPane.Choice("no-night", "Not yet", questions::dismiss),
                        new StartPane.Choice("yes-night", "Begin the night", () -> {
                            questions.dismiss();
                            unlessOneRuns(Nights.Kind.LIVE, night, "End it and begin this night");
                        })));
    }

    private void unlessOneRuns(Nights.Kind kind, NightFile night, String instead) {
        if (nights.underWay().isEmpty()) {
            begin.accept(kind, night);
            return;
        }
        questions.ask(
                "A night is running.",
                "Only one can run at a time. Ended now, its mount is parked, all its frames are kept, and it can be looked at in the"
                        + " Logbook; it cannot go on once another has begun.",
                List.of(
                        new StartPane.Choice("keep-running", "Let it run on", questions::dismiss),
                        new StartPane.Choice("end-and-rehearse", instead, () -> {
                            questions.dismiss();
                            begin.accept(kind, night);
                        })));
    }

    /** A night leaves the logbook only when that was asked twice; its frames and its journal stay on the disk. */
    void askToRemove(NightEntry night) {
        Optional<NightEntry> runs = nights.underWay().map(r -> r.run().entry()).filter(e -> e.id() == night.id());
        if (runs.isPresent()) {
            questions.ask(
                    "This night is running.",
                    "A night that runs cannot leave the logbook.",
                    List.of(new StartPane.Choice("no-removal", "Good", questions::dismiss)));
            return;
        }
        questions.ask(
                "Take " + night.title() + " out of the logbook?",
                "Its frames stay where they are, in " + night.folder()
                        + ", and its journal is written beside them. Trends and other nights"
                        + " know nothing of it any more.",
                List.of(
                        new StartPane.Choice("no-removal", "Leave it", questions::dismiss),
                        new StartPane.Choice("yes-removal", "Take it out", () -> {
                            questions.dismiss();
                            remove.accept(night);
                        })));
    }
}
