package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.document.NightFile;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Horizon;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class PlanTest {
    private static final Equatorial M33 = new Equatorial(23.4621, 30.659942);

    private static Site site(Horizon horizon) {
        return new Site("Colle Sorbo", 44.05, 8.20, 740, ZoneId.of("Europe/Rome"), 20.9, horizon);
    }

    private static NightTimes night(Site site) {
        return NightTimes.of(site, LocalDate.of(2026, 11, 14));
    }

    private static NightFile demo() throws IOException {
        return NightFile.parse(
                Files.readString(Path.of("..", "examples", "colle-sorbo.json")),
                "colle-sorbo.json",
                DeepSkyCatalogue.load());
    }

    /** Another library: by astropy 5.2.1 M 33 stands at azimuth 179.9968° at 21:26:37 UTC, 0.2 s before the meridian at 1.4°/min. */
    @Test
    void transitOfM33() {
        Instant transit =
                TargetWindow.transit(M33, Observer.at(site(Horizon.FLAT)), Instant.parse("2026-11-14T23:00:00Z"));
        assertThat(Duration.between(Instant.parse("2026-11-14T21:26:37.2Z"), transit)
                        .abs())
                .isLessThan(Duration.ofMillis(1500));
    }

    /** Law: a higher horizon never gives more time, and the usable time lies in the dark. */
    @Test
    void aHigherSkylineNeverGivesMore() {
        double before = 24;
        for (double minimum = 0; minimum <= 70; minimum += 10) {
            Site site = site(Horizon.FLAT);
            TargetWindow window = TargetWindow.of(M33, Observer.at(site), night(site), minimum);
            assertThat(window.usableHours()).isLessThanOrEqualTo(before);
            before = window.usableHours();
            for (Interval usable : window.usable()) {
                assertThat(night(site).dark().get(0).contains(usable.from())).isTrue();
            }
        }
    }

    /** Law: an hour is never worth more than one at the zenith without the Moon, and worth less when low or in moonlight. */
    @Test
    void effectiveTimeIsAShare() {
        EffectiveTime worth = new EffectiveTime(Observer.at(site(Horizon.FLAT)));
        Instant high = Instant.parse("2026-11-14T21:26:00Z");
        double best = worth.weight(M33, high);
        assertThat(best).isBetween(0.9, 1.0);
        assertThat(worth.weight(M33, Instant.parse("2026-11-15T03:30:00Z"))).isLessThan(0.5 * best);
        Equatorial nearMoon = new Equatorial(290, -20);
        assertThat(worth.weight(nearMoon, Instant.parse("2026-11-14T18:00:00Z")))
                .isLessThan(0.35);
        assertThat(worth.weight(M33, Instant.parse("2026-11-15T09:00:00Z"))).isZero();
    }

    /** By hand: 120 s start, no flip, no dither, 110 s of focus in 1.2 h: in one hour (3600 − 120 − 91.7) / 181.5 = 18.67. */
    @Test
    void subsThatFitByHand() {
        Overheads overheads = new Overheads(1.5, 0, 110, 1.2, 120, 150, 0);
        assertThat(overheads.subsIn(3600, 180, 2, 0)).isEqualTo(18);
        assertThat(overheads.subsIn(100, 180, 2, 0)).isZero();
        assertThat(overheads.subsIn(overheads.secondsFor(40 * overheads.secondsOf(180, 2), 1, 180), 180, 2, 1))
                .isGreaterThanOrEqualTo(40);
    }

    @Test
    void theDemoNightIsLaidOut() throws IOException {
        NightFile file = demo();
        NightPlan plan = NightPlanner.plan(file.site(), file.kit(), file.program());
        assertThat(plan.blocks()).hasSize(2);
        PlannedBlock first = plan.blocks().get(0);
        PlannedBlock second = plan.blocks().get(1);
        assertThat(first.flip()).isPresent();
        assertThat(second.span().from()).isEqualTo(first.span().until());
        assertThat(second.span().until())
                .isBeforeOrEqualTo(plan.times().astronomicalDawn().orElseThrow());
        double light =
                plan.blocks().stream().mapToDouble(PlannedBlock::hoursOfLight).sum();
        assertThat(light)
                .isCloseTo(plan.times().darkHours(), within(1.6))
                .isLessThan(plan.times().darkHours());
    }

    @Test
    void filtersTakeTurns() throws IOException {
        TargetPlan target = demo().program().targets().get(0);
        Map<String, Integer> taken = new HashMap<>();
        StringBuilder order = new StringBuilder();
        for (int sub = 0; sub < 10; sub++) {
            String filter = target.next(taken, g -> true).orElseThrow().filter();
            order.append(filter);
            taken.merge(filter, 1, Integer::sum);
        }
        assertThat(order).hasToString("LLRRGGBBLL");
    }
}
