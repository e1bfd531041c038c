package app.ironside.sky;

import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jastronomy.jsofa.JSOFA;

/**
 * Where the Earth's axis points: the celestial intermediate pole and the origins counted from it, IAU 2006/2000A.
 *
 * <p>The series of 1,365 terms is summed at instants six hours apart, once for all observers of the process, and a cubic is laid through
 * the four about a moment (Lagrange). Its shortest terms take days, so that this differs from the series itself by less than 0.05
 * thousandths of an arcsecond.
 *
 * @param x of the pole among the catalogue's axes, a direction cosine
 * @param y as x
 * @param s the origin's locator, radians
 * @param originsRad equation of the origins: rotation angle less apparent sidereal time, radians
 */
record EarthPole(double x, double y, double s, double originsRad) {
    private static final long STEP_SECONDS = 6 * 3600;

    /** Of thirty years. */
    private static final int NODES_KEPT = 50_000;

    private static final Map<Long, EarthPole> NODES = new ConcurrentHashMap<>();

    static EarthPole at(Instant time) {
        double steps = (time.getEpochSecond() + time.getNano() * 1e-9) / STEP_SECONDS;
        long first = (long) Math.floor(steps) - 1;
        double[] weights = cubic(steps - first);
        double x = 0;
        double y = 0;
        double s = 0;
        double origins = 0;
        for (int i = 0; i < weights.length; i++) {
            EarthPole node = node(first + i);
            x += weights[i] * node.x;
            y += weights[i] * node.y;
            s += weights[i] * node.s;
            origins += weights[i] * node.originsRad;
        }
        return new EarthPole(x, y, s, origins);
    }

    /**
     * Weights of four values one apart for the cubic through them (Lagrange).
     *
     * @param t place, 0 at the first value
     */
    static double[] cubic(double t) {
        return new double[] {
            -(t - 1) * (t - 2) * (t - 3) / 6,
            t * (t - 2) * (t - 3) / 2,
            -t * (t - 1) * (t - 3) / 2,
            t * (t - 1) * (t - 2) / 6
        };
    }

    private static EarthPole node(long step) {
        EarthPole known = NODES.get(step);
        if (known != null) {
            return known;
        }
        if (NODES.size() >= NODES_KEPT) {
            NODES.clear();
        }
        EarthPole summed = summed(SkyTime.of(Instant.ofEpochSecond(step * STEP_SECONDS)));
        NODES.put(step, summed);
        return summed;
    }

    /** The series itself. */
    static EarthPole summed(SkyTime t) {
        double[][] matrix = JSOFA.jauPnm06a(t.tt1(), t.tt2());
        JSOFA.CelestialIntermediatePole pole = JSOFA.jauBpn2xy(matrix);
        double s = JSOFA.jauS06(t.tt1(), t.tt2(), pole.x, pole.y);
        return new EarthPole(pole.x, pole.y, s, JSOFA.jauEors(matrix, s));
    }
}
