package app.ironside.guide;

import org.hipparchus.stat.regression.SimpleRegression;

/** A straight line through a record, and how sure its slope is if each point errs for itself. */
record Line(double slope, double slopeSigma) {
    static Line through(double[] seconds, double[] values) {
        SimpleRegression line = new SimpleRegression();
        for (int i = 0; i < seconds.length; i++) {
            line.addData(seconds[i], values[i]);
        }
        return new Line(line.getSlope(), line.getSlopeStdErr());
    }
}
