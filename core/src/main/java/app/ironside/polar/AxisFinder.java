package app.ironside.polar;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.TangentPlane;
import app.ironside.sky.Vectors;
import java.util.List;
import java.util.stream.IntStream;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.EigenDecompositionSymmetric;

/**
 * Finds the right-ascension axis from three or more plate-solved exposures.
 *
 * <p>Metal knows nothing of refraction: each centre is first put where it was <em>seen</em> (refraction, aberration, precession
 * included) in the local frame east, north, up. While the mount turns about one axis these directions lie on a cone around it,
 * whatever the tracking and the cone error, so the axis is the normal of the plane through their tips: the eigenvector of the
 * smallest eigenvalue of their scatter.
 */
public final class AxisFinder {
    private static final double LEAST_TURN_DEG = 8;
    private static final double LEAST_DISTANCE_DEG = 3;

    /** More than refraction turns a field near the pole, less than a camera that slips. */
    private static final double MOST_DISAGREEMENT_DEG = 0.4;

    private static final double UP_STEP_DEG = 0.2;

    /** What a plate solution's centre is uncertain by if nobody says otherwise, arcseconds. */
    public static final double USUAL_CENTRE_SIGMA_ARCSEC = 1.5;

    private final Observer observer;

    public AxisFinder(Observer observer) {
        this.observer = observer;
    }

    /**
     * @param sights at least 3
     * @param centreSigmaArcsec standard deviation of each centre
     */
    public PolarResult find(List<AxisSight> sights, double centreSigmaArcsec) {
        if (sights.size() < 3) {
            return new PolarRefusal("Only " + sights.size() + " exposures were solved and 3 are needed: take more.");
        }
        double[][] seen = sights.stream()
                .map(s -> observer.observed(s.centre(), s.middle()).toEastNorthUp())
                .toArray(double[][]::new);
        double[] axis = towardPole(normal(seen));
        double turn = turnDeg(seen, axis);
        double radius = Math.toDegrees(Vectors.angle(axis, seen[0]));
        if (turn < LEAST_TURN_DEG) {
            return new PolarRefusal(String.format(
                    java.util.Locale.ROOT,
                    "The mount turned only %.1f° about its axis; turn it at least %.0f° in all.",
                    turn,
                    LEAST_TURN_DEG));
        }
        if (Math.min(radius, 180 - radius) < LEAST_DISTANCE_DEG) {
            return new PolarRefusal(String.format(
                    java.util.Locale.ROOT,
                    "The frames lie %.1f° from the axis, too near to see it turn; point at least %.0f° away.",
                    radius,
                    LEAST_DISTANCE_DEG));
        }
        double disagree = disagreementDeg(sights, axis);
        if (disagree > MOST_DISAGREEMENT_DEG) {
            return new PolarRefusal(String.format(
                    java.util.Locale.ROOT,
                    "The exposures do not agree: against the axis the camera turned by %.1f°. Lock declination and camera, wait until"
                            + " nothing swings, and take them again.",
                    disagree));
        }
        double[] error = errorArcmin(observer, axis);
        return new PolarError(error[0], error[1], uncertaintyArcmin(seen, axis, centreSigmaArcsec), turn);
    }

    /** The axis that three or more sights tell, east, north, up; for whoever follows it on. */
    double[] axis(List<AxisSight> sights) {
        return towardPole(normal(sights.stream()
                .map(s -> observer.observed(s.centre(), s.middle()).toEastNorthUp())
                .toArray(double[][]::new)));
    }

    /**
     * While the mount turns about one axis, the camera keeps its angle toward that axis. By how much it did not, degrees; 0 where camera
     * angles are not known.
     */
    private double disagreementDeg(List<AxisSight> sights, double[] axis) {
        double first = Double.NaN;
        double worst = 0;
        for (AxisSight sight : sights) {
            if (sight.rotationDeg().isEmpty()) {
                return 0;
            }
            double[] middle = observer.observed(sight.centre(), sight.middle()).toEastNorthUp();
            double turn = Math.toRadians(sight.rotationDeg().getAsDouble());
            Equatorial above = new TangentPlane(sight.centre())
                    .unproject(UP_STEP_DEG * Math.sin(turn), UP_STEP_DEG * Math.cos(turn));
            double[] up = Vectors.minus(observer.observed(above, sight.middle()).toEastNorthUp(), middle);
            double[] across = Vectors.unit(Vectors.cross(axis, middle));
            double[] along = Vectors.cross(middle, across);
            double angle = Math.toDegrees(Math.atan2(Vectors.dot(up, across), Vectors.dot(up, along)));
            if (Double.isNaN(first)) {
                first = angle;
            }
            worst = Math.max(worst, Math.abs(Angles.wrap180(angle - first)));
        }
        return worst;
    }

    /** Altitude and azimuth error of an axis, arcminutes on the sky. */
    static double[] errorArcmin(Observer observer, double[] axis) {
        Horizontal at = Horizontal.fromEastNorthUp(axis);
        double poleAltitude = observer.site().poleAltitudeDeg();
        double east = Angles.wrap180(at.azimuthDeg() - observer.site().poleAzimuthDeg());
        // South of the equator the pole is at azimuth 180°, where a larger azimuth is further west.
        double eastward = observer.site().latDeg() >= 0 ? east : -east;
        return new double[] {(at.altitudeDeg() - poleAltitude) * 60, eastward * Angles.cosDeg(poleAltitude) * 60};
    }

    private double[] towardPole(double[] axis) {
        double[] pole =
                new Horizontal(observer.site().poleAzimuthDeg(), observer.site().poleAltitudeDeg()).toEastNorthUp();
        return Vectors.dot(axis, pole) >= 0 ? axis : new double[] {-axis[0], -axis[1], -axis[2]};
    }

    private static double[] normal(double[][] tips) {
        double[] mean = new double[3];
        for (double[] tip : tips) {
            for (int k = 0; k < 3; k++) {
                mean[k] += tip[k] / tips.length;
            }
        }
        double[][] scatter = new double[3][3];
        for (double[] tip : tips) {
            double[] d = Vectors.minus(tip, mean);
            for (int i = 0; i < 3; i++) {
                for (int j = 0; j < 3; j++) {
                    scatter[i][j] += d[i] * d[j];
                }
            }
        }
        EigenDecompositionSymmetric eigen = new EigenDecompositionSymmetric(new Array2DRowRealMatrix(scatter, false));
        int smallest = IntStream.range(0, 3)
                .boxed()
                .min((a, b) -> Double.compare(eigen.getEigenvalue(a), eigen.getEigenvalue(b)))
                .orElseThrow();
        return Vectors.unit(eigen.getEigenvector(smallest).toArray());
    }

    /** The angle about the axis between the two sights furthest apart. */
    private static double turnDeg(double[][] seen, double[] axis) {
        double largest = 0;
        for (double[] a : seen) {
            for (double[] b : seen) {
                double[] p = Vectors.cross(axis, a);
                double[] q = Vectors.cross(axis, b);
                if (Vectors.length(p) > 1e-9 && Vectors.length(q) > 1e-9) {
                    largest = Math.max(largest, Math.toDegrees(Vectors.angle(p, q)));
                }
            }
        }
        return largest;
    }

    /** Propagates the error of each centre, in two directions, through the fit. */
    private static double uncertaintyArcmin(double[][] seen, double[] axis, double sigmaArcsec) {
        double step = 10 / Angles.ARCSEC_PER_RADIAN;
        double sum = 0;
        for (int i = 0; i < seen.length; i++) {
            double[] across = Vectors.unit(Vectors.cross(axis, seen[i]));
            double[] along = Vectors.cross(across, seen[i]);
            for (double[] direction : new double[][] {across, along}) {
                double[][] moved = seen.clone();
                moved[i] = Vectors.turn(seen[i], direction, step);
                double[] other = normal(moved);
                double angle = Vectors.angle(axis, other);
                double change = Math.min(angle, Math.PI - angle) / step * sigmaArcsec / 60;
                sum += change * change;
            }
        }
        return Math.sqrt(sum);
    }
}
