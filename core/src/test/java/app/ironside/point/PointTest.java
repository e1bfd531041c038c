package app.ironside.point;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import app.ironside.Examples;
import app.ironside.Mocks;
import app.ironside.device.DeviceException;
import app.ironside.device.Mount;
import app.ironside.device.NightClock;
import app.ironside.point.PointingModel.Fitted;
import app.ironside.point.PointingModel.Kind;
import app.ironside.point.PointingModel.NotFitted;
import app.ironside.point.PointingModel.Point;
import app.ironside.point.PointingModel.Term;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Horizontal;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.SunAndMoon;
import app.ironside.solve.PlateSolution;
import app.ironside.solve.Wcs;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PointTest {
    private static final Instant NOW = Instant.parse("2026-11-14T20:00:00Z");
    private static final Site SITE = new Site("test", 44.05, 8.2, 740, ZoneOffset.UTC, 21, Horizon.FLAT);
    private static final Observer OBSERVER = Observer.at(SITE);

    private static PlateSolution frame(Equatorial centre, double turn, boolean mirrored) {
        double s = 3.0 / 3600 * Math.sin(Math.toRadians(turn));
        double c = 3.0 / 3600 * Math.cos(Math.toRadians(turn));
        int parity = mirrored ? -1 : 1;
        Wcs wcs = new Wcs(centre, 1400.5, 1050.5, -c * parity, s, s * parity, c);
        return new PlateSolution(centre, wcs, 1, -30, List.of(), List.of());
    }

    /** Law: the nudge leads to the pixel at which the WCS sees the target. */
    @ParameterizedTest
    @CsvSource({"0, false", "35, false", "-120, false", "60, true"})
    void theNudgeLeadsToThePixel(double turn, boolean mirrored) {
        PlateSolution frame = frame(new Equatorial(23.4, 30.6), turn, mirrored);
        Equatorial target = new Equatorial(23.9, 30.1);
        double[] pixel = frame.wcs().toPixel(target).orElseThrow();
        Nudge nudge = Nudge.to(target, frame, 2800, 2100);
        assertThat(nudge.rightDeg()).isCloseTo((pixel[0] - 1400.5) * 3 / 3600, within(1e-4));
        assertThat(nudge.upDeg()).isCloseTo((pixel[1] - 1050.5) * 3 / 3600, within(1e-4));
        assertThat(nudge.rightFields()).isCloseTo((pixel[0] - 1400.5) / 2800, within(1e-4));
    }

    /** By hand: 1.4° north and, at the equator, 0.6° west of the middle, with north up. */
    @Test
    void theNudgeInWords() {
        PlateSolution frame = frame(new Equatorial(100, 0), 0, false);
        Nudge nudge = Nudge.to(new Equatorial(99.4, 1.4), frame, 2800, 2100);
        assertThat(nudge.sentence()).isEqualTo("Point 1.4° up and 36′ right (0.8 and 0.3 fields).");
        assertThat(nudge.axesSentence()).isEqualTo("Turn right ascension 36′ west, declination 1.4° north.");
        assertThat(Nudge.to(new Equatorial(100, 0), frame, 2800, 2100).sentence())
                .isEqualTo("It is in the middle.");
    }

    /** Of 2800 x 2100 pixels of 3″. */
    private static FramingMatch framing(Equatorial centre, double angle, FramingMatch.Wanted wanted) {
        return FramingMatch.of(centre, angle, 140 / 60.0, 105 / 60.0, wanted);
    }

    @Test
    void theSameFramingOnAnotherNight() {
        Equatorial middle = new Equatorial(23.46, 30.66);
        FramingMatch.Wanted wanted = new FramingMatch.Wanted(middle, 20, 0.05);
        // After a flip the camera stands on its head and frames the same.
        FramingMatch flipped = framing(middle, -160, wanted);
        assertThat(flipped.turnDeg()).isCloseTo(0, within(1e-9));
        assertThat(flipped.same()).isTrue();
        FramingMatch turned = framing(middle, 8, wanted);
        assertThat(turned.same()).isFalse();
        assertThat(turned.sentence())
                .isEqualTo(
                        "Turn the camera by 12.0° from north toward east on the sky. Flats taken before are void then, and balance wants another look.");
        // By hand: 6′ of 2100 px · 3″ = 105′ are 5.7 %.
        FramingMatch off = framing(new Equatorial(23.46, 30.76), 20, wanted);
        assertThat(off.cornerShare()).isCloseTo(0.057, within(0.001));
        assertThat(off.sentence()).contains("6.0′ off: centre again");
    }

    /** By hand: 40′ of target, its middle 60′ from that of a field of 105′: 52.5 − 40 = 12.5′ of the 40 are inside. */
    @Test
    void partOfATargetInside() {
        Nudge nudge = new Nudge(0, 1.0, 0, 0, 0, 0, 1);
        assertThat(FramingMatch.shareInside(nudge, 140 / 60.0, 105 / 60.0, 40 / 60.0))
                .isCloseTo(12.5 / 40, within(1e-9));
    }

    // ---- the model

    private static final Map<Kind, Double> TRUTH = Map.of(
            Kind.HOUR_ANGLE_INDEX, 420.0,
            Kind.DECLINATION_INDEX, -150.0,
            Kind.COLLIMATION, 90.0,
            Kind.POLE_LEFT_RIGHT, 200.0,
            Kind.POLE_UP_DOWN, -120.0);

    /** Truth: five terms, solutions good to 5″ (seed 12). */
    private static List<Point> points(int count) {
        Random random = new Random(12);
        List<Point> points = new ArrayList<>();
        for (SkyPoints.Place place : SkyPoints.spread(OBSERVER, Examples.kit("heron"), NOW, count)) {
            double h = OBSERVER.hourAngleDeg(place.place(), NOW);
            double d = place.place().decDeg();
            double side = place.side() == Mount.PierSide.WEST ? 1 : -1;
            double west = 5 * random.nextGaussian();
            double north = 5 * random.nextGaussian();
            for (Map.Entry<Kind, Double> term : TRUTH.entrySet()) {
                double[] effect = term.getKey().effect(h, d, side, 44.05);
                west += term.getValue() * effect[0];
                north += term.getValue() * effect[1];
            }
            Equatorial solved = new Equatorial(
                    (place.place().raDeg() - west / 3600 / Math.cos(Math.toRadians(d)) + 360) % 360, d + north / 3600);
            points.add(new Point(place.place(), solved, NOW, place.side()));
        }
        return points;
    }

    @Test
    void theTermsAreFoundWithinTheirUncertainty() {
        List<Point> points = points(30);
        assertThat(points).hasSizeGreaterThan(24);
        PointingModel model = ((Fitted) PointingModel.fit(points, OBSERVER, NOW)).model();
        Map<Kind, Term> found = model.terms().stream().collect(Collectors.toMap(Term::kind, t -> t));
        assertThat(found.keySet()).containsAll(TRUTH.keySet());
        TRUTH.forEach((kind, arcsec) -> assertThat(found.get(kind).arcsec())
                .as(kind.words())
                .isCloseTo(arcsec, within(4 * found.get(kind).sigmaArcsec() + 1)));
        assertThat(model.rmsBeforeArcsec()).isGreaterThan(300);
        // Two axes of 5″ each.
        assertThat(model.rmsAfterArcsec()).isBetween(4.0, 9.0);
        assertThat(model.rmsUnseenArcsec()).isBetween(model.rmsAfterArcsec(), 13.0);
    }

    @Test
    void theModelPointsBetterAndKnowsWhenItIsStale() {
        List<Point> points = points(30);
        PointingModel model = ((Fitted) PointingModel.fit(points, OBSERVER, NOW)).model();
        PointingModel again = PointingModel.parse(model.toJson(), "model.json");
        assertThat(again).isEqualTo(model);
        // Law: sent where the model says for the place that was solved, the mount believes what it believed.
        Point p = points.get(4);
        Equatorial command = model.commandFor(p.solved(), NOW, p.side(), OBSERVER);
        assertThat(command.separationDeg(p.believed()) * 3600).isLessThan(30);
        assertThat(model.staleness(p, OBSERVER)).isEmpty();
        Equatorial moved = new Equatorial(p.solved().raDeg(), p.solved().decDeg() + 0.2);
        assertThat(model.staleness(new Point(p.believed(), moved, NOW, p.side()), OBSERVER)
                        .orElseThrow())
                .startsWith("The model is stale: this frame lies 1")
                .contains("Clear it at Point, Model, and take new points");
    }

    @Test
    void tooFewPointsAreRefused() {
        assertThat(((NotFitted) PointingModel.fit(points(30).subList(0, 4), OBSERVER, NOW)).reason())
                .isEqualTo("Only 4 points were solved and 6 are needed: take more, spread over the sky.");
    }

    @Test
    void pointsKeepClearOfSkylineMeridianAndSun() {
        Site walled = new Site(
                "walled",
                44.05,
                8.2,
                740,
                ZoneOffset.UTC,
                21,
                new Horizon(List.of(
                        new Horizontal(0, 5), new Horizontal(90, 50), new Horizontal(180, 5), new Horizontal(270, 5))));
        Observer observer = Observer.at(walled);
        List<SkyPoints.Place> places = SkyPoints.spread(observer, Examples.kit("heron"), NOW, 20);
        assertThat(places).hasSize(20);
        for (SkyPoints.Place place : places) {
            Horizontal seen = observer.observed(place.place(), NOW);
            assertThat(walled.horizon().clears(seen, 0)).isTrue();
            assertThat(Math.abs(observer.hourAngleDeg(place.place(), NOW))).isGreaterThan(2.9);
        }
        // One change of sides.
        long changes = java.util.stream.IntStream.range(1, places.size())
                .filter(i -> places.get(i).side() != places.get(i - 1).side())
                .count();
        assertThat(changes).isLessThanOrEqualTo(1);
    }

    // ---- the guards

    private final Mount mount = Mocks.device(Mount.class);
    private final NightClock clock = mock(NightClock.class);
    private final GuardedMount guarded = new GuardedMount(mount, OBSERVER, Examples.kit("wren"), clock);

    private static Equatorial at(double azimuth, double altitude, Instant time) {
        return OBSERVER.catalogue(new Horizontal(azimuth, altitude), time);
    }

    @Test
    void neverTowardTheSunNorBelowTheHorizon() {
        Instant noon = Instant.parse("2026-11-14T11:20:00Z");
        when(clock.now()).thenReturn(noon);
        Horizontal sun = new SunAndMoon(OBSERVER).sun(noon);
        assertThatThrownBy(() ->
                        guarded.slewTo(at(sun.azimuthDeg() + 8, sun.altitudeDeg() + 5, noon), Mount.PierSide.WEST))
                .isInstanceOf(DeviceException.class)
                .hasMessageContaining("from the Sun and the slew is refused");
        assertThatThrownBy(() -> guarded.slewTo(at(20, -10, noon), Mount.PierSide.WEST))
                .hasMessageContaining("altitude and the slew is refused");
        verify(mount, never()).slewTo(any(), any());
    }

    @Test
    void notBeyondTheContactLimitButFromTheOtherSide() {
        when(clock.now()).thenReturn(NOW);
        Equatorial west = new Equatorial((OBSERVER.siderealTimeDeg(NOW) - 50 + 360) % 360, 20);
        assertThatThrownBy(() -> guarded.slewTo(west, Mount.PierSide.WEST))
                .hasMessageContaining("Slew to the other side");
        guarded.slewTo(west, Mount.PierSide.EAST);
        verify(mount).slewTo(west, Mount.PierSide.EAST);
    }

    @Test
    void lostMotionIsNoticed() throws InterruptedException {
        when(clock.now()).thenReturn(NOW);
        Equatorial here = at(90, 40, NOW);
        when(mount.pointing()).thenReturn(here);
        assertThatThrownBy(() -> guarded.slewAndWait(clock, at(120, 50, NOW), Mount.PierSide.WEST))
                .hasMessageContaining("was commanded and it moved by 0.0°")
                .hasMessageContaining("Look at power, clutches");
        when(mount.isParked()).thenReturn(true);
        assertThatThrownBy(() -> guarded.slewTo(here, Mount.PierSide.WEST)).hasMessageContaining("it is parked");
    }
}
