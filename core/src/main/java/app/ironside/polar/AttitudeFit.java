package app.ironside.polar;

import app.ironside.sky.Angles;
import app.ironside.sky.Vectors;
import java.util.Arrays;
import java.util.Optional;
import org.hipparchus.exception.MathRuntimeException;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.LUDecomposition;
import org.hipparchus.linear.RealMatrix;

/**
 * The axis about which a rigid camera turned, from where it looked and how it lay: least squares over the axis, the camera's attitude in
 * the first exposure and the turn to each other one. Where it looks tells most far from the axis; near it, where frames hardly move, how
 * they lie tells by how much they turned, and the point that stays tells the axis. Pure.
 *
 * @param axis unit vector in the frame of the sights
 * @param sigmaRad standard deviation of the axis, both directions together
 * @param turnDeg largest turn between two sights
 * @param offDeg what is left of the worst centre
 * @param rolledDeg what is left of the worst angle
 */
record AttitudeFit(double[] axis, double sigmaRad, double turnDeg, double offDeg, double rolledDeg) {
    private static final int ROUNDS = 25;
    private static final double STEP = 1e-7;
    private static final double DONE = 1e-11;

    /** Of the axis, and of the first attitude. */
    private static final int FIXED = 5;

    /**
     * A camera's attitude.
     *
     * @param centre unit vector
     * @param up unit vector across it: the way of the frame's upper edge
     */
    record Attitude(double[] centre, double[] up) {
        private Attitude turned(double[] about, double angle) {
            return new Attitude(Vectors.turn(centre, about, angle), Vectors.turn(up, about, angle));
        }

        private double[] right() {
            return Vectors.cross(centre, up);
        }
    }

    /**
     * Fits three or more attitudes.
     *
     * @param centreSigma standard deviation of each centre in each direction, radians
     * @param rollSigma of each angle, radians
     * @return empty if they do not tell an axis: nothing turned
     */
    static Optional<AttitudeFit> of(Attitude[] seen, double centreSigma, double rollSigma) {
        int n = seen.length;
        double[] start = firstAxis(seen);
        if (start == null) {
            return Optional.empty();
        }
        double[] turns = new double[n];
        for (int i = 1; i < n; i++) {
            turns[i] = turn(seen[0], seen[i], start);
        }
        Model model = new Model(seen, start, turns, centreSigma, rollSigma);
        double[] p = new double[FIXED + n - 1];
        RealMatrix covariance = null;
        try {
            for (int round = 0; round < ROUNDS; round++) {
                double[] r = model.residuals(p);
                RealMatrix j = model.slopes(p, r);
                LUDecomposition normal = new LUDecomposition(j.transpose().multiply(j), 0);
                covariance = normal.getSolver().getInverse();
                double[] step = covariance
                        .operate(j.transpose().operate(new ArrayRealVector(r)))
                        .toArray();
                for (int k = 0; k < p.length; k++) {
                    p[k] -= step[k];
                }
                if (Arrays.stream(step).map(Math::abs).max().orElse(0) < DONE) {
                    break;
                }
            }
        } catch (MathRuntimeException e) {
            return Optional.empty();
        }
        double[] axis = model.axis(p);
        double[] r = model.residuals(p);
        double off = 0;
        double rolled = 0;
        for (int i = 0; i < n; i++) {
            off = Math.max(off, centreSigma * Math.hypot(r[3 * i], r[3 * i + 1]));
            rolled = Math.max(rolled, rollSigma * Math.abs(r[3 * i + 2]));
        }
        double least = 0;
        double most = 0;
        for (int i = 1; i < n; i++) {
            double t = turns[i] + p[FIXED + i - 1];
            least = Math.min(least, t);
            most = Math.max(most, t);
        }
        double sigma = Math.sqrt(covariance.getEntry(0, 0) + covariance.getEntry(1, 1));
        return Double.isFinite(sigma) && Double.isFinite(axis[0])
                ? Optional.of(new AttitudeFit(
                        axis, sigma, Math.toDegrees(most - least), Math.toDegrees(off), Math.toDegrees(rolled)))
                : Optional.empty();
    }

    /** The axis of the largest turn between two of them; null if nothing turned. */
    private static double[] firstAxis(Attitude[] seen) {
        double[] best = null;
        double largest = 0;
        for (int i = 0; i < seen.length; i++) {
            for (int j = i + 1; j < seen.length; j++) {
                double[] v = rotation(seen[i], seen[j]);
                double angle = Vectors.length(v);
                if (angle > largest) {
                    largest = angle;
                    best = Vectors.unit(v);
                }
            }
        }
        return best;
    }

    /** The rotation that takes one attitude to another, as axis times the sine of its angle. */
    private static double[] rotation(Attitude a, Attitude b) {
        // The antisymmetric part of the sum of b aT over the three directions of the camera.
        double[] sum = new double[3];
        double[][] from = {a.centre(), a.up(), a.right()};
        double[][] to = {b.centre(), b.up(), b.right()};
        for (int k = 0; k < 3; k++) {
            double[] cross = Vectors.cross(from[k], to[k]);
            for (int d = 0; d < 3; d++) {
                sum[d] += cross[d] / 2;
            }
        }
        return sum;
    }

    /** By how much an attitude is turned about an axis against another; of the camera's directions the one furthest from the axis tells. */
    private static double turn(Attitude from, Attitude to, double[] axis) {
        double[][] f = {from.centre(), from.up(), from.right()};
        double[][] t = {to.centre(), to.up(), to.right()};
        int best = 0;
        for (int k = 1; k < 3; k++) {
            if (Math.abs(Vectors.dot(f[k], axis)) < Math.abs(Vectors.dot(f[best], axis))) {
                best = k;
            }
        }
        double[] p = Vectors.cross(axis, f[best]);
        double[] q = Vectors.cross(axis, t[best]);
        return Math.atan2(Vectors.dot(axis, Vectors.cross(p, q)), Vectors.dot(p, q));
    }

    /** What the sights would be, and by how much they are not. */
    private static final class Model {
        private final Attitude[] seen;
        private final double[] start;
        private final double[] across;
        private final double[] along;
        private final double[] turns;
        private final double centreSigma;
        private final double rollSigma;

        Model(Attitude[] seen, double[] start, double[] turns, double centreSigma, double rollSigma) {
            this.seen = seen;
            this.start = start;
            this.turns = turns;
            this.centreSigma = centreSigma;
            this.rollSigma = rollSigma;
            double[] any = Math.abs(start[2]) < 0.9 ? new double[] {0, 0, 1} : new double[] {1, 0, 0};
            this.across = Vectors.unit(Vectors.cross(start, any));
            this.along = Vectors.cross(start, across);
        }

        double[] axis(double[] p) {
            double[] a = new double[3];
            for (int d = 0; d < 3; d++) {
                a[d] = start[d] + p[0] * across[d] + p[1] * along[d];
            }
            return Vectors.unit(a);
        }

        /** Three for each sight: centre right and up, angle; each over its standard deviation. */
        double[] residuals(double[] p) {
            double[] axis = axis(p);
            double[] v = {p[2], p[3], p[4]};
            double angle = Vectors.length(v);
            Attitude base = angle < 1e-15 ? seen[0] : seen[0].turned(Vectors.unit(v), angle);
            double[] r = new double[3 * seen.length];
            for (int i = 0; i < seen.length; i++) {
                Attitude at = i == 0 ? base : base.turned(axis, turns[i] + p[FIXED + i - 1]);
                double[] right = seen[i].right();
                r[3 * i] = Vectors.dot(at.centre(), right) / centreSigma;
                r[3 * i + 1] = Vectors.dot(at.centre(), seen[i].up()) / centreSigma;
                r[3 * i + 2] = Math.atan2(Vectors.dot(at.up(), right), Vectors.dot(at.up(), seen[i].up())) / rollSigma;
            }
            return r;
        }

        RealMatrix slopes(double[] p, double[] at) {
            double[][] j = new double[at.length][p.length];
            for (int k = 0; k < p.length; k++) {
                double[] moved = p.clone();
                moved[k] += STEP;
                double[] there = residuals(moved);
                for (int i = 0; i < at.length; i++) {
                    j[i][k] = (there[i] - at[i]) / STEP;
                }
            }
            return new Array2DRowRealMatrix(j, false);
        }
    }

    /** The same fit with the axis toward a direction, not away from it. */
    AttitudeFit toward(double[] pole) {
        return Vectors.dot(axis, pole) >= 0
                ? this
                : new AttitudeFit(new double[] {-axis[0], -axis[1], -axis[2]}, sigmaRad, turnDeg, offDeg, rolledDeg);
    }

    /** Of the axis, arcminutes. */
    double uncertaintyArcmin() {
        return sigmaRad * Angles.ARCSEC_PER_RADIAN / 60;
    }
}
