package app.ironside.desk.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Coverage;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The map of the whole sky. */
class ReachMapTest {
    /** By hand from the formula: the poles at √2, the ends of the equator at 2√2, east to the left. */
    @Test
    void cornersOfTheMap() {
        double root = Math.sqrt(2);
        assertThat(ReachMap.at(0, 0)).containsExactly(new double[] {0, 0}, within(1e-12));
        assertThat(ReachMap.at(0, 90)[1]).isCloseTo(root, within(1e-12));
        assertThat(ReachMap.at(137, -90)[0]).isCloseTo(0, within(1e-9));
        assertThat(ReachMap.at(180, 0)[0]).isCloseTo(-2 * root, within(1e-12));
        assertThat(ReachMap.at(-180, 0)[0]).isCloseTo(2 * root, within(1e-12));
    }

    /** Law: equal in area; a small square of the sky anywhere has cos δ times its area, by finite differences. */
    @ParameterizedTest
    @CsvSource({"0, 0", "40, 20", "-120, 55", "170, -30", "-175, 80", "90, -75"})
    void areasAreKept(double longitude, double dec) {
        double h = 1e-4;
        double[] east = difference(ReachMap.at(longitude + h, dec), ReachMap.at(longitude - h, dec));
        double[] north = difference(ReachMap.at(longitude, dec + h), ReachMap.at(longitude, dec - h));
        double radians = Math.toRadians(2 * h);
        double area = Math.abs(east[0] * north[1] - east[1] * north[0]) / radians / radians;
        assertThat(area).isCloseTo(Math.cos(Math.toRadians(dec)), within(1e-5));
    }

    private static double[] difference(double[] a, double[] b) {
        return new double[] {a[0] - b[0], a[1] - b[1]};
    }

    /** By hand: 118,216 stars over 41,253 square degrees are 2.87 a square degree; the mean over the whole sky must be that. */
    @Test
    void theMeanDensityIsThatOfTheCatalogue() {
        StarCatalogue stars = StarCatalogue.hipparcos();
        double sum = 0;
        double weight = 0;
        for (double dec = -88; dec <= 88; dec += 4) {
            for (double ra = 0; ra < 360; ra += 6) {
                double w = Math.cos(Math.toRadians(dec));
                sum += w * Coverage.expected(stars, new Equatorial(ra, dec), 1);
                weight += w;
            }
        }
        assertThat(sum / weight).isCloseTo(2.87, within(0.06));
    }
}
