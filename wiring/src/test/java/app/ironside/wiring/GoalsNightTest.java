package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.JsonText;
import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Equipment;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.MoonRule;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Whole nights, without pixels, that do what is wanted filter by filter. */
class GoalsNightTest {
    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);

    private static NightFile night(FilterGoal... goals) throws Exception {
        NightFile file = NightFile.parse(
                new ObjectMapper().writeValueAsString(FaultsTest.document("wren")), "wren.json", WIRING.objects());
        TargetPlan target = file.program().targets().get(0);
        return NightFile.of(
                file.site(),
                file.kit(),
                file.program()
                        .withTargets(
                                file.program().date(),
                                List.of(target.withGoals(List.of(goals))
                                        .withTurn(2)
                                        .withMostSubs(Optional.empty()))),
                List.of(),
                file.observatory());
    }

    private static NightState run(NightFile file) throws Exception {
        JournalInMemory journal = new JournalInMemory();
        WIRING.swift(file, journal, SteppedClock::new, NightWatcher.NONE, new NightControl())
                .engine()
                .run();
        return NightState.of(journal.events());
    }

    private static String order(NightState night) {
        return night.subs().stream().map(SubTaken::filter).collect(Collectors.joining(" "));
    }

    /** Lengths and counts are each filter's own, a filled filter is passed over, and the night ends when all is there. */
    @Test
    void eachFilterHasItsOwnLengthAndCount() throws Exception {
        NightState night = run(night(
                new FilterGoal("L", 60).withSubs(Optional.of(5)), new FilterGoal("Ha", 120).withSubs(Optional.of(3))));
        assertThat(order(night)).isEqualTo("L L Ha Ha L L Ha L");
        assertThat(night.subs())
                .allSatisfy(s -> assertThat(s.seconds()).isEqualTo(s.filter().equals("L") ? 60 : 120));
    }

    /** Three minutes a change: four turns are three walks, for the first filter is in; the plan reckons with them as the night does. */
    @Test
    void filtersFromABoxTakeHandsAndTime() throws Exception {
        NightFile wheel = night(
                new FilterGoal("L", 60).withSubs(Optional.of(4)), new FilterGoal("Ha", 120).withSubs(Optional.of(4)));
        NightFile file = NightFile.of(
                wheel.site(),
                wheel.kit()
                        .withEquipment(JsonText.overlay(
                                wheel.kit().equipment(),
                                JsonText.newObject().put("filtersByHand", true),
                                Equipment.class,
                                "equipment")),
                wheel.program(),
                List.of(),
                wheel.observatory());
        NightState night = run(file);
        assertThat(order(night)).isEqualTo("L L Ha Ha L L Ha Ha");
        for (int i = 1; i < 8; i++) {
            SubTaken before = night.subs().get(i - 1);
            SubTaken sub = night.subs().get(i);
            double between = Duration.between(
                            before.exposed().until(), sub.exposed().from())
                    .toSeconds();
            if (!sub.filter().equals(before.filter())) {
                assertThat(between).isGreaterThan(180);
            }
        }
        int planned = NightPlanner.plan(file.site(), file.kit(), file.program()).blocks().stream()
                .mapToInt(PlannedBlock::subs)
                .sum();
        assertThat(night.subsPlanned()).isEqualTo(planned);
    }

    /** What earlier nights kept is not taken again. By hand: 0.1 h wanted, 0.05 h kept: 3 min left are three subs of 60 s. */
    @Test
    void whatIsThereIsNotTakenAgain() throws Exception {
        NightState night = run(night(
                new FilterGoal("L", 60).withGathered(Optional.of(new FilterGoal.Gathered(0.1, 0.05))),
                new FilterGoal("R", 60).withGathered(Optional.of(new FilterGoal.Gathered(1, 1)))));
        assertThat(order(night)).isEqualTo("L L L");
    }

    /** On 2026-11-14 the Moon sets before 20:30 local: a filter for the dark waits for it while another works. */
    @Test
    void theMoonIsObeyedAtNight() throws Exception {
        NightFile file = night(
                new FilterGoal("L", 60).withMoon(MoonRule.DARK),
                new FilterGoal("Ha", 60).withMoon(MoonRule.ANY).withSubs(Optional.of(40)));
        NightState night = run(file);
        assertThat(night.subs()).isNotEmpty();
        Instant firstBroad = night.subs().stream()
                .filter(s -> s.filter().equals("L"))
                .map(s -> s.exposed().from())
                .findFirst()
                .orElseThrow();
        assertThat(app.ironside.plan.NightPlanner.allowed(
                                app.ironside.sky.Observer.at(file.site()),
                                file.program().targets().get(0),
                                file.kit(),
                                firstBroad)
                        .test(file.program().targets().get(0).goals().get(0)))
                .isTrue();
    }
}
