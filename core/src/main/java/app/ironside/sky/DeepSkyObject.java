package app.ironside.sky;

import java.util.Optional;

/**
 * A galaxy, nebula or cluster.
 *
 * @param id the usual designation, for example "M 33"
 * @param alias another designation, or empty
 * @param name a proper name, or empty
 * @param magnitude total, V or B as the source had it
 * @param longAxisArcmin 0 where the source has none
 * @param positionAngleDeg of the long axis, from north through east; empty where none is known
 */
public record DeepSkyObject(
        String id,
        String alias,
        String name,
        Kind kind,
        Equatorial position,
        Optional<Double> magnitude,
        double longAxisArcmin,
        double shortAxisArcmin,
        Optional<Double> positionAngleDeg) {
    /** An object of which nobody knows how it lies. */
    public DeepSkyObject(
            String id,
            String alias,
            String name,
            Kind kind,
            Equatorial position,
            Optional<Double> magnitude,
            double longAxisArcmin,
            double shortAxisArcmin) {
        this(id, alias, name, kind, position, magnitude, longAxisArcmin, shortAxisArcmin, Optional.empty());
    }

    /** Whether it is longer than wide, and it is known which way. */
    public boolean hasShape() {
        return positionAngleDeg.isPresent() && shortAxisArcmin > 0 && shortAxisArcmin < longAxisArcmin;
    }

    /** What an object is, and with it what light it sends. */
    public enum Kind {
        GALAXY_CLUSTER("gg", "galaxy cluster"),
        GALAXY("g", "galaxy"),
        SPIRAL("s", "spiral galaxy"),
        LENTICULAR("s0", "lenticular galaxy"),
        DWARF_SPHEROIDAL("sd", "dwarf spheroidal galaxy"),
        IRREGULAR("i", "irregular galaxy"),
        ELLIPTICAL("e", "elliptical galaxy"),
        OPEN_CLUSTER("oc", "open cluster"),
        GLOBULAR_CLUSTER("gc", "globular cluster"),
        DARK_NEBULA("dn", "dark nebula"),
        BRIGHT_NEBULA("bn", "bright nebula"),
        STAR_FORMING("sfr", "star-forming region"),
        REFLECTION_NEBULA("rn", "reflection nebula"),
        EMISSION_NEBULA("en", "emission nebula"),
        PLANETARY_NEBULA("pn", "planetary nebula"),
        SUPERNOVA_REMNANT("snr", "supernova remnant");

        private final String code;
        private final String words;

        Kind(String code, String words) {
            this.code = code;
            this.words = words;
        }

        static Kind ofCode(String code) {
            for (Kind kind : values()) {
                if (kind.code.equals(code)) {
                    return kind;
                }
            }
            throw new IllegalArgumentException("no kind of object has the code " + code);
        }

        /** For people: "spiral galaxy". */
        public String words() {
            return words;
        }
    }
}
