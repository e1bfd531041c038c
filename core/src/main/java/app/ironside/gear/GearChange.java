package app.ironside.gear;

import app.ironside.Check;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Something that was done to the gear by day.
 *
 * @param on before the night of this date
 * @param kit it was done to
 * @param note in one's own words; may be empty
 */
public record GearChange(LocalDate on, String kit, Kind kind, String note) {
    /** What of the record is true no longer after a change. */
    public enum Voids {
        /** Dust and the shading of the field are others. */
        FLATS("the flats"),
        /** The gears answer otherwise. */
        GUIDER("the guider's calibration"),
        /** Steps count from another place. */
        FOCUS("the focus positions"),
        /** The tube sits otherwise on the mount. */
        POINTING("the pointing model");

        private final String words;

        Voids(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /** What is done to gear, with what it makes void (common practice). */
    public enum Kind {
        CLEANED("sensor or glass cleaned", EnumSet.of(Voids.FLATS)),
        TURNED("camera turned", EnumSet.of(Voids.FLATS, Voids.GUIDER)),
        TAKEN_APART("taken apart and put together", EnumSet.of(Voids.FLATS, Voids.GUIDER, Voids.FOCUS, Voids.POINTING)),
        FOCUSER("focuser exchanged or its zero set", EnumSet.of(Voids.FOCUS)),
        GREASED("gears greased or set", EnumSet.of(Voids.GUIDER)),
        LEAK("light leak found or closed", EnumSet.of(Voids.FLATS)),
        CABLE("cable exchanged or laid anew", EnumSet.noneOf(Voids.class)),
        OTHER("something else", EnumSet.noneOf(Voids.class));

        private final String words;
        private final Set<Voids> voids;

        Kind(String words, Set<Voids> voids) {
            this.words = words;
            this.voids = voids;
        }

        public String words() {
            return words;
        }

        public Set<Voids> voids() {
            return EnumSet.copyOf(voids);
        }

        /** What of before is void: "voids the flats of before". */
        public String effect() {
            return voids.isEmpty()
                    ? "makes nothing void"
                    : "voids " + voids.stream().map(Voids::words).collect(Collectors.joining(" and ")) + " of before";
        }
    }

    public GearChange {
        Check.name("the kit that was changed", kit);
        note = note.strip();
    }

    /** Whether it lies between two nights, the later one's day included. */
    public boolean between(LocalDate one, LocalDate other) {
        LocalDate first = one.isBefore(other) ? one : other;
        LocalDate last = one.isBefore(other) ? other : one;
        return first.isBefore(on) && !last.isBefore(on);
    }

    /** From when on the gear is the changed one: noon of its day. */
    public Instant since(ZoneId zone) {
        return on.atTime(LocalTime.NOON).atZone(zone).toInstant();
    }

    /** Whether frames may be of this kit: of those that do not tell their telescope it is not known. */
    public boolean mayConcern(Optional<String> telescope) {
        return telescope.isEmpty()
                || telescope.get().strip().toLowerCase(Locale.ROOT).equals(kit.toLowerCase(Locale.ROOT));
    }

    /** "2026-11-02, Wren: camera turned (new ring)". */
    public String words() {
        return on + ", " + kit + ": " + kind.words() + (note.isEmpty() ? "" : " (" + note + ")");
    }
}
