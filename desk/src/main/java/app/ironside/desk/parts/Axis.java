package app.ironside.desk.parts;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * The range of an axis and the values that are written beside it.
 *
 * @param low of the range, below high
 */
record Axis(double low, double high) {
    /** Values that are alike but for the last digits are drawn as one; this share of them is shown on either side. */
    private static final double ALIKE = 1e-6;

    private static final double ROOM_OF_ONE = 0.1;

    /**
     * The range that shows values with some room.
     *
     * @param room on either side, as a share of their spread
     */
    static Axis around(double lowest, double highest, double room) {
        double size = Math.max(Math.abs(lowest), Math.abs(highest));
        if (highest - lowest <= ALIKE * size || highest == lowest) {
            double half = size == 0 ? 1 : ROOM_OF_ONE * size;
            return new Axis(lowest - half, highest + half);
        }
        double more = room * (highest - lowest);
        return new Axis(lowest - more, highest + more);
    }

    /** The step of 1, 2 or 5 times a power of ten at which at most so many values are written. */
    double step(double most) {
        double rough = (high - low) / most;
        double power = Math.pow(10, Math.floor(Math.log10(rough)));
        double lead = rough / power;
        return power * (lead <= 1 ? 1 : lead <= 2 ? 2 : lead <= 5 ? 5 : 10);
    }

    /** The multiples of a step inside the range. */
    List<Double> ticks(double step) {
        List<Double> ticks = new ArrayList<>();
        for (long k = (long) Math.ceil(low / step - 1e-9); k * step <= high; k++) {
            ticks.add(k * step);
        }
        return ticks;
    }

    /** A value with as many decimals as its step needs. */
    static String label(double value, double step) {
        int digits = (int) Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
        return String.format(Locale.ROOT, "%,." + digits + "f", Math.abs(value) < step / 1e6 ? 0.0 : value)
                .replace('-', '−');
    }

    /** Where a value lies between two places of the drawing. */
    double at(double value, double from, double until) {
        return from + (value - low) / (high - low) * (until - from);
    }
}
