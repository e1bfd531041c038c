package app.ironside.judge;

import java.util.ArrayList;
import java.util.List;
import org.hipparchus.stat.regression.SimpleRegression;

/**
 * A stretch of a series over which something grows steadily.
 *
 * @param first where it begins
 * @param last where it stands highest
 * @param until how long it stays near there
 */
record Run(int first, int last, int until) {
    /** Shorter ones happen by chance. */
    private static final int FEWEST = 4;

    /** What grows less is the usual up and down. */
    private static final double LEAST_GROWTH = 1.15;

    /** A step back that noise may make, of the value. */
    private static final double STEP_BACK = 0.03;

    /** One step that makes most of it is a jump, not a growth. */
    private static final double LARGEST_STEP = 0.5;

    /** What stays below this share of the growth has gone back. */
    private static final double STAYS = 0.6;

    /** What grows less beside the other does not go with it. */
    private static final double LEAST_COMPANION = 1.05;

    /** A slope of so many of its own errors is no chance. */
    private static final double SURE_ERRORS = 3;

    /** The steady rises of a series. NaN is passed over. */
    static List<Run> rising(double[] values) {
        List<Run> runs = new ArrayList<>();
        int first = 0;
        while (first < values.length) {
            int last = first;
            double steepest = 0;
            int members = 1;
            for (int i = first + 1; i < values.length; i++) {
                if (Double.isNaN(values[i])) {
                    continue;
                }
                if (!(values[i] >= values[last] * (1 - STEP_BACK))) {
                    break;
                }
                if (values[i] > values[last]) {
                    steepest = Math.max(steepest, values[i] - values[last]);
                    last = i;
                }
                members++;
            }
            double growth = values[last] - values[first];
            if (members >= FEWEST && values[last] > LEAST_GROWTH * values[first] && steepest <= LARGEST_STEP * growth) {
                int until = last;
                while (until + 1 < values.length
                        && (Double.isNaN(values[until + 1]) || values[until + 1] >= values[first] + STAYS * growth)) {
                    until++;
                }
                runs.add(new Run(first, last, until));
                first = until + 1;
            } else {
                first++;
            }
        }
        return runs;
    }

    /** Whether something else grows with it over a run: by the slope of one logarithm on the other, against its error. */
    static boolean growWith(double[] values, double[] others, Run run) {
        SimpleRegression line = new SimpleRegression();
        for (int i = run.first(); i <= run.last(); i++) {
            if (values[i] > 0 && others[i] > 0) {
                line.addData(Math.log(values[i]), Math.log(others[i]));
            }
        }
        double growth = line.getSlope() * Math.log(values[run.last()] / values[run.first()]);
        return line.getN() >= FEWEST
                && growth > Math.log(LEAST_COMPANION)
                && line.getSlope() > SURE_ERRORS * line.getSlopeStdErr();
    }
}
