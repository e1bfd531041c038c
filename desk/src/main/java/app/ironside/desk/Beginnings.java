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
import java.nio.file.Path;
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
        Nights.Beginning wanted(Nights.Kind kind, NightFile night, Optional<NightEntry> where, Optional<Path> folder);

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
        begin(Nights.Kind.REHEARSAL, night, where, Optional.empty());
    }

    /**
     * Goes on with a night that was left under way, as it was begun: a real one with its devices, after a second word.
     *
     * @param kind as it was begun
     */
    void goOn(Nights.Kind kind, NightFile night, NightEntry left) {
        if (kind == Nights.Kind.LIVE) {
            askForDevices(night, () -> begin(kind, night, Optional.of(left), Optional.empty()));
        } else {
            rehearse(night, Optional.of(left));
        }
    }

    /** What is done with a folder of frames: it is watched over as a night, or developed. */
    void askAboutFolder(Path folder, NightFile base, Runnable develop) {
        questions.ask(
                "A folder of frames: " + folder.getFileName(),
                "Watched, each frame is judged as it comes, from whatever program, and the night is told at Run; nothing is moved."
                        + " Developed, the frames that are there are made into pictures.",
                List.of(
                        new StartPane.Choice("watch-folder", "Watch over it as a night", () -> {
                            questions.dismiss();
                            unlessOneRuns("End it and watch this folder", () -> watch(folder, base));
                        }),
                        new StartPane.Choice("develop-folder", "Develop its frames", () -> {
                            questions.dismiss();
                            develop.run();
                        }),
                        new StartPane.Choice("no-folder", "Neither", questions::dismiss)));
    }

    private void watch(Path folder, NightFile base) {
        begin(Nights.Kind.WATCHED, base, Optional.empty(), Optional.of(folder));
        stand.choose(Stage.RUN);
    }

    private void begin(Nights.Kind kind, NightFile night, Optional<NightEntry> where, Optional<Path> folder) {
        stand.say(
                switch (kind) {
                    case LIVE -> "Connecting the devices…";
                    case WATCHED -> "Reading what is in the folder…";
                    case REHEARSAL -> "";
                });
        nights.begin(stand.wanted(kind, night, where, folder), looking.night(), next -> {
            put(next);
            looking.toNow();
            stand.say("");
            stand.begun();
        });
    }

    private void beginFromPlan(Nights.Kind kind, NightFile night) {
        begin(kind, night, Optional.empty(), Optional.empty());
        stand.choose(Stage.READY);
        looking.follow(true);
    }

    /** A night that runs is not ended unasked. */
    @Override
    public void rehearse(NightFile night) {
        unlessOneRuns("End it and rehearse this plan", () -> beginFromPlan(Nights.Kind.REHEARSAL, night));
    }

    /** Real devices move only after a second word. */
    @Override
    public void begin(NightFile night) {
        askForDevices(
                night,
                () -> unlessOneRuns("End it and begin this night", () -> beginFromPlan(Nights.Kind.LIVE, night)));
    }

    private void askForDevices(NightFile night, Runnable then) {
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
                            then.run();
                        })));
    }

    private void unlessOneRuns(String instead, Runnable then) {
        if (nights.underWay().isEmpty()) {
            then.run();
            return;
        }
        boolean watched = nights.isFolderWatched();
        questions.ask(
                watched ? "A folder is being watched." : "A night is running.",
                watched
                        ? "Only one night can be followed at a time. Who takes the frames goes on taking them; what was judged stays in the"
                                + " Logbook, and the folder can be watched again."
                        : "Only one can run at a time. Ended now, its mount is parked, all its frames are kept, and it can be looked at in"
                                + " the Logbook; it cannot go on once another has begun.",
                List.of(
                        new StartPane.Choice("keep-running", "Let it run on", questions::dismiss),
                        new StartPane.Choice("end-and-rehearse", instead, () -> {
                            questions.dismiss();
                            then.run();
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
