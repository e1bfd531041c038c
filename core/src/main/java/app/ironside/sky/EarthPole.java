package app.ironside.sky;

import java.time.Instant;
import org.jastronomy.jsofa.JSOFA;

/**
 * Where the Earth's axis points: the celestial intermediate pole and the origins counted from it, IAU 2006/2000A.
 *
 * <p>The series of 1,365 terms is summed at the {@link EarthNodes} and a cubic laid through. Its shortest terms take days, so that this
 * differs from the series itself by less than 0.05 thousandths of an arcsecond.
 *
 * @param x of the pole among the catalogue's axes, a direction cosine
 * @param y as x
 * @param s the origin's locator, radians
 * @param originsRad equation of the origins: rotation angle less apparent sidereal time, radians
 */
record EarthPole(double x, double y, double s, double originsRad) {
    private static final EarthNodes<EarthPole> NODES = new EarthNodes<>(EarthPole::summed);

    static EarthPole at(Instant time) {
        double[] sums = new double[4];
        NODES.about(time, (weight, node) -> {
            sums[0] += weight * node.x;
            sums[1] += weight * node.y;
            sums[2] += weight * node.s;
            sums[3] += weight * node.originsRad;
        });
        return new EarthPole(sums[0], sums[1], sums[2], sums[3]);
    }

    /** The series itself. */
    static EarthPole summed(SkyTime t) {
        double[][] matrix = JSOFA.jauPnm06a(t.tt1(), t.tt2());
        JSOFA.CelestialIntermediatePole pole = JSOFA.jauBpn2xy(matrix);
        double s = JSOFA.jauS06(t.tt1(), t.tt2(), pole.x, pole.y);
        return new EarthPole(pole.x, pole.y, s, JSOFA.jauEors(matrix, s));
    }
}
