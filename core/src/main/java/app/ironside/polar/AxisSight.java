package app.ironside.polar;

import app.ironside.sky.Equatorial;
import java.time.Instant;
import java.util.OptionalDouble;

/**
 * What one exposure saw.
 *
 * @param centre of the frame, J2000
 * @param middle of the exposure
 * @param rotationDeg position angle of the frame's +y axis, east of north; empty if it is not known
 */
public record AxisSight(Equatorial centre, Instant middle, OptionalDouble rotationDeg) {
    /** A sight whose camera angle is not known. */
    public AxisSight(Equatorial centre, Instant middle) {
        this(centre, middle, OptionalDouble.empty());
    }
}
