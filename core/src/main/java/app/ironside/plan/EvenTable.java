package app.ironside.plan;

import java.util.function.DoubleUnaryOperator;

/** A smooth function at even steps, and straight between them: for what is asked a million times and need not be exact to a millionth. */
final class EvenTable {
    private final double from;
    private final double until;
    private final double perStep;
    private final double[] values;

    EvenTable(double from, double until, int steps, DoubleUnaryOperator function) {
        this.from = from;
        this.until = until;
        this.perStep = steps / (until - from);
        this.values = new double[steps + 1];
        for (int i = 0; i <= steps; i++) {
            values[i] = function.applyAsDouble(from + i / perStep);
        }
    }

    boolean holds(double x) {
        return x >= from && x <= until;
    }

    /** Beyond the ends, what it is there. */
    double at(double x) {
        double place = (Math.max(from, Math.min(until, x)) - from) * perStep;
        int before = Math.min(values.length - 2, (int) place);
        return values[before] + (place - before) * (values[before + 1] - values[before]);
    }
}
