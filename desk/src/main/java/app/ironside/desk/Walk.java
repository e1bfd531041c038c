package app.ironside.desk;

import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/** A newcomer's walk through a rehearsed night: it is held at each station that it comes to, and what the station is for is told. */
final class Walk {
    private final Set<Stage> told = EnumSet.noneOf(Stage.class);
    private boolean underWay;

    void begin() {
        told.clear();
        underWay = true;
    }

    void end() {
        underWay = false;
    }

    boolean isUnderWay() {
        return underWay;
    }

    /** The next station that the night has come to and nobody was told of, in the night's order; it counts as told then. */
    Optional<Stage> next(NightState night) {
        return underWay
                ? night.all(StageBegan.class).stream()
                        .map(StageBegan::stage)
                        .filter(told::add)
                        .findFirst()
                : Optional.empty();
    }

    /** Whether the last station was told of. */
    boolean isAtItsEnd() {
        return told.contains(Stage.LOGBOOK);
    }
}
