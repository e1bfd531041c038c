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
    public double totalArcmin() {
        return Math.hypot(altitudeErrorArcmin, azimuthErrorArcmin);
    }
}
