package app.ironside.sky;

import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;

/**
 * A long series summed at instants six hours apart, once for all observers of the process, so that a cubic can be laid through the four
 * about a moment (Lagrange).
 *
 * @param <T> what the series gives
 */
final class EarthNodes<T> {
    private static final long STEP_SECONDS = 6 * 3600;

    /** Of thirty years. */
    private static final int KEPT = 50_000;

    private final Map<Long, T> nodes = new ConcurrentHashMap<>();
    private final Function<SkyTime, T> series;

    EarthNodes(Function<SkyTime, T> series) {
        this.series = series;
    }

    /** Takes one of four values with its weight. */
    @FunctionalInterface
    interface Sum<T> {
        void add(double weight, T value);
    }

    /** Hands over the four about a moment, each with its weight in the cubic. */
    void about(Instant time, Sum<T> sum) {
        double steps = (time.getEpochSecond() + time.getNano() * 1e-9) / STEP_SECONDS;
        long first = (long) Math.floor(steps) - 1;
        double t = steps - first;
        sum.add(-(t - 1) * (t - 2) * (t - 3) / 6, node(first));
        sum.add(t * (t - 2) * (t - 3) / 2, node(first + 1));
        sum.add(-t * (t - 1) * (t - 3) / 2, node(first + 2));
        sum.add(t * (t - 1) * (t - 2) / 6, node(first + 3));
    }

    private T node(long step) {
        T known = nodes.get(step);
        if (known != null) {
            return known;
        }
        if (nodes.size() >= KEPT) {
            nodes.clear();
        }
        T summed = series.apply(SkyTime.of(Instant.ofEpochSecond(step * STEP_SECONDS)));
        nodes.put(step, summed);
        return summed;
    }
}
