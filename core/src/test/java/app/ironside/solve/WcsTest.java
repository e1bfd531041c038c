package app.ironside.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.Header;
import app.ironside.sky.Equatorial;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WcsTest {
    /**
     * The header of the worked example of FITS WCS paper II, section 7.1 (from memory: CRPIX 1024.5, CDELT 0.005°, CRVAL 45.83°
     * and 63.57°); the corners by another library, wcslib through astropy 5.2.1.
     */
    @ParameterizedTest
    @CsvSource({
        "1, 2, 55.48503759, 58.10550304",
        "1, 2048, 59.57590388, 68.10387938",
        "2048, 2048, 32.08409612, 68.10387938"
    })
    void cornersOfThePapersExample(double x, double y, double ra, double dec) {
        Header header = Header.EMPTY
                .with("CTYPE1", "RA---TAN")
                .with("CTYPE2", "DEC--TAN")
                .with("CRPIX1", 1024.5)
                .with("CRPIX2", 1024.5)
                .with("CDELT1", -0.005)
                .with("CDELT2", 0.005)
                .with("CRVAL1", 45.83)
                .with("CRVAL2", 63.57);
        Equatorial sky = Wcs.from(header).orElseThrow().toSky(x, y);
        assertThat(sky.raDeg()).isCloseTo(ra, within(1e-8));
        assertThat(sky.decDeg()).isCloseTo(dec, within(1e-8));
    }

    /** Law: pixel to sky and back; keywords and back. */
    @Property(tries = 100)
    void roundTrips(
            @ForAll @DoubleRange(min = 0, max = 359.9) double ra,
            @ForAll @DoubleRange(min = -85, max = 85) double dec,
            @ForAll @DoubleRange(min = -180, max = 180) double turn) {
        double s = 3.0 / 3600 * Math.sin(Math.toRadians(turn));
        double c = 3.0 / 3600 * Math.cos(Math.toRadians(turn));
        Wcs wcs = new Wcs(new Equatorial(ra, dec), 1400.5, 1050.5, -c, s, s, c);
        double[] back = wcs.toPixel(wcs.toSky(100, 2000)).orElseThrow();
        assertThat(back[0]).isCloseTo(100, within(1e-6));
        assertThat(back[1]).isCloseTo(2000, within(1e-6));
        assertThat(wcs.mirrored()).isFalse();
        assertThat(Math.cos(Math.toRadians(wcs.rotationDeg() - turn))).isCloseTo(1, within(1e-12));
        assertThat(Wcs.from(Header.EMPTY.withAll(wcs.toHeader().values()))).isEqualTo(Optional.of(wcs));
    }

    /** By hand: +y to the east means a position angle of 90°. */
    @Test
    void positionAngleOfTheYAxis() {
        Wcs wcs = new Wcs(new Equatorial(10, 0), 1, 1, 0, 0.001, 0.001, 0);
        assertThat(wcs.rotationDeg()).isCloseTo(90, within(1e-9));
    }

    @Test
    void otherProjectionsAreNotTakenForTangentPlanes() {
        assertThat(Wcs.from(Header.EMPTY.with("CTYPE1", "RA---SIN"))).isEmpty();
    }
}
