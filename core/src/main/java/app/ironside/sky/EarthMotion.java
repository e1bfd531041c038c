package app.ironside.sky;

import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jastronomy.jsofa.JSOFA;

/**
 * Where the Earth is and how it moves (JSOFA's epv00).
 *
 * <p>The series is summed at instants six hours apart, once for all observers of the process, and a cubic is laid through the four about
 * a moment (Lagrange). Its shortest terms of note are the month's, so that this differs from the series by less than 10⁻¹¹ au.
 *
 * @param heliocentric position, au, and velocity, au a day, from the Sun's centre
 * @param barycentric the same from the barycentre
 */
record EarthMotion(double[][] heliocentric, double[][] barycentric) {
    private static final long STEP_SECONDS = 6 * 3600;

    /** Of thirty years. */
    private static final int NODES_KEPT = 50_000;

    private static final Map<Long, EarthMotion> NODES = new ConcurrentHashMap<>();

    static EarthMotion at(Instant time) {
        double steps = (time.getEpochSecond() + time.getNano() * 1e-9) / STEP_SECONDS;
        long first = (long) Math.floor(steps) - 1;
        double[] weights = EarthPole.cubic(steps - first);
        EarthMotion sum = new EarthMotion(new double[2][3], new double[2][3]);
        for (int i = 0; i < weights.length; i++) {
            EarthMotion node = node(first + i);
            add(weights[i], node.heliocentric, sum.heliocentric);
            add(weights[i], node.barycentric, sum.barycentric);
        }
        return sum;
    }

    private static void add(double weight, double[][] from, double[][] to) {
        for (int i = 0; i < to.length; i++) {
            for (int k = 0; k < to[i].length; k++) {
                to[i][k] += weight * from[i][k];
            }
        }
    }

    private static EarthMotion node(long step) {
        EarthMotion known = NODES.get(step);
        if (known != null) {
            return known;
        }
        if (NODES.size() >= NODES_KEPT) {
            NODES.clear();
        }
        SkyTime t = SkyTime.of(Instant.ofEpochSecond(step * STEP_SECONDS));
        EarthMotion summed = new EarthMotion(new double[2][3], new double[2][3]);
        // The date warning (outside 1900 to 2100) cannot occur: SkyTime refuses such dates.
        JSOFA.jauEpv00(t.tt1(), t.tt2(), summed.heliocentric, summed.barycentric);
        NODES.put(step, summed);
        return summed;
    }
}
