package app.ironside.drivers;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Finds out by how much a camera's clock is wrong, from when its files come: clocks of cameras stand at the time of some zone, at that of
 * last winter, or run away. The computer's clock is taken as right.
 */
final class CameraClock {
    /** A clock that is told in whole seconds, and two clocks that nobody set to the second. */
    private static final Duration AGREES = Duration.ofSeconds(15);

    /** So long may a file be on its way. */
    private static final Duration ON_ITS_WAY = Duration.ofMinutes(2);

    /** Zones differ by whole quarters of an hour. */
    private static final long ZONE_STEP_SECONDS = 900;

    private static final Duration FURTHEST_ZONE = Duration.ofHours(14);

    /** One late file is an old one that somebody copies; so many in a row are a clock that was set anew. */
    private static final int SET_ANEW = 3;

    private final Consumer<String> say;
    private Duration ahead = Duration.ZERO;
    private boolean known;
    private int late;

    CameraClock(Consumer<String> say) {
        this.say = say;
    }

    /**
     * When an exposure began in truth.
     *
     * @param told by the camera
     * @param now when its file was there
     */
    Instant began(Optional<Instant> told, Duration length, Instant now) {
        Instant latest = now.minus(length);
        if (told.isEmpty()) {
            return latest;
        }
        if (isOnItsWay(lag(told.get(), ahead, latest))) {
            known = true;
            late = 0;
        } else if (!lag(told.get(), ahead, latest).isNegative() && known && ++late < SET_ANEW) {
            return told.get().minus(ahead);
        } else {
            set(told.get(), latest);
        }
        return told.get().minus(ahead);
    }

    /** How long after an exposure's end its file came. */
    private static Duration lag(Instant told, Duration ahead, Instant latest) {
        return Duration.between(told.minus(ahead), latest);
    }

    private static boolean isOnItsWay(Duration lag) {
        return lag.compareTo(AGREES.negated()) >= 0 && lag.compareTo(ON_ITS_WAY) <= 0;
    }

    private void set(Instant told, Instant latest) {
        Duration off = Duration.between(latest, told);
        // A file comes after its exposure's end, never before: of two zones the later one explains it.
        Duration zone = Duration.ofSeconds(
                ZONE_STEP_SECONDS * Math.floorDiv(off.plus(ON_ITS_WAY).toSeconds(), ZONE_STEP_SECONDS));
        boolean isZone = zone.abs().compareTo(FURTHEST_ZONE) <= 0 && isOnItsWay(lag(told, zone, latest));
        ahead = isZone ? zone : off;
        known = true;
        late = 0;
        if (!ahead.isZero()) {
            say.accept("The camera's clock is " + words(ahead.abs()) + (ahead.isNegative() ? " behind" : " ahead")
                    + ": the times of its frames are put right by that.");
        }
    }

    private static String words(Duration off) {
        if (off.compareTo(Duration.ofDays(2)) > 0) {
            return off.toDays() + " days";
        }
        String words = (off.toHours() > 0 ? off.toHours() + " h " : "")
                + (off.toMinutesPart() > 0 ? off.toMinutesPart() + " min " : "")
                + (off.toSecondsPart() > 0 ? off.toSecondsPart() + " s" : "");
        return words.strip();
    }
}
