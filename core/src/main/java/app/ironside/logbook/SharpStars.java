package app.ironside.logbook;

import app.ironside.image.Header;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * How small the stars of a kit have been on real nights.
 *
 * @param seen kept subs, the sharpest first
 */
public record SharpStars(List<Seen> seen) {
    public static final SharpStars NONE = new SharpStars(List.of());

    /** One in so many is sharper than what counts as the best: the luckiest sub is no yardstick. */
    private static final int LUCKY = 20;

    /** Glass and tube of nights no further from this are alike (common practice). */
    public static final double ALIKE_C = 4;

    /** Fewer of a temperature tell nothing of it. */
    private static final int FEWEST = 10;

    /** In whichever of the usual words the air or the tube is told. */
    private static final List<String> TUBE =
            List.of("FOCTEMP", "FOCUSTEM", "AMBTEMP", "AMB-TEMP", "AMBIENT", "TEMPEXT", "AOCAMBT");

    /**
     * A sub.
     *
     * @param radiusPx half-flux radius
     * @param tubeC temperature of the tube, where it was told
     */
    public record Seen(double radiusPx, OptionalDouble tubeC) {}

    public SharpStars {
        seen = List.copyOf(seen);
    }

    /** The best, at any temperature; empty without subs. */
    public OptionalDouble best() {
        return best(seen);
    }

    /** The best about a temperature; empty with too few subs of it. */
    public OptionalDouble bestAbout(double tubeC) {
        List<Seen> alike = seen.stream()
                .filter(s -> s.tubeC().isPresent() && Math.abs(s.tubeC().getAsDouble() - tubeC) <= ALIKE_C)
                .toList();
        return alike.size() < FEWEST ? OptionalDouble.empty() : best(alike);
    }

    private static OptionalDouble best(List<Seen> some) {
        return some.isEmpty()
                ? OptionalDouble.empty()
                : OptionalDouble.of(some.get(some.size() / LUCKY).radiusPx());
    }

    /** The temperature that a frame tells of tube or air; a camera's own is neither. */
    public static OptionalDouble tubeC(Header header) {
        Optional<OptionalDouble> first = TUBE.stream()
                .map(header::number)
                .filter(OptionalDouble::isPresent)
                .findFirst();
        return first.orElse(OptionalDouble.empty());
    }
}
