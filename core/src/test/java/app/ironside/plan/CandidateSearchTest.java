package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.DeepSkyObject;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizontal;
import app.ironside.sky.LightDome;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Month;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class CandidateSearchTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final StarCatalogue STARS = StarCatalogue.hipparcos();
    private static final Site SITE = Examples.site();
    private static final Kit WREN = Examples.kit("wren");
    private static final LocalDate DATE = LocalDate.of(2026, 11, 14);
    private static final CandidateSearch.Wish WISH =
            new CandidateSearch.Wish(25, Candidate.Level.PRACTISED, CloudForecast.CLEAR);

    private static List<Candidate> ranked() {
        return new CandidateSearch(OBJECTS, STARS).rank(SITE, WREN, NightTimes.of(SITE, DATE), WISH, Workers.ALL_CORES);
    }

    private static Candidate of(List<Candidate> all, String id) {
        return all.stream().filter(c -> c.object().id().equals(id)).findFirst().orElseThrow();
    }

    /** Another way to the same figures: the exact chain of SOFA, target by target, in steps of two minutes. */
    @Test
    void theFastWeighingAgreesWithTheExactOne() {
        NightTimes night = NightTimes.of(SITE, DATE);
        List<Candidate> all = ranked();
        for (String id : List.of("M 33", "NGC 2403", "NGC 891", "IC 342", "NGC 7331")) {
            Candidate fast = of(all, id);
            TargetWindow exact =
                    TargetWindow.of(fast.object().position(), Observer.at(SITE), night, WISH.minimumAltitudeDeg());
            assertThat(fast.usableHours()).as(id).isCloseTo(exact.usableHours(), within(0.35));
            // The camera's own noise behind the filter, which the exact figure does not know, makes the Moon weigh
            // less.
            assertThat(fast.effectiveHours())
                    .as(id)
                    .isBetween(exact.effectiveHours() - 0.15, 1.06 * exact.effectiveHours());
            assertThat(Duration.between(fast.transit(), exact.transit()).abs())
                    .as(id)
                    .isLessThan(Duration.ofMinutes(3));
        }
    }

    /** Law: altitudes of the grid are those of the exact chain to 0.01° above 10°. */
    @Test
    void altitudesOfTheGrid() {
        Observer observer = Observer.at(SITE);
        NightGrid grid = new NightGrid(
                observer, NightTimes.of(SITE, DATE).dark().get(0), Duration.ofMinutes(47), CloudForecast.CLEAR);
        for (DeepSkyObject o : OBJECTS.objects().subList(0, 400)) {
            double[] direction = Vectors.of(o.position().raDeg(), o.position().decDeg());
            for (int i = 0; i < grid.size(); i++) {
                Horizontal exact = observer.observed(o.position(), grid.time(i));
                if (exact.altitudeDeg() > 10) {
                    assertThat(grid.seen(i, direction).altitudeDeg())
                            .as(o.id())
                            .isCloseTo(exact.altitudeDeg(), within(0.01));
                }
            }
        }
    }

    /** Laws: ranked by worth, all above the limits, no more hours than there is dark. */
    @Test
    void theListOfANight() {
        List<Candidate> all = ranked();
        double dark = NightTimes.of(SITE, DATE).darkHours();
        assertThat(all).hasSizeGreaterThan(5000).isSortedAccordingTo((a, b) -> Double.compare(b.worth(), a.worth()));
        assertThat(all).allSatisfy(c -> {
            assertThat(c.usableHours()).isGreaterThan(0).isLessThanOrEqualTo(dark + 0.2);
            assertThat(c.effectiveHours()).isLessThanOrEqualTo(c.usableHours() * 1.01);
            assertThat(c.highestDeg()).isGreaterThanOrEqualTo(25);
        });
        assertThat(all.stream().map(c -> c.object().id()))
                .as("far southern objects never rise at 44° north")
                .doesNotContain("NGC 104");
    }

    /** Common practice: large and bright first; a tiny planetary stays tiny; a big one wants panels. */
    @Test
    void howObjectsSitInTheField() {
        List<Candidate> all = ranked();
        assertThat(of(all, "M 33").fit()).isEqualTo(Candidate.Fit.GOOD);
        assertThat(of(all, "M 33").level()).isNotEqualTo(Candidate.Level.EXPERT);
        assertThat(of(all, "NGC 7662").fit()).isEqualTo(Candidate.Fit.TINY);
        assertThat(all.indexOf(of(all, "M 33"))).isLessThan(all.indexOf(of(all, "NGC 7662")));
    }

    /** By hand: magnitude 5.7 over an ellipse of 70.8′ × 41.7′: 5.7 + 2.5 log(π/4 × 70.8 × 41.7 × 3600) = 23.004. */
    @Test
    void surfaceBrightnessByHand() {
        DeepSkyObject ellipse = new DeepSkyObject(
                "X", "", "", DeepSkyObject.Kind.SPIRAL, new Equatorial(0, 0), Optional.of(5.7), 70.8, 41.7);
        assertThat(CandidateSearch.surfaceBrightness(ellipse).orElseThrow()).isCloseTo(23.004, within(0.001));
    }

    /** Law: a town's glow takes most from what stands low over it and nothing from the far side. */
    @Test
    void theGlowOfATown() {
        LightDome dome = new LightDome(200, 1);
        assertThat(dome.share(new Horizontal(200, 20))).isCloseTo(Math.pow(10, 0.4) - 1, within(1e-9));
        assertThat(dome.share(new Horizontal(20, 20))).isLessThan(1e-4);
        assertThat(dome.share(new Horizontal(200, 60))).isLessThan(0.2 * dome.share(new Horizontal(200, 20)));
    }

    /** Law: the season's quick dusk and dawn are those of the exact night to a minute and a half, at all latitudes. */
    @Test
    void theSeasonsDarkness() {
        for (double lat : new double[] {-45, -20, 0, 30, 44, 55}) {
            Site site = new Site("s", lat, 8, 0, ZoneId.of("UTC"), 21, SITE.horizon());
            for (int month = 1; month <= 12; month++) {
                LocalDate date = LocalDate.of(2026, month, 21);
                NightTimes exact = NightTimes.of(site, date);
                var quick = SeasonBoard.dark(site, Observer.at(site), date);
                assertThat(quick.isPresent())
                        .as(lat + " " + date)
                        .isEqualTo(!exact.dark().isEmpty());
                quick.ifPresent(q -> {
                    near(q.from(), exact.dark().get(0).from(), lat + " dusk " + date);
                    near(q.until(), exact.dark().get(0).until(), lat + " dawn " + date);
                });
            }
        }
    }

    private static void near(Instant a, Instant b, String what) {
        assertThat(Duration.between(a, b).abs()).as(what).isLessThan(Duration.ofSeconds(90));
    }

    /**
     * Common practice at middle northern latitudes: the galaxy of the spring is best from January or February, the galaxy of the autumn
     * from September or October, the nebula of the summer in June.
     */
    @Test
    void seasonsOfKnownObjects() {
        Site site = new Site("s", 44.05, 8.2, 740, ZoneId.of("Europe/Rome"), 20.9, app.ironside.sky.Horizon.FLAT);
        List<DeepSkyObject> targets = List.of(
                OBJECTS.find("M 33").orElseThrow(),
                OBJECTS.find("NGC 4631").orElseThrow(),
                OBJECTS.find("NGC 6946").orElseThrow());
        SeasonBoard board = SeasonBoard.of(
                site,
                targets,
                List.of(),
                LocalDate.of(2026, 1, 1),
                365,
                new SeasonBoard.Settings(25, Workers.ALL_CORES, Progress.NONE));
        assertThat(board.rows().get(0).firstBest().orElseThrow().getMonth()).isIn(Month.OCTOBER, Month.NOVEMBER);
        assertThat(board.rows().get(1).firstBest().orElseThrow().getMonth())
                .isIn(Month.FEBRUARY, Month.MARCH, Month.APRIL);
        assertThat(board.darkHours().get(0)).isGreaterThan(board.darkHours().get(171));
        SeasonBoard.Row m33 = board.rows().get(0);
        var goal = board.nightsFor(m33, 20, LocalDate.of(2026, 9, 1), 6).orElseThrow();
        assertThat(goal.clearNights()).isBetween(3, 8);
        assertThat(goal.reached()).isBetween(LocalDate.of(2026, 9, 20), LocalDate.of(2026, 12, 20));
        assertThat(board.nightsFor(m33, 5000, LocalDate.of(2026, 9, 1), 6)).isEmpty();
    }

    /** Law: cancelling ends the work. */
    @Test
    void aSeasonCanBeCancelled() {
        Progress never = (what, done) -> false;
        org.assertj.core.api.Assertions.assertThatThrownBy(() -> SeasonBoard.of(
                        SITE,
                        List.of(OBJECTS.objects().get(0)),
                        List.of(),
                        DATE,
                        10,
                        new SeasonBoard.Settings(25, Workers.SERIAL, never)))
                .isInstanceOf(java.util.concurrent.CancellationException.class);
    }
}
