package app.ironside.journal;

import app.ironside.sky.Equatorial;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * The polar axis was measured.
 *
 * @param altitudeErrorArcmin positive when too high
 * @param azimuthErrorArcmin positive when too far east
 * @param turnDeg by which the camera was turned about the axis
 * @param adjustment how often the knobs were turned before
 * @param live whether it was followed from one exposure, knobs at hand
 * @param tiltDeg of the base, as the knobs' effect shows it
 * @param altitudeTurns still to be turned
 * @param azimuthTurns still to be turned
 * @param advice the same in a sentence
 */
public record AxisMeasured(
        Instant time,
        String text,
        double altitudeErrorArcmin,
        double azimuthErrorArcmin,
        double totalErrorArcmin,
        double uncertaintyArcmin,
        double turnDeg,
        int adjustment,
        boolean live,
        OptionalDouble tiltDeg,
        OptionalDouble altitudeTurns,
        OptionalDouble azimuthTurns,
        String advice,
        List<Sight> sights)
        implements NightEvent {
    /**
     * An exposure by which the axis was measured.
     *
     * @param place if it was recognised
     * @param reason why it was not
     */
    public record Sight(String caption, String file, Optional<Place> place, String reason) {}

    /** Where an exposure points. */
    public record Place(Equatorial centre, double rotationDeg, int matchedStars, double rmsArcsec) {}

    public AxisMeasured {
        sights = List.copyOf(sights);
    }

    @Override
    public Stage station() {
        return Stage.POLAR;
    }

    @Override
    public boolean marked() {
        return true;
    }
}
