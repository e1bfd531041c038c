package app.ironside.polar;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.Vectors;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Law: a direction carried around an axis tells that axis, whatever the air does to the light on its way. */
class AxisFinderTest {
    private static final Instant START = Instant.parse("2026-11-14T18:00:00Z");

    private static Observer at(double lat) {
        return Observer.at(new Site("test", lat, 8.2, 740, ZoneOffset.UTC, 21, Horizon.FLAT));
    }

    /** Places among the stars that a telescope sees while it is turned about an axis given in azimuth and altitude. */
    private static List<AxisSight> sights(
            Observer observer, Horizontal axis, Horizontal first, double stepDeg, int count) {
        List<AxisSight> sights = new ArrayList<>();
        for (int k = 0; k < count; k++) {
            double[] seen = Vectors.turn(first.toEastNorthUp(), axis.toEastNorthUp(), Math.toRadians(k * stepDeg));
            Instant time = START.plusSeconds(40L * k);
            sights.add(new AxisSight(observer.catalogue(Horizontal.fromEastNorthUp(seen), time), time));
        }
        return sights;
    }

    @ParameterizedTest
    @CsvSource({"44.05, 38, -27", "44.05, -0.4, 0.3", "52, 180, 120", "20, -60, 45", "-33.9, 25, 40", "-33.9, -70, -15"
    })
    void findsAKnownError(double lat, double altitudeArcmin, double eastArcmin) {
        Observer observer = at(lat);
        double poleAltitude = Math.abs(lat);
        double azimuthStep = eastArcmin / 60 / Math.cos(Math.toRadians(poleAltitude));
        // By definition: south of the equator east is toward smaller azimuth.
        double azimuth = lat >= 0 ? azimuthStep : 180 - azimuthStep;
        Horizontal axis = new Horizontal(azimuth, poleAltitude + altitudeArcmin / 60);
        Horizontal first = new Horizontal(lat >= 0 ? 30 : 150, 55);
        PolarError error = (PolarError) new AxisFinder(observer).find(sights(observer, axis, first, 25, 3), 1.5);
        // The true error is that of the arc at the pole; both small-angle terms are good to a percent at 3°.
        assertThat(error.altitudeErrorArcmin()).isCloseTo(altitudeArcmin, within(0.05));
        assertThat(error.azimuthErrorArcmin()).isCloseTo(eastArcmin, within(0.05));
        assertThat(error.turnDeg()).isCloseTo(50, within(0.1));
        assertThat(error.uncertaintyArcmin()).isBetween(0.01, 2.0);
    }

    @Test
    void aSmallTurnIsRefusedWithTheRemedy() {
        Observer observer = at(44);
        PolarResult result = new AxisFinder(observer)
                .find(sights(observer, new Horizontal(0.5, 44.5), new Horizontal(30, 55), 2, 3), 1.5);
        assertThat(((PolarRefusal) result).reason())
                .isEqualTo("The mount turned only 4.0° about its axis; turn it at least 8° in all.");
    }

    @Test
    void twoExposuresAreRefused() {
        Observer observer = at(44);
        List<AxisSight> two = sights(observer, new Horizontal(0.5, 44.5), new Horizontal(30, 55), 20, 2);
        assertThat(new AxisFinder(observer).find(two, 1)).isInstanceOf(PolarRefusal.class);
    }

    @Test
    void adviceNamesTheKnobAndTheWay() {
        KnobAdvice advice = KnobAdvice.toRemove(new PolarError(38, -27, 0.3, 48), new KnobGearing(62, 37));
        assertThat(advice.sentence())
                .isEqualTo(
                        "Altitude knob: lower the axis by 38.0′, 0.61 turn. Azimuth knob: move the axis east by 27.0′, 0.73 turn.");
        assertThat(advice.altitudeTurns()).isCloseTo(-38.0 / 62, within(1e-12));
    }

    /** By hand: a turn of −0.5 that moved the axis from 38′ to 8′ is 60′ a turn; a hundredth of a turn teaches nothing. */
    @Test
    void gearingIsLearned() {
        PolarError before = new PolarError(38, -27, 0.3, 48);
        KnobGearing learned = KnobGearing.UNKNOWN.learnedFrom(
                new KnobAdvice(-0.5, 0.01, ""), before, new PolarError(8, -20, 0.3, 48));
        assertThat(learned.altitudeArcminPerTurn()).isCloseTo(60, within(1e-9));
        assertThat(learned.azimuthArcminPerTurn()).isEqualTo(KnobGearing.UNKNOWN.azimuthArcminPerTurn());
    }
}
