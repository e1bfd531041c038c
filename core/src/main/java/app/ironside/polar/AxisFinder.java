package app.ironside.polar;

import app.ironside.sky.Angles;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.TangentPlane;
import app.ironside.sky.Vectors;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.EigenDecompositionSymmetric;

/**
 * Finds the right-ascension axis from three or more plate-solved exposures.
 *
 * <p>Metal knows nothing of refraction: each centre is first put where it was <em>seen</em> (refraction, aberration, precession
 * included) in the local frame east, north, up. While the mount turns about one axis the camera turns rigidly about it, whatever the
 * tracking and the cone error: {@link AttitudeFit}. Where the camera's angle is not known, the directions lie on a cone around the
 * axis, which is the normal of the plane through their tips: the eigenvector of the smallest eigenvalue of their scatter.
 */
public final class AxisFinder {
    private static final double LEAST_TURN_DEG = 8;
    private static final double LEAST_DISTANCE_DEG = 3;

    /** More than refraction turns a field near the pole, less than a camera that slips. */
    private static final double MOST_DISAGREEMENT_DEG = 0.4;

    /** A centre that is off by more is that of a telescope that did something else than turn. */
    private static final double MOST_OFF_DEG = 0.05;

    private static final double UP_STEP_DEG = 0.2;
    private static final double USUAL_FIELD_RADIUS_DEG = 1;
    private static final double LEAST_ROLL_SIGMA_ARCSEC = 15;

    /** Mean distance of a frame's stars from its middle, as a share of that to its corner. */
    private static final double STARS_FROM_MIDDLE = 0.6;

    /** What a plate solution's centre is uncertain by if nobody says otherwise, arcseconds. */
    public static final double USUAL_CENTRE_SIGMA_ARCSEC = 1.5;

    private final Observer observer;

    public AxisFinder(Observer observer) {
        this.observer = observer;
    }

    /**
     * How well a plate solution tells its frame's angle: an error of the centre, over half the frame.
     *
     * @param fieldRadiusDeg from middle to corner
     */
    public static double rollSigmaArcsec(double centreSigmaArcsec, double fieldRadiusDeg) {
        return Math.max(
                LEAST_ROLL_SIGMA_ARCSEC,
                Math.sqrt(2) * centreSigmaArcsec / Math.toRadians(STARS_FROM_MIDDLE * fieldRadiusDeg));
    }

    /** As below, for a camera of whose field nothing is known. */
    public PolarResult find(List<AxisSight> sights, double centreSigmaArcsec) {
        return find(sights, centreSigmaArcsec, rollSigmaArcsec(centreSigmaArcsec, USUAL_FIELD_RADIUS_DEG));
    }

    /**
     * The axis, wherever the frames look: with the pole in them as well as far from it. Without the camera's angles they must lie apart.
     *
     * @param sights at least 3
     * @param centreSigmaArcsec standard deviation of each centre
     * @param rollSigmaArcsec of each camera angle
     */
    public PolarResult find(List<AxisSight> sights, double centreSigmaArcsec, double rollSigmaArcsec) {
        if (sights.size() < 3) {
            return new PolarRefusal("Only " + sights.size() + " exposures were solved and 3 are needed: take more.");
        }
        return sights.stream().allMatch(s -> s.rotationDeg().isPresent())
                ? byAttitude(sights, centreSigmaArcsec, rollSigmaArcsec)
                : byCentres(sights, centreSigmaArcsec);
    }

    private PolarResult byAttitude(List<AxisSight> sights, double centreSigmaArcsec, double rollSigmaArcsec) {
        Optional<AttitudeFit> found = fit(sights, centreSigmaArcsec, rollSigmaArcsec);
        if (found.isEmpty() || found.get().turnDeg() < LEAST_TURN_DEG) {
            return tooSmallATurn(found.map(AttitudeFit::turnDeg).orElse(0.0));
        }
        AttitudeFit fit = found.get();
        if (fit.rolledDeg() > MOST_DISAGREEMENT_DEG || fit.offDeg() > MOST_OFF_DEG) {
            return new PolarRefusal(String.format(
                    java.util.Locale.ROOT,
                    "The exposures do not agree: of one rigid turn they are off by %.2f° in place and %.1f° in angle. Lock declination and"
                            + " camera, wait until nothing swings, and take them again.",
                    fit.offDeg(),
                    fit.rolledDeg()));
        }
        double[] error = errorArcmin(observer, fit.axis());
        return new PolarError(error[0], error[1], fit.uncertaintyArcmin(), fit.turnDeg());
    }

    private static PolarRefusal tooSmallATurn(double turn) {
        return new PolarRefusal(String.format(
                java.util.Locale.ROOT,
                "The mount turned only %.1f° about its axis; turn it at least %.0f° in all.",
                turn,
                LEAST_TURN_DEG));
    }

    private PolarResult byCentres(List<AxisSight> sights, double centreSigmaArcsec) {
        double[][] seen = centres(sights);
        double[] axis = towardPole(normal(seen));
        double turn = turnDeg(seen, axis);
        double radius = Math.toDegrees(Vectors.angle(axis, seen[0]));
        if (turn < LEAST_TURN_DEG) {
            return tooSmallATurn(turn);
        }
        if (Math.min(radius, 180 - radius) < LEAST_DISTANCE_DEG) {
            return new PolarRefusal(String.format(
                    java.util.Locale.ROOT,
                    "The frames lie %.1f° from the axis and their angles are not known, so they do not show it turn; point at least %.0f°"
                            + " away.",
                    radius,
                    LEAST_DISTANCE_DEG));
        }
        double[] error = errorArcmin(observer, axis);
        return new PolarError(error[0], error[1], uncertaintyArcmin(seen, axis, centreSigmaArcsec), turn);
    }

    private double[][] centres(List<AxisSight> sights) {
        return sights.stream()
                .map(s -> observer.observed(s.centre(), s.middle()).toEastNorthUp())
                .toArray(double[][]::new);
    }

    /** The axis that three or more sights tell, east, north, up; for whoever follows it on. */
    double[] axis(List<AxisSight> sights, double centreSigmaArcsec) {
        boolean angles = sights.stream().allMatch(s -> s.rotationDeg().isPresent());
        return Optional.of(sights)
                .filter(s -> angles)
                .flatMap(s -> fit(s, centreSigmaArcsec, rollSigmaArcsec(centreSigmaArcsec, USUAL_FIELD_RADIUS_DEG)))
                .map(AttitudeFit::axis)
                .orElseGet(() -> towardPole(normal(centres(sights))));
    }

    private Optional<AttitudeFit> fit(List<AxisSight> sights, double centreSigmaArcsec, double rollSigmaArcsec) {
        return AttitudeFit.of(
                        sights.stream().map(this::attitude).toArray(AttitudeFit.Attitude[]::new),
                        centreSigmaArcsec / Angles.ARCSEC_PER_RADIAN,
                        rollSigmaArcsec / Angles.ARCSEC_PER_RADIAN)
                .map(fit -> fit.toward(pole()));
    }

    /** Where the camera looked and how it lay, as seen from the ground. */
    private AttitudeFit.Attitude attitude(AxisSight sight) {
        double[] middle = observer.observed(sight.centre(), sight.middle()).toEastNorthUp();
        double turn = Math.toRadians(sight.rotationDeg().orElseThrow());
        Equatorial above =
                new TangentPlane(sight.centre()).unproject(UP_STEP_DEG * Math.sin(turn), UP_STEP_DEG * Math.cos(turn));
        double[] up = Vectors.minus(observer.observed(above, sight.middle()).toEastNorthUp(), middle);
        // Across the line of sight, whatever the step has bent.
        double[] right = Vectors.unit(Vectors.cross(middle, up));
        return new AttitudeFit.Attitude(middle, Vectors.cross(right, middle));
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

    private double[] pole() {
        return new Horizontal(observer.site().poleAzimuthDeg(), observer.site().poleAltitudeDeg()).toEastNorthUp();
    }

    private double[] towardPole(double[] axis) {
        return Vectors.dot(axis, pole()) >= 0 ? axis : new double[] {-axis[0], -axis[1], -axis[2]};
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
