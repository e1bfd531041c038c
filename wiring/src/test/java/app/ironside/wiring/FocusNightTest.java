package app.ironside.wiring;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.document.NightFile;
import app.ironside.journal.FaultTold;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.JournalInMemory;
import app.ironside.journal.NightState;
import app.ironside.journal.SubTaken;
import app.ironside.night.NightControl;
import app.ironside.night.NightWatcher;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.FocusTriggers;
import app.ironside.plan.Program;
import app.ironside.plan.TargetPlan;
import app.ironside.sim.SteppedClock;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Whole nights, without pixels, that focus when they are told to. */
class FocusNightTest {
    private static final Wiring WIRING = new Wiring(Workers.ALL_CORES);

    private static NightFile night(FocusTriggers triggers) throws Exception {
        NightFile file = NightFile.parse(
                new ObjectMapper().writeValueAsString(FaultsTest.document("wren")), "wren.json", WIRING.objects());
        TargetPlan target = file.program().targets().get(0);
        Program program = file.program()
                .withTargets(
                        file.program().date(),
                        List.of(target.withGoals(List.of(
                                        new FilterGoal("L", 60).withSubs(Optional.of(8)),
                                        new FilterGoal("R", 60).withSubs(Optional.of(8))))
                                .withTurn(2)
                                .withMostSubs(Optional.empty())))
                .withRefocusAfter(20)
                .withFocus(triggers);
        return NightFile.of(file.site(), file.kit(), program, List.of(), file.observatory());
    }

    private static NightState run(NightFile file) throws Exception {
        JournalInMemory journal = new JournalInMemory();
        WIRING.swift(file, journal, SteppedClock::new, NightWatcher.NONE, new NightControl())
                .engine()
                .run();
        return NightState.of(journal.events());
    }

    private static Stream<String> runs(NightState night) {
        return night.all(FocusSwept.class).stream().map(FocusSwept::why);
    }

    @Test
    void onlyTheStartWhereNothingAsksForMore() throws Exception {
        NightState night = run(night(FocusTriggers.USUAL));
        assertThat(night.subs()).hasSize(16);
        assertThat(runs(night)).filteredOn(why -> why.startsWith("Focus, ")).hasSize(1);
        assertThat(night.all(FaultTold.class)).noneMatch(f -> f.text().contains("focus"));
    }

    /** By hand: eight turns of two subs are seven changes; sixteen subs hold three whole fives. */
    @Test
    void atEachFilterAndAfterSoManySubs() throws Exception {
        assertThat(runs(run(night(FocusTriggers.USUAL.withOnFilter(true)))).filter(why -> why.contains("filter ")))
                .hasSize(7);
        assertThat(runs(run(night(FocusTriggers.USUAL.withEverySubs(Optional.of(5)))))
                        .filter(why -> why.contains("5 subs since")))
                .hasSize(3);
    }

    /** The night promises as many subs as it takes, with the runs reckoned in. */
    @Test
    void theirTimeIsPlanned() throws Exception {
        NightFile file = night(FocusTriggers.USUAL.withEveryMinutes(Optional.of(10)));
        NightFile open = NightFile.of(
                file.site(),
                file.kit(),
                file.program()
                        .withTargets(
                                file.program().date(),
                                List.of(file.program().targets().get(0).withGoals(List.of(new FilterGoal("L", 60))))),
                List.of(),
                file.observatory());
        int planned = app.ironside.plan.NightPlanner.plan(open.site(), open.kit(), open.program())
                .subs();
        List<SubTaken> taken = run(open).subs();
        assertThat(taken.size()).isBetween((int) (0.88 * planned), (int) Math.ceil(1.12 * planned));
    }

    @Test
    void theNightFileKeepsThem() throws Exception {
        FocusTriggers all =
                new FocusTriggers(Optional.of(0.15), Optional.of(12), Optional.of(45), true, true, false, 9, false);
        NightFile file = night(all);
        assertThat(NightFile.parse(file.text(), "again.json", WIRING.objects())
                        .program()
                        .focus())
                .isEqualTo(all);
        assertThat(night(FocusTriggers.USUAL).text()).doesNotContain("\"focus\"");
    }
}
