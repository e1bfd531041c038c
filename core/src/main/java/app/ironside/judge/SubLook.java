package app.ironside.judge;

import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What one sub shows, as far as judging it goes.
 *
 * @param name by which it is known: a file
 * @param series what it may be compared with: lights of one filter, exposure and size have one name here
 * @param time the middle of the exposure
 * @param stars found
 * @param hfrPx median half-flux radius, 0 without stars
 * @param fwhmPx median width at half of the peak, 0 without stars
 * @param eccentricity median, 0 to 1
 * @param backgroundAdu level between the stars
 * @param noiseAdu of a background pixel
 * @param light the stars' light over that of one sub of the series; empty if its stars are not those of the series
 * @param overlap share of the series' field that it shows, 0 to 1
 * @param altitudeDeg of the field, apparent
 * @param sunAltitudeDeg where the place is known
 * @param moonAltitudeDeg where the place is known
 * @param moonShare lit share of the Moon's disc; tells without a place too
 */
public record SubLook(
        String name,
        String series,
        Optional<Instant> time,
        double exposureS,
        int stars,
        double hfrPx,
        double fwhmPx,
        double eccentricity,
        double backgroundAdu,
        double noiseAdu,
        OptionalDouble light,
        double overlap,
        OptionalDouble altitudeDeg,
        OptionalDouble sunAltitudeDeg,
        OptionalDouble moonAltitudeDeg,
        OptionalDouble moonShare) {
    /** Fewer stars say nothing. */
    static final int FEWEST_STARS = 5;

    boolean hasStars() {
        return stars >= FEWEST_STARS && hfrPx > 0;
    }

    /** Whether it shows the series' field, so that its light can be compared. */
    boolean comparable() {
        return hasStars() && light.isPresent() && light.getAsDouble() > 0 && noiseAdu > 0;
    }

    /** Width of its stars across their long axis. */
    double shortAxisPx() {
        return fwhmPx * Math.pow(1 - eccentricity * eccentricity, 0.25);
    }

    /** Width of its stars along their long axis. */
    double longAxisPx() {
        return fwhmPx / Math.pow(Math.max(1e-3, 1 - eccentricity * eccentricity), 0.25);
    }

    /** What it adds to a stack's squared signal-to-noise, of faint light, on a scale of the series' own. */
    double worth() {
        return comparable() ? Math.pow(light.getAsDouble() / noiseAdu, 2) : 0;
    }
}
