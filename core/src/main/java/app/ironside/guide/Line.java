package app.ironside.guide;

import org.hipparchus.stat.regression.SimpleRegression;

/** A straight line through a record, and how sure its slope is if each point errs for itself. */
record Line(double slope, double slopeSigma) {
    static Line through(double[] seconds, double[] values) {
        return through(seconds, values, 0, seconds.length);
    }

    /** Through a part of a record. */
    static Line through(double[] seconds, double[] values, int from, int count) {
        SimpleRegression line = new SimpleRegression();
        for (int i = from; i < from + count; i++) {
            line.addData(seconds[i], values[i]);
        }
        return new Line(line.getSlope(), line.getSlopeStdErr());
    }
}
