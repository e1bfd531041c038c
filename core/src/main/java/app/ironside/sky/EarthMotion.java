package app.ironside.sky;

import java.time.Instant;
import org.jastronomy.jsofa.JSOFA;

/**
 * Where the Earth is and how it moves (JSOFA's epv00).
 *
 * <p>Its series is summed at the {@link EarthNodes} and a cubic laid through. Its shortest terms of note are the month's, so that this
 * differs from the series by less than 10⁻¹⁰ au, a direction by less than 0.02 thousandths of an arcsecond.
 *
 * @param heliocentric position, au, and velocity, au a day, from the Sun's centre
 * @param barycentric the same from the barycentre
 */
record EarthMotion(double[][] heliocentric, double[][] barycentric) {
    private static final EarthNodes<EarthMotion> NODES = new EarthNodes<>(EarthMotion::summed);

    static EarthMotion at(Instant time) {
        EarthMotion sum = new EarthMotion(new double[2][3], new double[2][3]);
        NODES.about(time, (weight, node) -> {
            add(weight, node.heliocentric, sum.heliocentric);
            add(weight, node.barycentric, sum.barycentric);
        });
        return sum;
    }

    private static void add(double weight, double[][] from, double[][] to) {
        for (int i = 0; i < to.length; i++) {
            for (int k = 0; k < to[i].length; k++) {
                to[i][k] += weight * from[i][k];
            }
        }
    }

    /** The series itself. */
    static EarthMotion summed(SkyTime t) {
        EarthMotion summed = new EarthMotion(new double[2][3], new double[2][3]);
        // The date warning (outside 1900 to 2100) cannot occur: SkyTime refuses such dates.
        JSOFA.jauEpv00(t.tt1(), t.tt2(), summed.heliocentric, summed.barycentric);
        return summed;
    }
}
