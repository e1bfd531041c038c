package app.ironside.polar;

/**
 * How far the axis is from the true pole, as angles on the sky at the pole.
 *
 * @param altitudeErrorArcmin positive: the axis points too high
 * @param azimuthErrorArcmin positive: the axis points too far east
 * @param uncertaintyArcmin one standard deviation of the total, from the residual of the plate solutions
 * @param turnDeg how far the mount was turned about the axis
 */
public record PolarError(
        double altitudeErrorArcmin, double azimuthErrorArcmin, double uncertaintyArcmin, double turnDeg)
        implements PolarResult {
    /** Whether more turning is of no use: what is left is within what the measurement can tell. */
    public boolean isWithinMeasurement() {
        return totalArcmin() < 1.5 * uncertaintyArcmin;
    }

    public double totalArcmin() {
        return Math.hypot(altitudeErrorArcmin, azimuthErrorArcmin);
    }

    /** The error with its uncertainty on top: what a limit is held against. */
    public double atMostArcmin() {
        return totalArcmin() + uncertaintyArcmin;
    }
}
