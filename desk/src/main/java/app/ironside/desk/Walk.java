package app.ironside.desk;

import app.ironside.desk.session.Nights;
import app.ironside.desk.session.RunningNight;
import app.ironside.document.NightFile;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/**
 * A newcomer's walk through a rehearsed night: it is held at each station that it comes to, and what the station is for is told until
 * the person goes on. Interface thread only.
 */
final class Walk {
    private static final String FOOT = "Space: on with the night. Esc: end the walk, and the night goes on without it.";

    private final Nights nights;
    private final DeskShell shell;
    private final Beginnings.Stand stand;
    private final Set<Stage> told = EnumSet.noneOf(Stage.class);
    private Optional<RunningNight> before = Optional.empty();
    private boolean underWay;

    Walk(Nights nights, DeskShell shell, Beginnings.Stand stand) {
        this.nights = nights;
        this.shell = shell;
        this.stand = stand;
    }

    /** Rehearses a night and walks along with it. */
    void begin(NightFile night, Beginnings beginnings) {
        before = nights.running();
        told.clear();
        underWay = true;
        beginnings.rehearse(night, Optional.empty());
    }

    /** At a station that nobody was told of the night waits, and the station's words are shown. */
    void goOn() {
        if (!underWay || shell.hasHelp() || nights.running().equals(before)) {
            return;
        }
        nights.running().flatMap(r -> next(r.model().night())).ifPresent(station -> {
            hold(true);
            shell.showHelp(station, FOOT);
            stand.choose(station);
            stand.say(FOOT);
        });
    }

    /** The next station that the night has come to and nobody was told of, in the night's order; it counts as told then. */
    private Optional<Stage> next(NightState night) {
        return night.all(StageBegan.class).stream()
                .map(StageBegan::stage)
                .filter(told::add)
                .findFirst();
    }

    /** Whether a station's words are shown, and the night waits. */
    boolean isWaiting() {
        return underWay && shell.hasHelp();
    }

    /**
     * From a station's words back to the night.
     *
     * @param forGood whether the walk ends with it
     */
    void leave(boolean forGood) {
        shell.hideHelp();
        if (forGood || told.contains(Stage.LOGBOOK)) {
            underWay = false;
            stand.say("The walk is over. F1 shows these words again at each station.");
        }
        hold(false);
        stand.refresh();
    }

    private void hold(boolean still) {
        nights.running().flatMap(RunningNight::transport).ifPresent(clock -> clock.hold(still));
    }
}
