package app.ironside.sky;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToDoubleFunction;

/** Finds when a quantity that varies smoothly with time crosses zero. */
public final class Crossings {
    /** Bisection stops here: well below the second that the atmosphere leaves uncertain. */
    private static final long RESOLUTION_MILLIS = 50;

    /** An instant at which the quantity passes zero. */
    record Crossing(Instant time, boolean upward) {}

    private Crossings() {}

    /**
     * All crossings in a span that are further apart than the step.
     *
     * @param step of the first, coarse search
     */
    static List<Crossing> find(Interval span, Duration step, ToDoubleFunction<Instant> quantity) {
        List<Crossing> found = new ArrayList<>();
        Instant left = span.from();
        double atLeft = quantity.applyAsDouble(left);
        while (left.isBefore(span.until())) {
            Instant right = left.plus(step).isBefore(span.until()) ? left.plus(step) : span.until();
            double atRight = quantity.applyAsDouble(right);
            if (atLeft < 0 != atRight < 0) {
                found.add(new Crossing(bisect(left, right, atLeft < 0, quantity), atLeft < 0));
            }
            left = right;
            atLeft = atRight;
        }
        return found;
    }

    /**
     * The stretches of a span in which the quantity is at or above zero.
     *
     * @param step of the first, coarse search: what lasts shorter may be missed
     */
    public static List<Interval> above(Interval span, Duration step, ToDoubleFunction<Instant> quantity) {
        List<Interval> stretches = new ArrayList<>();
        Instant since = quantity.applyAsDouble(span.from()) >= 0 ? span.from() : null;
        for (Crossing crossing : find(span, step, quantity)) {
            if (crossing.upward()) {
                since = crossing.time();
            } else if (since != null) {
                stretches.add(new Interval(since, crossing.time()));
                since = null;
            }
        }
        if (since != null) {
            stretches.add(new Interval(since, span.until()));
        }
        return stretches;
    }

    private static Instant bisect(Instant low, Instant high, boolean rising, ToDoubleFunction<Instant> quantity) {
        while (Duration.between(low, high).toMillis() > RESOLUTION_MILLIS) {
            Instant middle = low.plus(Duration.between(low, high).dividedBy(2));
            if (quantity.applyAsDouble(middle) < 0 == rising) {
                low = middle;
            } else {
                high = middle;
            }
        }
        return low;
    }
}
