package app.ironside.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.kit.FilterSpec;
import app.ironside.kit.Kit;
import app.ironside.kit.MeridianRule;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import app.ironside.sky.NightTimes;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.sky.Vectors;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SchedulerTest {
    private static final Kit WREN = Examples.kit("wren");
    private static final Site SITE = Examples.site();
    private static final Observer OBSERVER = Observer.at(SITE);
    private static final Scheduler.Rules RULES = new Scheduler.Rules(25, 2, true, 2);

    private static Project.Goal goal(String filter, int left, double moonLimit) {
        FilterSpec spec = WREN.filters().get(WREN.filterSlot(filter));
        return new Project.Goal(spec, left, 180, moonLimit, NightGrid.Light.VISUAL);
    }

    private static Project project(String name, double ra, double dec, double priority, int left) {
        return new Project(name, new Equatorial(ra, dec), priority, List.of(goal("L", left, 20)));
    }

    private static Interval dark() {
        return NightTimes.of(SITE, LocalDate.of(2026, 11, 14)).dark().get(0);
    }

    // ---- the same question answered by trying everything
    // -----------------------------------------------------------------

    /** All ways to fill a short night with stretches of up to three targets, tried one by one, on the scheduler's own rules. */
    private static double tryEverything(List<Project> projects, Interval span) {
        NightGrid grid = new NightGrid(OBSERVER, span, Duration.ofMinutes(5), CloudForecast.CLEAR);
        return extend(projects, grid, new ArrayList<>(), 0);
    }

    private static double extend(List<Project> projects, NightGrid grid, List<Integer> used, int from) {
        double best = 0;
        for (int p = 0; p < projects.size(); p++) {
            if (used.contains(p)) {
                continue;
            }
            for (int a = from; a < grid.size(); a++) {
                for (int b = a + 5; b <= grid.size(); b++) {
                    double value = value(projects.get(p), grid, a, b);
                    if (value > 0) {
                        List<Integer> next = new ArrayList<>(used);
                        next.add(p);
                        best = Math.max(best, value + extend(projects, grid, next, b));
                    }
                }
            }
        }
        return best;
    }

    private static double value(Project p, NightGrid grid, int a, int b) {
        double[] direction = Vectors.of(p.position().raDeg(), p.position().decDeg());
        double sum = 0;
        for (int i = a; i < b; i++) {
            NightGrid.Seen seen = grid.seen(i, direction);
            if (!seen.up() || seen.altitudeDeg() < 25) {
                return 0;
            }
            sum += grid.weight(i, seen, direction, NightGrid.Light.VISUAL) * grid.stepHours() * p.priority();
        }
        Instant transit = TargetWindow.transit(p.position(), OBSERVER, grid.edge(grid.size() / 2));
        double sub = p.meanSubSeconds() + Overheads.of(WREN).perSub();
        double past = MeridianRule.of(WREN, p.position().decDeg()).expectedFlipDeg(sub) / MeridianRule.DEG_PER_SECOND;
        long flipAt =
                Math.floorDiv(Duration.between(grid.edge(0), transit).toMillis() + Math.round(1000 * past), 300_000L);
        int flips = flipAt > a && flipAt < b ? 1 : 0;
        int subs = Overheads.of(WREN).subsIn((b - a) * 300.0, p.meanSubSeconds(), 2, flips);
        double light = Math.min(subs, p.goals().get(0).subsLeft()) * p.meanSubSeconds();
        return sum * Math.min(1, light / ((b - a) * 300.0));
    }

    /** Law: on small nights the result is worth what the best of all possible nights is worth. Seed 7. */
    @Test
    void asGoodAsTryingEverything() {
        Random random = new Random(7);
        for (int run = 0; run < 6; run++) {
            Instant start = dark().from().plusSeconds(3600L * run);
            Interval span = new Interval(start, start.plusSeconds(110 * 60));
            List<Project> projects = new ArrayList<>();
            for (int i = 0; i < 3; i++) {
                projects.add(project(
                        "T" + i,
                        random.nextDouble() * 360,
                        10 + random.nextDouble() * 60,
                        0.5 + random.nextDouble(),
                        5 + random.nextInt(60)));
            }
            Schedule schedule = new Scheduler(WREN, OBSERVER, RULES).best(projects, span, CloudForecast.CLEAR);
            assertThat(schedule.value()).as("run " + run).isCloseTo(tryEverything(projects, span), within(1e-9));
        }
    }

    /** Laws of any schedule: no overlap, inside the dark, at least as good as the best single target, never above the ideal. */
    @Test
    void tenTargetsOfAWinterNight() {
        Random random = new Random(3);
        List<Project> projects = new ArrayList<>();
        for (int i = 0; i < 10; i++) {
            projects.add(project(
                    "T" + i, random.nextDouble() * 360, -10 + random.nextDouble() * 90, 1, 20 + random.nextInt(100)));
        }
        Scheduler scheduler = new Scheduler(WREN, OBSERVER, RULES);
        Schedule schedule = scheduler.best(projects, dark(), CloudForecast.CLEAR);
        assertThat(schedule.blocks()).hasSizeGreaterThan(2);
        Instant last = dark().from();
        double sum = 0;
        for (Schedule.Block block : schedule.blocks()) {
            assertThat(block.span().from()).isAfterOrEqualTo(last);
            assertThat(block.subs())
                    .isLessThanOrEqualTo(block.project().goals().get(0).subsLeft());
            assertThat(block.alternative().orElseThrow().loss()).isGreaterThanOrEqualTo(-1e-9);
            assertThat(block.why()).contains(block.project().name());
            last = block.span().until();
            sum += block.value();
        }
        assertThat(last).isBeforeOrEqualTo(dark().until().plusSeconds(300));
        assertThat(schedule.value()).isCloseTo(sum, within(1e-9)).isLessThanOrEqualTo(schedule.ideal());
        for (Project alone : projects) {
            assertThat(scheduler
                            .best(List.of(alone), dark(), CloudForecast.CLEAR)
                            .value())
                    .isLessThanOrEqualTo(schedule.value() + 1e-9);
        }
    }

    /** Common practice: broad light only without the Moon, hydrogen while it is up. On 2026-11-20 the Moon is up until after midnight. */
    @Test
    void hydrogenUnderTheMoonBroadLightAfterIt() {
        NightTimes night = NightTimes.of(SITE, LocalDate.of(2026, 11, 20));
        Project nebula = new Project(
                "NGC 281",
                new Equatorial(13.2, 56.6),
                1,
                List.of(goal("L", Project.Goal.ENDLESS, 0.1), goal("Ha", Project.Goal.ENDLESS, 20)));
        Schedule schedule = new Scheduler(WREN, OBSERVER, RULES)
                .best(List.of(nebula), night.dark().get(0), CloudForecast.CLEAR);
        List<Schedule.Run> runs = schedule.blocks().get(0).runs();
        Instant moonset = night.moonset().get(0);
        assertThat(moonset).isAfter(night.dark().get(0).from().plusSeconds(7200));
        assertThat(runs.get(0).filter().name()).isEqualTo("Ha");
        assertThat(runs.get(0).subs() * 180.0).isGreaterThan(3600);
        assertThat(runs.stream().map(r -> r.filter().name())).contains("L");
    }

    /** Common practice: in turns a night cut short is balanced; in blocks the wheel hardly moves. Same light either way. */
    @Test
    void filtersInTurnsOrInBlocks() {
        List<Project.Goal> goals = List.of(goal("L", 60, 20), goal("R", 20, 20), goal("G", 20, 20), goal("B", 20, 20));
        Project galaxy = new Project("NGC 2403", new Equatorial(114.2, 65.6), 1, goals);
        Schedule turns = new Scheduler(WREN, OBSERVER, RULES).best(List.of(galaxy), dark(), CloudForecast.CLEAR);
        Schedule blocks = new Scheduler(WREN, OBSERVER, new Scheduler.Rules(25, 2, false, 2))
                .best(List.of(galaxy), dark(), CloudForecast.CLEAR);
        assertThat(turns.subs()).isEqualTo(blocks.subs());
        assertThat(blocks.blocks().get(0).runs()).hasSize(4);
        assertThat(turns.blocks().get(0).runs()).hasSizeGreaterThan(12);
        for (Schedule s : List.of(turns, blocks)) {
            int luminance = s.blocks().get(0).runs().stream()
                    .filter(r -> r.filter().name().equals("L"))
                    .mapToInt(Schedule.Run::subs)
                    .sum();
            assertThat((double) luminance / s.subs()).isCloseTo(0.5, within(0.05));
        }
    }

    /** Law: cloud takes value away and moves the work to the clear hours. */
    @Test
    void cloudyHoursAreWorthLess() throws Exception {
        Interval dark = dark();
        CloudForecast late = new CloudForecast(Map.of(
                dark.from().plusSeconds(4 * 3600), 0.0,
                dark.from().plusSeconds(4 * 3600 + 1), 1.0));
        Project m33 = project("M 33", 23.46, 30.66, 1, Project.Goal.ENDLESS);
        Scheduler scheduler = new Scheduler(WREN, OBSERVER, RULES);
        Schedule clear = scheduler.best(List.of(m33), dark, CloudForecast.CLEAR);
        Schedule cloudy = scheduler.best(List.of(m33), dark, late);
        assertThat(cloudy.value()).isLessThan(clear.value());
        assertThat(cloudy.blocks().get(0).span().until())
                .isBeforeOrEqualTo(dark.from().plusSeconds(4 * 3600 + 600));
    }

    /** Law: a schedule becomes a program that the planner lays out at the same times with no more subs than wished. */
    @Test
    void aScheduleBecomesAProgram() {
        var file = Examples.night(app.ironside.sky.DeepSkyCatalogue.load());
        List<Project> projects = List.of(
                project("M 33", 23.46, 30.66, 1, 60), project("NGC 2403", 114.2, 65.6, 1, Project.Goal.ENDLESS));
        Schedule schedule = new Scheduler(WREN, OBSERVER, RULES).best(projects, dark(), CloudForecast.CLEAR);
        Program program = Projects.program(schedule, file.program(), LocalDate.of(2026, 11, 14), SITE.zone(), true);
        NightPlan plan = NightPlanner.plan(SITE, WREN, program);
        assertThat(plan.blocks()).hasSameSizeAs(schedule.blocks());
        for (int i = 0; i < plan.blocks().size(); i++) {
            Duration apart = Duration.between(
                            plan.blocks().get(i).span().from(),
                            schedule.blocks().get(i).span().from())
                    .abs();
            assertThat(apart).isLessThan(Duration.ofMinutes(6));
            assertThat(plan.blocks().get(i).subs())
                    .isLessThanOrEqualTo(schedule.blocks().get(i).subs());
        }
    }
}
