package app.ironside.desk.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import app.ironside.desk.Told;
import app.ironside.desk.night.NightModel;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.night.RibbonState;
import app.ironside.desk.plan.PlanStart;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.journal.Stage;
import app.ironside.journal.StageBegan;
import app.ironside.logbook.NightEntry;
import app.ironside.night.NightControl;
import app.ironside.wiring.NightRun;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What is looked at, without a screen. */
class LookingTest {
    private static final NightEntry TONIGHT = new NightEntry(1, Path.of("tonight"), "tonight", "{}");
    private static final NightEntry OLDER = new NightEntry(2, Path.of("older"), "older", "{}");

    private final Nights nights = mock(Nights.class);
    private final RunningNight run = mock(RunningNight.class);
    private final NightControl control = mock(NightControl.class);
    private final List<Stage> moved = new ArrayList<>();
    private final Looking looking = new Looking(nights, Stage.PLAN, moved::add);
    private final List<NightEvent> events = List.of(
            new StageBegan(Told.NINE, "Run", Stage.RUN), Told.sub(5, true), Told.sub(10, false), Told.sub(15, true));

    @BeforeEach
    void nothingRuns() {
        when(nights.running()).thenReturn(Optional.empty());
        when(nights.underWay()).thenReturn(Optional.empty());
        when(run.control()).thenReturn(control);
        when(control.question()).thenReturn(Optional.empty());
    }

    private ShownNight night(NightEntry entry) {
        NightModel model = new NightModel(() -> {});
        model.load(events, List.of());
        return new ShownNight(
                mock(NightFile.class),
                Optional.of(entry),
                model,
                mock(PlanStart.class),
                mock(RibbonState.class),
                mock(Reckoner.class),
                List.of());
    }

    private void running(NightEntry entry) {
        NightRun of = mock(NightRun.class);
        when(of.entry()).thenReturn(entry);
        when(run.run()).thenReturn(of);
        when(run.now()).thenReturn(Told.NINE.plusSeconds(1200));
        when(nights.running()).thenReturn(Optional.of(run));
        when(nights.underWay()).thenReturn(Optional.of(run));
    }

    @Test
    void aNightThatIsOverIsShownAtItsEndAndARunningOneNow() {
        looking.show(night(OLDER));
        looking.toLatest();
        assertThat(looking.isNow()).isFalse();
        assertThat(looking.at(looking.night().orElseThrow()).time())
                .isEqualTo(events.get(3).time());
        running(TONIGHT);
        assertThat(looking.isElsewhere()).isTrue();
        looking.show(night(TONIGHT));
        looking.toLatest();
        assertThat(looking.isNow()).isTrue();
        assertThat(looking.isElsewhere()).isFalse();
    }

    @Test
    void aTimeThatHasNotComeIsNow() {
        running(TONIGHT);
        looking.show(night(TONIGHT));
        looking.toTime(Told.NINE.plusSeconds(400));
        assertThat(looking.isNow()).isFalse();
        assertThat(looking.at(looking.night().orElseThrow()).night().events()).hasSize(2);
        looking.toTime(Told.NINE.plusSeconds(4000));
        assertThat(looking.isNow()).isTrue();
    }

    @Test
    void stepsStayWithinTheNight() {
        assertThat(looking.neighbour(1)).isEmpty();
        looking.show(night(OLDER));
        assertThat(looking.neighbour(-1)).contains(events.get(3));
        looking.toEvent(events.get(3));
        assertThat(looking.neighbour(1)).contains(events.get(3));
        assertThat(looking.neighbour(-1)).contains(events.get(2));
        assertThat(looking.station()).isEqualTo(Stage.RUN);
    }

    /** Evidence of one station is closed when the person goes to another. */
    @Test
    void anEventStaysOpenAtItsOwnStationOnly() {
        looking.show(night(OLDER));
        looking.toEvent(events.get(1));
        looking.toStation(Stage.RUN);
        assertThat(looking.chosen()).contains(events.get(1));
        looking.toStation(Stage.FOCUS);
        assertThat(looking.chosen()).isEmpty();
        assertThat(moved).containsExactly(Stage.RUN, Stage.RUN, Stage.FOCUS);
    }

    @Test
    void theDeskGoesAlongUntilAStationIsChosen() {
        running(TONIGHT);
        ShownNight night = night(TONIGHT);
        looking.show(night);
        looking.follow(true);
        looking.goAlong(looking.at(night));
        assertThat(looking.station()).isEqualTo(Stage.RUN);
        looking.toStation(Stage.POLAR);
        looking.goAlong(looking.at(night));
        assertThat(looking.station()).isEqualTo(Stage.POLAR);
    }

    /** A question comes before the person once; who walks away from it is not fetched back. */
    @Test
    void aQuestionIsBroughtUpOnce() {
        running(TONIGHT);
        looking.show(night(TONIGHT));
        NightControl.Question asks = mock(NightControl.Question.class);
        when(asks.stage()).thenReturn(Stage.READY);
        when(control.question()).thenReturn(Optional.of(asks));
        looking.attend(run);
        assertThat(looking.station()).isEqualTo(Stage.READY);
        looking.toStation(Stage.PLAN);
        looking.attend(run);
        assertThat(looking.station()).isEqualTo(Stage.PLAN);
    }
}
