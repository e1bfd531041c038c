package app.ironside.watch;

import java.util.Arrays;

/**
 * Steps in a series beside the worm's own swing, by least squares. What all of them share, the mean and the swing, is taken out once, and
 * each step is fitted to what is left.
 *
 * @see "Frisch and Waugh 1933, Econometrica 1, 387; Lovell 1963, JASA 58, 993"
 */
final class Steps {
    /** A swing is only told from a step in a series that is longer. */
    private static final int FEWEST_FOR_SWING = 8;

    private static final double NOTHING = 1e-9;

    /**
     * A step.
     *
     * @param errors how many of its standard errors its height is
     */
    record Step(double height, double errors) {
        private static final Step NONE = new Step(0, 0);
    }

    private final double[] left;

    /** Of length one, and at right angles to each other. */
    private final double[][] shared;

    private final double leftSquares;

    /**
     * @param minutes when the values were taken
     * @param wormMinutes one turn of the worm; 0 if it is not known
     */
    Steps(double[] minutes, double[] values, double wormMinutes) {
        boolean swings = wormMinutes > 0 && values.length > FEWEST_FOR_SWING;
        shared = new double[swings ? 3 : 1][values.length];
        for (int k = 0; k < values.length; k++) {
            shared[0][k] = 1;
            if (swings) {
                double phase = 2 * Math.PI * minutes[k] / wormMinutes;
                shared[1][k] = Math.sin(phase);
                shared[2][k] = Math.cos(phase);
            }
        }
        straighten();
        left = values.clone();
        for (double[] one : shared) {
            takeOut(left, one);
        }
        leftSquares = dot(left, left);
    }

    /** By Gram and Schmidt, twice for the sake of rounding. */
    private void straighten() {
        for (int j = 0; j < shared.length; j++) {
            for (int i = 0; i < 2 * j; i++) {
                takeOut(shared[j], shared[i % j]);
            }
            double length = Math.sqrt(dot(shared[j], shared[j]));
            for (int k = 0; k < shared[j].length; k++) {
                shared[j][k] = length > NOTHING ? shared[j][k] / length : 0;
            }
        }
    }

    /** The step from a place on; of no height where it cannot be told from what is shared. */
    Step at(int cut) {
        double[] step = new double[left.length];
        Arrays.fill(step, cut, step.length, 1);
        for (double[] one : shared) {
            takeOut(step, one);
        }
        double squares = dot(step, step);
        int free = left.length - shared.length - 1;
        if (squares < NOTHING || free < 1) {
            return Step.NONE;
        }
        double height = dot(step, left) / squares;
        double variance = Math.max(0, leftSquares - height * height * squares) / free;
        return new Step(height, Math.abs(height) / Math.max(1e-6, Math.sqrt(variance / squares)));
    }

    private static double dot(double[] a, double[] b) {
        double sum = 0;
        for (int k = 0; k < a.length; k++) {
            sum += a[k] * b[k];
        }
        return sum;
    }

    /** Of a vector, what lies along another of length one. */
    private static void takeOut(double[] of, double[] along) {
        double share = dot(of, along);
        for (int k = 0; k < of.length; k++) {
            of[k] -= share * along[k];
        }
    }
}
