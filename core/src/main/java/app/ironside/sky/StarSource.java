package app.ironside.sky;

import java.util.List;

/** Where stars come from that are fainter than the shipped catalogue; invented ones are named "invented". */
@FunctionalInterface
public interface StarSource {
    /** Stars of a circle down to a magnitude, in any order. */
    List<CatalogueStar> stars(Equatorial centre, double radiusDeg, double faintest);
}
