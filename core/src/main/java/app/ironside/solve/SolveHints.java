package app.ironside.solve;

import app.ironside.Check;
import app.ironside.sky.Equatorial;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What is believed of a frame before it is solved.
 *
 * @param near where it points
 * @param radiusDeg how far from there it may be
 * @param scaleArcsecPerPixel image scale
 * @param scaleTolerance how wrong the scale may be, as a share
 */
public record SolveHints(
        Optional<Equatorial> near, double radiusDeg, OptionalDouble scaleArcsecPerPixel, double scaleTolerance) {
    /** Nothing is known: search the whole sky. */
    public static final SolveHints NONE = new SolveHints(Optional.empty(), 180, OptionalDouble.empty(), 0.05);

    public SolveHints {
        Check.inRange("radiusDeg", radiusDeg, 0.01, 180);
        Check.inRange("scaleTolerance", scaleTolerance, 0.0001, 0.9);
    }

    public SolveHints withNear(Equatorial place, double withinDeg) {
        return new SolveHints(Optional.of(place), withinDeg, scaleArcsecPerPixel, scaleTolerance);
    }

    public SolveHints withScale(double arcsecPerPixel, double tolerance) {
        return new SolveHints(
                near, radiusDeg, OptionalDouble.of(Check.positive("arcsecPerPixel", arcsecPerPixel)), tolerance);
    }

    boolean allowsScale(double arcsecPerPixel) {
        return scaleArcsecPerPixel.isEmpty()
                || Math.abs(arcsecPerPixel / scaleArcsecPerPixel.getAsDouble() - 1) <= scaleTolerance;
    }

    boolean allowsCentre(Equatorial centre) {
        return near.isEmpty() || near.get().separationDeg(centre) <= radiusDeg;
    }
}
