package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Examples;
import app.ironside.document.NightFile;
import app.ironside.kit.Kit;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** What is wanted by filter: in the plan, in its file, under the Moon. */
class FilterGoalTest {
    private static final DeepSkyCatalogue OBJECTS = DeepSkyCatalogue.load();
    private static final Kit WREN = Examples.kit("wren");
    private static final Site SITE = Examples.site();
    private static final Equatorial M33 = new Equatorial(23.462, 30.660);

    private static final FilterGoal L = new FilterGoal("L", 120);
    private static final FilterGoal HA = new FilterGoal("Ha", 300);

    private static TargetPlan target(FilterGoal... goals) {
        return new TargetPlan("M 33", M33, List.of(goals), 2);
    }

    private static NightPlan plan(LocalDate date, TargetPlan... targets) {
        return NightPlanner.plan(SITE, WREN, Examples.night(OBJECTS).program().withTargets(date, List.of(targets)));
    }

    private static String order(TargetPlan target, Map<String, Integer> done, int subs) {
        Map<String, Integer> taken = new HashMap<>(done);
        StringBuilder order = new StringBuilder();
        for (int i = 0; i < subs; i++) {
            target.next(taken, g -> true).ifPresent(g -> {
                order.append(g.filter()).append(' ');
                taken.merge(g.filter(), 1, Integer::sum);
            });
        }
        return order.toString().strip();
    }

    @Test
    void aFilledFilterIsPassedOver() {
        TargetPlan target = target(L, HA.withSubs(Optional.of(3)));
        assertThat(order(target, Map.of(), 9)).isEqualTo("L L Ha Ha L L Ha L L");
        assertThat(order(target, Map.of("Ha", 3, "L", 1), 3)).isEqualTo("L L L");
        assertThat(order(target(L.withSubs(Optional.of(1))), Map.of(), 5)).isEqualTo("L");
    }

    /** By hand: 2 h wanted, 0.5 h kept: 1.5 h are 45 subs of 120 s; tonight's own count may be less. */
    @Test
    void whatIsLeftOverManyNightsCountsTonight() {
        FilterGoal goal = L.withGathered(Optional.of(new FilterGoal.Gathered(2, 0.5)));
        assertThat(goal.wanted()).contains(45);
        assertThat(goal.withSubs(Optional.of(10)).wanted()).contains(10);
        assertThat(goal.withGathered(Optional.of(new FilterGoal.Gathered(2, 2.5)))
                        .wanted())
                .contains(0);
        assertThat(plan(
                                LocalDate.of(2026, 11, 14),
                                target(L.withGathered(Optional.of(new FilterGoal.Gathered(2, 2.5)))))
                        .blocks())
                .as("nothing is left to take")
                .isEmpty();
    }

    /** Counts by filter are kept exactly, and the light is that of each filter's own length. */
    @Test
    void theNightIsFilledByFilter() {
        NightPlan plan =
                plan(LocalDate.of(2026, 11, 14), target(L.withSubs(Optional.of(20)), HA.withSubs(Optional.of(6))));
        PlannedBlock block = plan.blocks().get(0);
        assertThat(block.byFilter()).isEqualTo(Map.of("L", 20, "Ha", 6));
        assertThat(block.words()).isEqualTo("L 20 × 120 s, Ha 6 × 300 s");
        assertThat(block.hoursOfLight()).isCloseTo((20 * 120 + 6 * 300) / 3600.0, within(1e-9));
        assertThat(block.span().duration().toSeconds())
                .as("the rest of the night is free")
                .isLessThan(3 * 3600);
        assertThat(plan(LocalDate.of(2026, 11, 14), target(L)).blocks().get(0).subs())
                .isGreaterThan(plan(LocalDate.of(2026, 11, 14), target(HA))
                        .blocks()
                        .get(0)
                        .subs());
    }

    /** 2026-11-20: the Moon, 80 % lit, sets after midnight (USNO's tables have it lit so; the hour is this program's own, checked there). */
    @Test
    void theMoonIsObeyed() {
        LocalDate date = LocalDate.of(2026, 11, 20);
        Instant moonset = app.ironside.sky.NightTimes.of(SITE, date).moonset().get(0);
        PlannedBlock dark =
                plan(date, target(L.withMoon(MoonRule.DARK))).blocks().get(0);
        PlannedBlock any = plan(date, target(L.withMoon(MoonRule.ANY))).blocks().get(0);
        assertThat(any.span().from()).isBefore(moonset);
        assertThat(dark.span().from()).isBetween(moonset.minusSeconds(2400), moonset.plusSeconds(400));
        PlannedBlock both = plan(date, target(L.withMoon(MoonRule.DARK), HA.withMoon(MoonRule.ANY)))
                .blocks()
                .get(0);
        assertThat(both.span().from()).isEqualTo(any.span().from());
        assertThat(both.byFilter().keySet()).as("hydrogen first").first().isEqualTo("Ha");
        Observer observer = Observer.at(SITE);
        TargetPlan target = target(L.withMoon(MoonRule.DARK), HA.withMoon(MoonRule.ANY));
        assertThat(target.next(Map.of(), NightPlanner.allowed(observer, target, WREN, moonset.minusSeconds(7200))))
                .hasValueSatisfying(g -> assertThat(g.filter()).isEqualTo("Ha"));
        assertThat(target.next(Map.of(), NightPlanner.allowed(observer, target, WREN, moonset.plusSeconds(600))))
                .hasValueSatisfying(g -> assertThat(g.filter()).isEqualTo("L"));
    }

    @Test
    void aTargetsOwnAltitudeBounds() {
        LocalDate date = LocalDate.of(2026, 11, 14);
        PlannedBlock all = plan(date, target(L)).blocks().get(0);
        PlannedBlock high = plan(date, target(L).withMinimumAltitude(Optional.of(60.0)))
                .blocks()
                .get(0);
        assertThat(high.span().duration()).isLessThan(all.span().duration());
        Observer observer = Observer.at(SITE);
        assertThat(observer.observed(M33, high.span().from().plusSeconds(1)).altitudeDeg())
                .isGreaterThan(59.9);
        assertThat(observer.observed(M33, high.span().until().minusSeconds(1)).altitudeDeg())
                .isGreaterThan(59.9);
    }

    @Test
    void theFileKeepsWhatIsWanted() {
        TargetPlan wanted = target(
                        L.withSubs(Optional.of(20)).withMoon(MoonRule.DARK),
                        HA.withGathered(Optional.of(new FilterGoal.Gathered(12, 3.25))))
                .withMinimumAltitude(Optional.of(35.0));
        NightFile file = Examples.night(OBJECTS);
        NightFile written = NightFile.of(
                file.site(),
                file.kit(),
                file.program().withTargets(file.program().date(), List.of(wanted)),
                List.of(),
                file.observatory());
        NightFile read = NightFile.parse(written.text(), "night", OBJECTS);
        assertThat(read.program().targets()).containsExactly(wanted);
        assertThat(written.text()).contains("\"moon\" : \"dark\"").doesNotContain("\"subSeconds\" : null");
        assertThatThrownBy(() -> NightFile.parse(written.text().replace("\"dark\"", "\"gibbous\""), "night", OBJECTS))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("gibbous")
                .hasMessageContaining("by-filter, dark, half, any");
    }

    /** The polar axis holds for as long as one target is followed: by its times, by its counts, else for a long night. */
    @Test
    void aTargetIsFollowedForSoLong() {
        Equatorial place = new Equatorial(23.46, 30.66);
        FilterGoal open = new FilterGoal("L", 120);
        TargetPlan whenever = new TargetPlan("M 33", place, List.of(open), 2);
        assertThat(whenever.mostHours()).isEmpty();
        TargetPlan counted = new TargetPlan("M 33", place, List.of(open.withSubs(Optional.of(60))), 2);
        assertThat(counted.mostHours().orElseThrow())
                .as("two hours of light, and a quarter more")
                .isEqualTo(2.5);
        TargetPlan timed = new TargetPlan(
                "M 33",
                place,
                List.of(open),
                2,
                Optional.of(LocalTime.of(22, 30)),
                Optional.of(LocalTime.of(2, 0)),
                Optional.of(300),
                Optional.empty(),
                Optional.empty());
        assertThat(timed.mostHours().orElseThrow()).as("across midnight").isEqualTo(3.5);
    }
}
