package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.time.Instant;
import java.time.ZoneOffset;
import org.jastronomy.jsofa.JSOFA;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ObserverTest {
    private static final Site COLLE_SORBO =
            new Site("Colle Sorbo", 44.05, 8.20, 740, ZoneOffset.UTC, 20.9, Horizon.FLAT);

    /**
     * Published: SOFA's own test program t_sofa_c.c, test of iauAtco13. Its star has proper motion, applied here beforehand over
     * the 13.25 years since J2000, and a parallax of 0.1″, which is left out: tolerance 0.3″.
     */
    @Test
    void agreesWithThePublishedTestOfSofa() {
        double years = (2_456_385.469254051 - 2_451_545.0) / 365.25;
        Equatorial star = new Equatorial(Math.toDegrees(2.71 + 1e-5 * years), Math.toDegrees(0.174 + 5e-6 * years));
        Site site = new Site(
                "SOFA",
                Math.toDegrees(-1.2345856),
                Math.toDegrees(-0.527800806),
                2738,
                ZoneOffset.UTC,
                21,
                Horizon.FLAT);
        EarthOrientation earth = new EarthOrientation(
                0.1550675, 2.47230737e-7 * Angles.ARCSEC_PER_RADIAN, 1.82640464e-6 * Angles.ARCSEC_PER_RADIAN);
        Observer observer = new Observer(site, new Atmosphere(731, 12.8, 0.59), earth);
        Instant time = Instant.ofEpochMilli(Math.round((2_456_385.469254051 - 2_440_587.5) * 86_400_000));
        Horizontal seen = observer.observed(star, time);
        double arcsec = 0.3 / 3600;
        assertThat(seen.azimuthDeg()).isCloseTo(Math.toDegrees(0.09251774485485515838), within(arcsec));
        assertThat(90 - seen.altitudeDeg()).isCloseTo(Math.toDegrees(1.407661405256499357), within(arcsec));
    }

    /** Another library: astropy 5.2.1 (pressure 0, UT1 = UTC). 1″ leaves room for its other model of aberration. */
    @ParameterizedTest
    @CsvSource({
        "2026-11-14T21:26:37Z, 23.4621, 30.659942, 179.99684773529768, 76.75130544708732",
        "2026-11-15T02:00:00Z, 23.4621, 30.659942, 280.59113633927024, 35.589116023929336",
        "2026-11-15T02:00:00Z, 114.2142, 65.602547, 22.19667872751381, 65.21112994080895",
        "2026-11-14T17:30:00Z, 114.2142, 65.602547, 12.766525417694611, 21.978180542181622"
    })
    void placesOfStarsAgreeWithAstropy(Instant time, double ra, double dec, double azimuth, double altitude) {
        Horizontal seen = Observer.at(COLLE_SORBO).airless().observed(new Equatorial(ra, dec), time);
        Horizontal expected = new Horizontal(azimuth, altitude);
        double apart = Math.toDegrees(Vectors.angle(seen.toEastNorthUp(), expected.toEastNorthUp())) * 3600;
        assertThat(apart).isLessThan(1.0);
    }

    /** Published: Reda and Andreas 2004, Solar Energy 76, 577, worked example: zenith distance 50.11162°, azimuth 194.34024°. */
    @Test
    void theSunOfTheSolarPositionPaper() {
        Site golden = new Site("Golden", 39.742476, -105.1786, 1830.14, ZoneOffset.ofHours(-7), 21, Horizon.FLAT);
        Observer observer = new Observer(golden, new Atmosphere(820, 11, 0.3));
        Horizontal sun = new SunAndMoon(observer).sun(Instant.parse("2003-10-17T19:30:30Z"));
        assertThat(90 - sun.altitudeDeg()).isCloseTo(50.11162, within(0.003));
        assertThat(sun.azimuthDeg()).isCloseTo(194.34024, within(0.003));
    }

    /** SOFA's own sum of all terms, at moments between those at which it is taken. */
    @ParameterizedTest
    @ValueSource(
            strings = {"1988-06-19T15:17:11Z", "2017-01-01T00:00:00Z", "2026-11-14T21:26:37Z", "2041-03-30T05:59:59Z"})
    void theEarthsPoleIsThatOfTheWholeSeries(Instant time) {
        EarthPole told = EarthPole.at(time);
        SkyTime t = SkyTime.of(time);
        double[][] matrix = JSOFA.jauC2i06a(t.tt1(), t.tt2());
        JSOFA.CelestialIntermediatePole pole = JSOFA.jauBpn2xy(matrix);
        double thousandth = 0.00005 / Angles.ARCSEC_PER_RADIAN;
        assertThat(told.x()).isCloseTo(pole.x, within(thousandth));
        assertThat(told.y()).isCloseTo(pole.y, within(thousandth));
        assertThat(told.s()).isCloseTo(JSOFA.jauS06a(t.tt1(), t.tt2()), within(thousandth));
        assertThat(told.originsRad()).isCloseTo(JSOFA.jauEo06a(t.tt1(), t.tt2()), within(thousandth));
    }

    /** Published: SOFA's epv00, the whole series, at moments between the nodes. */
    @ParameterizedTest
    @ValueSource(strings = {"2026-11-14T21:37:11Z", "2031-02-28T03:00:00Z", "2019-07-02T14:59:59Z"})
    void theEarthMovesAsTheWholeSeriesSays(String text) {
        Instant time = Instant.parse(text);
        SkyTime t = SkyTime.of(time);
        double[][] heliocentric = new double[2][3];
        double[][] barycentric = new double[2][3];
        JSOFA.jauEpv00(t.tt1(), t.tt2(), heliocentric, barycentric);
        EarthMotion told = EarthMotion.at(time);
        for (int i = 0; i < 2; i++) {
            assertThat(told.heliocentric()[i]).containsExactly(heliocentric[i], within(1e-10));
            assertThat(told.barycentric()[i]).containsExactly(barycentric[i], within(1e-10));
        }
    }

    /** Published: Meeus 1998, example 12.a: apparent sidereal time at Greenwich 13h 10m 46.1351s; UT1 − UTC unknown, 0.9 s at most. */
    @Test
    void siderealTimeOfMeeus() {
        Site greenwich = new Site("Greenwich", 51.48, 0, 0, ZoneOffset.UTC, 20, Horizon.FLAT);
        double expected = 15 * (13 + 10 / 60.0 + 46.1351 / 3600);
        assertThat(Observer.at(greenwich).siderealTimeDeg(Instant.parse("1987-04-10T00:00:00Z")))
                .isCloseTo(expected, within(0.01 / 3600 * 15));
    }

    /** Law: there and back again. */
    @Test
    void catalogueUndoesObserved() {
        Observer observer = Observer.at(COLLE_SORBO);
        Instant time = Instant.parse("2026-11-14T22:00:00Z");
        for (double dec = -30; dec <= 85; dec += 5) {
            Equatorial star = new Equatorial(20 + dec, dec);
            if (observer.observed(star, time).altitudeDeg() > 15) {
                Equatorial back = observer.catalogue(observer.observed(star, time), time);
                assertThat(back.separationDeg(star) * 3600).isLessThan(0.02);
            }
        }
    }

    /** Published: mean refraction at an altitude of 10° is 5.3′ at 1010 hPa and 10 °C (Meeus 1998, chapter 16: 5.31′ by Bennett). */
    @Test
    void refractionAtTenDegrees() {
        Observer air = new Observer(COLLE_SORBO, new Atmosphere(1010, 10, 0));
        Instant time = Instant.parse("2026-11-14T22:00:00Z");
        Equatorial star = air.catalogue(new Horizontal(90, 10), time);
        double lift = (10 - air.airless().observed(star, time).altitudeDeg()) * 60;
        assertThat(lift).isCloseTo(5.31, within(0.07)); // Bennett claims 0.07′
    }

    @Test
    void timesWithoutKnownLeapSecondsAreRefused() {
        assertThatThrownBy(() -> Observer.at(COLLE_SORBO).siderealTimeDeg(Instant.parse("1965-01-01T00:00:00Z")))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("expected a date from 1972 to 2099");
    }
}
