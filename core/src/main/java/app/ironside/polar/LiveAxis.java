package app.ironside.polar;

import app.ironside.sky.Angles;
import app.ironside.sky.Observer;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/**
 * Follows the axis while hands turn the knobs: after a measurement each further exposure, with the mount only tracking, tells where the
 * axis has gone.
 *
 * <p>The knobs turn the whole mount, altitude about a level east-west line and azimuth about the vertical. Without them the telescope
 * would have been carried about the old axis at the sidereal rate; the turn that brings that direction to the one seen is the knobs'.
 */
public final class LiveAxis {
    /** Sidereal rotation, radians in a second of mean time (IERS Conventions 2010, table 1.1). */
    private static final double EARTH_RATE_RAD_PER_S = 7.292_115e-5;

    private static final int ROUNDS = 6;
    private static final double STEP_RAD = 1e-6;

    /** What tracking strays by in a few minutes: a worm's error of ten arcseconds or so (common practice). A full measurement is free of it. */
    private static final double GEAR_SIGMA_ARCSEC = 10;

    /** An axis that moved by this many standard deviations between two exposures did not do so by chance. */
    private static final double KNOCK_SIGMAS = 5;

    private static final double LEAST_DETERMINANT = 0.01;

    private final Observer observer;
    private final double[] axis;
    private final double[] from;
    private final AxisSight base;
    private final double sigmaArcsec;
    private final double baseUncertaintyArcmin;

    private LiveAxis(
            Observer observer, double[] axis, AxisSight base, double sigmaArcsec, double baseUncertaintyArcmin) {
        this.observer = observer;
        this.axis = axis;
        this.base = base;
        this.from = observer.observed(base.centre(), base.middle()).toEastNorthUp();
        this.sigmaArcsec = sigmaArcsec;
        this.baseUncertaintyArcmin = baseUncertaintyArcmin;
    }

    /**
     * Begins at the last of the exposures that measured the axis.
     *
     * @param measured from the same sights
     * @param centreSigmaArcsec standard deviation of each centre
     */
    public static LiveAxis after(
            Observer observer, List<AxisSight> sights, PolarError measured, double centreSigmaArcsec) {
        return new LiveAxis(
                observer,
                new AxisFinder(observer).axis(sights, centreSigmaArcsec),
                sights.get(sights.size() - 1),
                centreSigmaArcsec,
                measured.uncertaintyArcmin());
    }

    /**
     * Where the axis is now.
     *
     * @return a refusal if the telescope looks so far east or west that the knobs hardly move its view
     */
    public PolarResult update(AxisSight sight) {
        double seconds = Duration.between(base.middle(), sight.middle()).toMillis() / 1000.0;
        double sense = observer.site().latDeg() >= 0 ? -1 : 1;
        double[] carried = Vectors.turn(from, axis, sense * EARTH_RATE_RAD_PER_S * seconds);
        double[] seen = observer.observed(sight.centre(), sight.middle()).toEastNorthUp();
        double up = 0;
        double east = 0;
        double[][] slopes = new double[2][];
        double determinant = 0;
        for (int round = 0; round < ROUNDS; round++) {
            double[] at = turned(carried, up, east);
            slopes[0] = slope(at, turned(carried, up + STEP_RAD, east));
            slopes[1] = slope(at, turned(carried, up, east + STEP_RAD));
            double[] off = Vectors.minus(seen, at);
            double aa = Vectors.dot(slopes[0], slopes[0]);
            double bb = Vectors.dot(slopes[1], slopes[1]);
            double ab = Vectors.dot(slopes[0], slopes[1]);
            determinant = aa * bb - ab * ab;
            if (determinant < LEAST_DETERMINANT) {
                return new PolarRefusal(
                        "From here the knobs hardly move the view: point nearer to the meridian or the pole.");
            }
            double a = Vectors.dot(slopes[0], off);
            double b = Vectors.dot(slopes[1], off);
            up += (a * bb - b * ab) / determinant;
            east += (b * aa - a * ab) / determinant;
        }
        double[] error = AxisFinder.errorArcmin(observer, turned(axis, up, east));
        double aa = Vectors.dot(slopes[0], slopes[0]);
        double bb = Vectors.dot(slopes[1], slopes[1]);
        double pole = Angles.cosDeg(observer.site().poleAltitudeDeg());
        // Both the first and this exposure's centre enter, and the gear's error between them.
        double each = Math.sqrt(2 * sigmaArcsec * sigmaArcsec + GEAR_SIGMA_ARCSEC * GEAR_SIGMA_ARCSEC);
        double own = each / 60 * Math.sqrt((bb + aa * pole * pole) / determinant);
        return new PolarError(error[0], error[1], Math.hypot(own, baseUncertaintyArcmin), 0);
    }

    /** A direction carried by the knobs: altitude about the level line toward the pole's east, then azimuth about the vertical. */
    private double[] turned(double[] direction, double up, double east) {
        boolean north = observer.site().latDeg() >= 0;
        // Raising turns what looks north about the west, what looks south about the east.
        double[] level = {north ? 1 : -1, 0, 0};
        double[] raised = Vectors.turn(direction, level, up);
        return Vectors.turn(raised, new double[] {0, 0, 1}, north ? -east : east);
    }

    private static double[] slope(double[] from, double[] to) {
        double[] d = Vectors.minus(to, from);
        return new double[] {d[0] / STEP_RAD, d[1] / STEP_RAD, d[2] / STEP_RAD};
    }

    /**
     * Whether the axis moved between two measurements although nobody turned a knob.
     *
     * @return what happened, in a sentence; empty if it stayed
     */
    public static Optional<String> knock(PolarError before, PolarError after) {
        double moved = Math.hypot(
                after.altitudeErrorArcmin() - before.altitudeErrorArcmin(),
                after.azimuthErrorArcmin() - before.azimuthErrorArcmin());
        double sigma = Math.hypot(before.uncertaintyArcmin(), after.uncertaintyArcmin());
        return moved < KNOCK_SIGMAS * sigma
                ? Optional.empty()
                : Optional.of(String.format(
                        java.util.Locale.ROOT,
                        "The axis moved by %.1f′ with no knob turned: the tripod was knocked or settles. Check the clamps and measure again.",
                        moved));
    }
}
