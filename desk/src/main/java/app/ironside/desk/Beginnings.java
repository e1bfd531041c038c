package app.ironside.desk;

import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.session.Looking;
import app.ironside.desk.session.Nights;
import app.ironside.desk.session.ShownNight;
import app.ironside.document.FirstNight;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** Opens, plans, begins and removes nights on the desk, and asks what has to be asked before. */
final class Beginnings implements PlanDesk.Runner {
    private final Nights nights;
    private final Looking looking;
    private final Questions questions;
    private final Stand stand;

    /** The desk, as far as a night is put on it. */
    interface Stand {
        /** A night is on the desk now. */
        void shown(ShownNight night);

        /** The nights of the logbook are others now. */
        void listed(List<NightEntry> nights);

        /** How a night is begun. */
        Nights.Beginning wanted(Nights.Kind kind, NightFile night, Optional<NightEntry> where);

        /** A night has begun. */
        void begun();

        void choose(Stage station);

        void say(String words);

        void refresh();
    }

    Beginnings(Nights nights, Looking looking, Questions questions, Stand stand) {
        this.nights = nights;
        this.looking = looking;
        this.questions = questions;
        this.stand = stand;
    }

    // ---- opening and planning
    // ----------------------------------------------------------------------------------------

    /** Shows a night of the logbook: as it runs, if it does; else without running it. */
    void open(NightEntry night) {
        nights.open(night, this::show);
    }

    /** Shows a night that is made ready. */
    void show(ShownNight night) {
        put(night);
        looking.toLatest();
        stand.refresh();
    }

    private void put(ShownNight night) {
        looking.show(night);
        stand.shown(night);
    }

    /** Puts into the logbook what was left for later. */
    void complete(Logbook logbook, Consumer<Logbook> rest) {
        nights.withLogbook(
                progress -> {
                    rest.accept(logbook);
                    return logbook.nights();
                },
                stand::listed);
    }

    /** Shows a night that is only planned. */
    void plan(NightFile night) {
        nights.plan(night, this::showPlanned);
    }

    /** Keeps somebody's first site and kit, and plans their first night with the target that stands best in it. */
    void planFirst(FirstNight first, LocalDate date, Profiles profiles) {
        stand.say("Looking for what stands best that night…");
        nights.first(first, date, profiles, this::showPlanned);
    }

    private void showPlanned(ShownNight night) {
        put(night);
        looking.toNow();
        stand.choose(Stage.PLAN);
    }

    // ---- beginning
    // -----------------------------------------------------------------------------------------------

    /** Runs a rehearsal of a night, from its start or from where it was left. */
    void rehearse(NightFile night, Optional<NightEntry> where) {
        begin(Nights.Kind.REHEARSAL, night, where);
    }

    private void begin(Nights.Kind kind, NightFile night, Optional<NightEntry> where) {
        stand.say(kind == Nights.Kind.LIVE ? "Connecting the devices…" : "");
        nights.begin(stand.wanted(kind, night, where), looking.night(), next -> {
            put(next);
            looking.toNow();
            stand.say("");
            stand.begun();
        });
    }

    private void beginFromPlan(Nights.Kind kind, NightFile night) {
        begin(kind, night, Optional.empty());
        stand.choose(Stage.READY);
        looking.follow(true);
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
            beginFromPlan(kind, night);
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
                            beginFromPlan(kind, night);
                        })));
    }

    // ---- removing
    // ------------------------------------------------------------------------------------------------

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
                            remove(night);
                        })));
    }

    private void remove(NightEntry night) {
        nights.remove(night, journal -> {
            stand.say(night.title() + " is out of the logbook; its journal is " + journal + ".");
            nights.list(left -> {
                stand.listed(left);
                boolean gone = looking.night().filter(n -> n.is(night)).isPresent();
                if (gone && !left.isEmpty()) {
                    open(left.get(left.size() - 1));
                }
            });
        });
    }
}
