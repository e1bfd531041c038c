package app.ironside.polar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.polar.DriftFinder.DriftSight;
import app.ironside.polar.PolarReticle.ReticleStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DriftAndReticleTest {
    private static final Instant START = Instant.parse("2026-11-14T20:00:00Z");

    private static Observer at(double lat) {
        return Observer.at(new Site("test", lat, 8.2, 740, ZoneOffset.UTC, 21, Horizon.FLAT));
    }

    private static Equatorial star(Observer observer, double hourAngle, double dec) {
        return new Equatorial((observer.siderealTimeDeg(START) - hourAngle + 720) % 360, dec);
    }

    /** The formula at the finder's head, ω = 0.2625″ a minute for each arcminute (Hook 1989; also common practice: 0.26). */
    private static DriftSight watched(Observer observer, double hourAngle, double dec, double up, double east) {
        double h = Math.toRadians(hourAngle);
        double sign = observer.site().latDeg() >= 0 ? 1 : -1;
        double drift = -sign * 0.2625 * (up * Math.sin(h) + east * Math.cos(h));
        return new DriftSight(star(observer, hourAngle, dec), START, Duration.ofMinutes(1), drift, 0.05);
    }

    @ParameterizedTest
    @CsvSource({"44, 10, 0", "44, 0, -8", "44, 5, 7", "-35, 12, -6"})
    void twoStarsTellTheAxis(double lat, double up, double east) {
        Observer airless = at(lat).airless();
        PolarError error = (PolarError) new DriftFinder(airless)
                .find(List.of(watched(airless, 0, 5, up, east), watched(airless, -75, 0, up, east)));
        // Over the minute watched the hour angle goes on by a quarter of a degree: half of that in the mean.
        assertThat(error.altitudeErrorArcmin()).isCloseTo(up, within(0.15));
        assertThat(error.azimuthErrorArcmin()).isCloseTo(east, within(0.15));
        assertThat(error.uncertaintyArcmin()).isBetween(0.1, 0.6);
    }

    /** The old rules of thumb: on the meridian a star that drifts south means east; in the east one that drifts north means high. */
    @Test
    void theFirstHintIsTheOldRule() {
        Observer observer = at(44);
        DriftFinder finder = new DriftFinder(observer);
        DriftSight south = new DriftSight(star(observer, 2, 5), START, Duration.ofMinutes(5), -1.2, 0.1);
        assertThat(finder.firstHint(south)).isEqualTo("Near the meridian: the axis is too far east.");
        DriftSight north = new DriftSight(star(observer, -70, 5), START, Duration.ofMinutes(5), 1.2, 0.1);
        assertThat(finder.firstHint(north)).isEqualTo("Low in the east: the axis is too high.");
    }

    @Test
    void oneDirectionIsNotEnough() {
        Observer observer = at(44);
        DriftFinder finder = new DriftFinder(observer);
        DriftSight one = watched(observer, 0, 5, 3, 3);
        assertThat(finder.find(List.of(one))).isInstanceOf(PolarRefusal.class);
        PolarRefusal near = (PolarRefusal) finder.find(List.of(one, watched(observer, 6, 10, 3, 3)));
        assertThat(near.reason()).contains("too near in hour angle");
    }

    /**
     * Published: the pole star's distance from the pole is 27′31″ at its least, in 2102 (Meeus, Astronomical Algorithms, 2nd ed., ch. 21),
     * and falls by some 16″ a year in this decade (from memory: 39′ in 2020): near 37.4′ at the end of 2026, plus refraction's few seconds.
     */
    @Test
    void thePoleStarIsWhereItBelongs() {
        Observer observer = at(44.05);
        PolarReticle reticle = new PolarReticle(observer, StarCatalogue.hipparcos());
        ReticleStar polaris = reticle.at(START, false).get(0);
        assertThat(polaris.star().magnitude()).isCloseTo(2.0, within(0.1));
        assertThat(polaris.distanceArcmin()).isBetween(36.6, 38.2);
        // Law: seen toward the pole the clock runs against the hour angle.
        double fromHourAngle = (24 - polaris.hourAngleDeg() / 30) % 12;
        double apart = Math.abs(polaris.clockHours() - fromHourAngle);
        assertThat(Math.min(apart, 12 - apart)).isLessThan(0.1);
        ReticleStar inverted = reticle.at(START, true).get(0);
        assertThat(Math.abs(inverted.clockHours() - polaris.clockHours())).isCloseTo(6, within(1e-9));
        assertThat(polaris.clock()).matches("\\d{1,2}:\\d\\d");
    }

    /** South of the equator the pattern of four stands within its known circle, and turns the other way. */
    @Test
    void theSouthernPatternTurnsClockwise() {
        PolarReticle reticle = new PolarReticle(at(-33.9), StarCatalogue.hipparcos());
        List<ReticleStar> now = reticle.at(START, false);
        List<ReticleStar> later = reticle.at(START.plusSeconds(3600), false);
        assertThat(now)
                .hasSize(4)
                .allMatch(s -> s.distanceArcmin() < 165 && s.star().magnitude() < 6.5);
        for (int i = 0; i < 4; i++) {
            double moved = (later.get(i).clockHours() - now.get(i).clockHours() + 12) % 12;
            // An hour is 15.04° of the clock's 360.
            assertThat(moved).isCloseTo(15.04 / 30, within(0.03));
        }
    }
}
