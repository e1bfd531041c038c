package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.StringReader;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;

class SkyBasicsTest {
    /** Law: projecting and unprojecting is nothing, up to 60° from the centre. */
    @Property(tries = 200)
    void tangentPlaneRoundTrip(
            @ForAll @DoubleRange(min = 0, max = 359) double ra,
            @ForAll @DoubleRange(min = -89, max = 89) double dec,
            @ForAll @DoubleRange(min = -60, max = 60) double xi,
            @ForAll @DoubleRange(min = -60, max = 60) double eta) {
        TangentPlane plane = new TangentPlane(new Equatorial(ra, dec));
        TangentPlane.Point back = plane.project(plane.unproject(xi, eta)).orElseThrow();
        assertThat(back.xiDeg()).isCloseTo(xi, within(1e-8));
        assertThat(back.etaDeg()).isCloseTo(eta, within(1e-8));
    }

    /** Published: Meeus 1998, example 17.a: Arcturus and Spica are 32.7930° apart. */
    @Test
    void separationOfArcturusAndSpica() {
        Equatorial arcturus = new Equatorial(213.9154, 19.1825);
        Equatorial spica = new Equatorial(201.2983, -11.1614);
        assertThat(arcturus.separationDeg(spica)).isCloseTo(32.7930, within(0.0001));
    }

    /** By hand: due north is 0°, due east on the equator 90°. */
    @Test
    void positionAngleGoesFromNorthThroughEast() {
        Equatorial origin = new Equatorial(10, 0);
        assertThat(origin.positionAngleDeg(new Equatorial(10, 5))).isCloseTo(0, within(1e-9));
        assertThat(origin.positionAngleDeg(new Equatorial(11, 0))).isCloseTo(90, within(1e-9));
    }

    /** By hand: half-way between the points, and across north. */
    @Test
    void horizonIsStraightBetweenItsPoints() throws IOException {
        Horizon horizon = Horizon.parse(
                new BufferedReader(new StringReader("# ridge\n90 10\n180 20 # top\n350 4\n10 8\n")), "ridge.txt");
        assertThat(horizon.altitudeDeg(135)).isCloseTo(15, within(1e-9));
        assertThat(horizon.altitudeDeg(0)).isCloseTo(6, within(1e-9));
        assertThat(horizon.altitudeDeg(-5)).isCloseTo(5, within(1e-9));
        assertThat(horizon.clears(new Horizontal(135, 17), 2)).isTrue();
        assertThat(horizon.clears(new Horizontal(135, 16.9), 2)).isFalse();
    }

    @Test
    void aBadHorizonLineIsNamed() {
        assertThatThrownBy(() -> Horizon.parse(new BufferedReader(new StringReader("90 10\n180\n")), "ridge.txt"))
                .isInstanceOf(BadInputException.class)
                .hasMessage(
                        "ridge.txt line 2: has 1 numbers; expected azimuth 0 to 360 and altitude -90 to 90, degrees");
    }

    /** Published: Kasten and Young 1989, table: airmass 1 at the zenith, 5.59 at 10°, 37.92 at the horizon (from memory). */
    @Test
    void airmassOfKastenAndYoung() {
        assertThat(SkyBrightness.airmass(90)).isCloseTo(1.0, within(0.001));
        assertThat(SkyBrightness.airmass(10)).isCloseTo(5.59, within(0.02));
        assertThat(SkyBrightness.airmass(0)).isCloseTo(37.92, within(0.1));
    }

    /** Published: Krisciunas and Schaefer 1991, text to equation 1: 79.0 nanoLamberts are V 21.587 per square arcsecond. */
    @Test
    void nanoLambertsOfThePaper() {
        assertThat(SkyBrightness.nanoLamberts(21.587)).isCloseTo(79.0, within(0.1));
        assertThat(SkyBrightness.magPerArcsec2(79.0)).isCloseTo(21.587, within(0.002));
    }

    /** Law: a full Moon adds more than a half Moon, a near one more than a far one, one below the horizon nothing. */
    @Test
    void moonLightOrders() {
        double full = SkyBrightness.moonNanoLamberts(0, 60, 45, 60);
        assertThat(full).isGreaterThan(SkyBrightness.moonNanoLamberts(90, 60, 45, 60));
        assertThat(full).isLessThan(SkyBrightness.moonNanoLamberts(0, 20, 45, 60));
        assertThat(SkyBrightness.moonNanoLamberts(0, 60, -1, 60)).isZero();
    }

    /** Published: the Hipparcos catalogue has 118,218 entries, all but two with a place here; HIP 71683 is Alpha Centauri A. */
    @Test
    void theCatalogueHoldsTheWholeSky() {
        StarCatalogue stars = StarCatalogue.hipparcos();
        assertThat(stars.size()).isEqualTo(118_216);
        List<CatalogueStar> near = stars.within(new Equatorial(219.9, -60.83), 0.05);
        assertThat(near.get(0).name()).isEqualTo("HIP 71683");
        assertThat(near.get(0).magnitude()).isCloseTo(-0.01, within(0.02));
    }

    /** Law: a circle across 0 h and one over the pole lose no star. */
    @Test
    void circlesAcrossTheSeamsLoseNothing() {
        StarCatalogue stars = StarCatalogue.hipparcos();
        for (Equatorial centre : List.of(new Equatorial(0.2, 30), new Equatorial(100, 89.5), new Equatorial(10, -89))) {
            long counted = 0;
            for (int i = 0; i < stars.size(); i++) {
                boolean inside = new Equatorial(stars.raDeg(i), stars.decDeg(i)).separationDeg(centre) <= 3;
                counted += inside ? 1 : 0;
            }
            assertThat(stars.within(centre, 3)).hasSize((int) counted);
        }
    }

    @Test
    void objectsAreFoundByAnyOfTheirNames() {
        DeepSkyCatalogue objects = DeepSkyCatalogue.load();
        assertThat(objects.find("m33")).isPresent();
        assertThat(objects.find("NGC 598").orElseThrow().id()).isEqualTo("M 33");
        assertThat(objects.find("triangulum galaxy").orElseThrow().id()).isEqualTo("M 33");
        assertThat(objects.find("NGC-2403").orElseThrow().kind()).isEqualTo(DeepSkyObject.Kind.SPIRAL);
        assertThat(objects.find("NGC 99999")).isEmpty();
    }
}
