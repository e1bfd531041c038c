package app.ironside.guide;

import java.util.Arrays;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.stream.IntStream;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.linear.RealMatrix;
import org.hipparchus.linear.RealVector;

/**
 * What an axis is taken to do, from what it has shown: each a pure function of its {@link AxisHistory}. A law says where the axis stands
 * without the air, and by how much it will have moved on by the next exposure; {@link AxisRule} sends back the second whole and of the
 * first a share.
 */
public enum GuideLaw implements Way {
    /** The last exposure, steadied a little by the one before. */
    PROPORTIONAL("answers the last exposure, steadied a little by the one before; for any mount") {
        @Override
        Reading read(AxisHistory seen, OptionalDouble periodSeconds) {
            double last = seen.openAgo(0);
            return new Reading(
                    Math.min(seen.size(), seen.sinceJump()) < 2 ? last : (1 - MEMORY) * last + MEMORY * seen.openAgo(1),
                    0);
        }
    },
    /** A line through the last exposures. */
    LOW_PASS("a line through the last dozen exposures; for an axis that only drifts, as declination does") {
        @Override
        Reading read(AxisHistory seen, OptionalDouble periodSeconds) {
            int n = Math.min(seen.sinceJump(), Math.min(seen.size(), LINE));
            if (n < FEWEST_FOR_LINE) {
                return PROPORTIONAL.read(seen, periodSeconds);
            }
            double now = seen.secondsAgo(0);
            double w = 0;
            double wt = 0;
            double wtt = 0;
            double wy = 0;
            double wty = 0;
            for (int i = 0; i < n; i++) {
                double weight = FADED[i];
                double t = seen.secondsAgo(i) - now;
                double y = seen.openAgo(i);
                w += weight;
                wt += weight * t;
                wtt += weight * t * t;
                wy += weight * y;
                wty += weight * t * y;
            }
            double determinant = w * wtt - wt * wt;
            double slope = (w * wty - wt * wy) / determinant;
            double level = (wy - slope * wt) / w;
            double squares = 0;
            double weights2 = 0;
            for (int i = 0; i < n; i++) {
                double weight = FADED[i];
                double off = seen.openAgo(i) - level - slope * (seen.secondsAgo(i) - now);
                squares += weight * off * off;
                weights2 += weight * weight;
            }
            double variance = squares / w * n / (n - 2.0);
            double slopeVariance = variance * weights2 / w * w / determinant;
            return new Reading(level, shrunk(slope, slopeVariance) * cadence(seen));
        }
    },
    /** The gear's swing, learned and sent ahead. */
    FORESEEING("learns the swing of the gear and sends it ahead; for right ascension, after a period or two") {
        @Override
        Reading read(AxisHistory seen, OptionalDouble periodSeconds) {
            Reading last = PROPORTIONAL.read(seen, periodSeconds);
            if (periodSeconds.isEmpty()) {
                return last;
            }
            return new Reading(
                    last.levelArcsec(),
                    swing(seen, periodSeconds.getAsDouble())
                            .map(s -> s.ahead(cadence(seen)))
                            .orElse(0.0));
        }
    };

    /**
     * What a law makes of a history.
     *
     * @param levelArcsec where the axis would stand had nothing been sent
     * @param forwardArcsec by how much that will have changed by the next exposure
     */
    public record Reading(double levelArcsec, double forwardArcsec) {}

    /** How much of the exposure before the last counts. */
    private static final double MEMORY = 0.15;

    private static final int LINE = 16;
    private static final double FADING = 6;

    /** Weights of the last exposures. */
    private static final double[] FADED =
            IntStream.range(0, LINE).mapToDouble(i -> Math.exp(-i / FADING)).toArray();

    private static final int FEWEST_FOR_LINE = 6;

    private static final int HARMONICS = 2;

    /** A swing is taken for one when so much of it was seen. */
    private static final double FEWEST_PERIODS = 1.2;

    private static final double MOST_PERIODS = 4;

    private final String explained;

    GuideLaw(String explained) {
        this.explained = explained;
    }

    @Override
    public String explained() {
        return explained;
    }

    /**
     * Reads a history of at least one exposure.
     *
     * @param periodSeconds of the gear, if it is known
     */
    abstract Reading read(AxisHistory seen, OptionalDouble periodSeconds);

    /** Usual time from one exposure to the next, seconds. */
    static double cadence(AxisHistory seen) {
        int n = Math.min(seen.size(), LINE);
        if (n < 2) {
            return 0;
        }
        double[] steps = new double[n - 1];
        for (int i = 0; i < steps.length; i++) {
            steps[i] = seen.secondsAgo(i) - seen.secondsAgo(i + 1);
        }
        Arrays.sort(steps);
        return steps[steps.length / 2];
    }

    /** An estimate as far as it stands out of its own error (James and Stein 1961, positive part). */
    private static double shrunk(double value, double variance) {
        return value * Math.max(0, 1 - variance / Math.max(1e-300, value * value));
    }

    /**
     * A line and a swing with one overtone.
     *
     * @param sine of each harmonic, arcseconds
     */
    private record Swing(double slope, double[] cosine, double[] sine, double turn) {
        /** From the last exposure, by which the phase is counted, to so many seconds later. */
        double ahead(double seconds) {
            double moved = slope * seconds;
            for (int h = 0; h < cosine.length; h++) {
                double phase = turn * (h + 1) * seconds;
                moved += cosine[h] * (Math.cos(phase) - 1) + sine[h] * Math.sin(phase);
            }
            return moved;
        }
    }

    private static Optional<Swing> swing(AxisHistory seen, double period) {
        int n = seen.size();
        double now = seen.secondsAgo(0);
        int unknowns = 2 + 2 * HARMONICS;
        if (n < 4 * unknowns || now - seen.secondsAgo(n - 1) < FEWEST_PERIODS * period) {
            return Optional.empty();
        }
        RealMatrix normal = new Array2DRowRealMatrix(unknowns, unknowns);
        RealVector right = new ArrayRealVector(unknowns);
        double turn = 2 * Math.PI / period;
        double squares = 0;
        int used = 0;
        double[] row = new double[unknowns];
        double first = seen.openAgo(0);
        for (int i = 0; i < n && now - seen.secondsAgo(i) <= MOST_PERIODS * period; i++) {
            row(row, seen.secondsAgo(i) - now, turn);
            double y = seen.openAgo(i) - first;
            for (int a = 0; a < unknowns; a++) {
                right.addToEntry(a, row[a] * y);
                for (int b = 0; b <= a; b++) {
                    normal.addToEntry(a, b, row[a] * row[b]);
                }
            }
            squares += y * y;
            used++;
        }
        for (int a = 0; a < unknowns; a++) {
            for (int b = a + 1; b < unknowns; b++) {
                normal.setEntry(a, b, normal.getEntry(b, a));
            }
            normal.addToEntry(a, a, 1e-9 * normal.getEntry(a, a));
        }
        RealMatrix inverse = new CholeskyDecomposition(normal).getSolver().getInverse();
        RealVector found = inverse.operate(right);
        double noise = Math.max(0, squares - found.dotProduct(right)) / (used - unknowns);
        double[] cosine = new double[HARMONICS];
        double[] sine = new double[HARMONICS];
        for (int h = 0; h < HARMONICS; h++) {
            int k = 2 + 2 * h;
            double amplitude = Math.hypot(found.getEntry(k), found.getEntry(k + 1));
            double variance = noise * (inverse.getEntry(k, k) + inverse.getEntry(k + 1, k + 1));
            double share = amplitude == 0 ? 0 : shrunk(amplitude, variance) / amplitude;
            cosine[h] = share * found.getEntry(k);
            sine[h] = share * found.getEntry(k + 1);
        }
        double slope = shrunk(found.getEntry(1), noise * inverse.getEntry(1, 1));
        return Optional.of(new Swing(slope, cosine, sine, turn));
    }

    private static void row(double[] row, double t, double turn) {
        row[0] = 1;
        row[1] = t;
        for (int h = 0; h < HARMONICS; h++) {
            row[2 + 2 * h] = Math.cos(turn * (h + 1) * t);
            row[3 + 2 * h] = Math.sin(turn * (h + 1) * t);
        }
    }
}
