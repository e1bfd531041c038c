package app.ironside.desk.night;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.Told;
import app.ironside.journal.Command;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.NightState;
import app.ironside.journal.Stage;
import app.ironside.night.NightControl;
import app.ironside.night.NightControl.GatePolicy;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** What can be asked of a night, at which station, by which key. */
class CommandStateTest {
    private final NightControl control = new NightControl();

    private CommandState at(Stage station, NightState night) {
        return CommandState.of(station, control, night, Told.NINE, GatePolicy.GO_ON, () -> Optional.of("{}"));
    }

    /** Every command there is can be given at some station (a question's answer, going on and marks aside), by a key of its own there. */
    @Test
    void everyCommandIsWithinReach() {
        Set<Class<?>> offered = new HashSet<>();
        for (Stage station : Stage.values()) {
            List<CommandState.Offer> offers = at(station, NightState.EMPTY).offers();
            offers.forEach(o -> offered.add(o.command().getClass()));
            assertThat(offers.stream().map(CommandState.Offer::key)).doesNotHaveDuplicates();
            assertThat(offers.stream().map(CommandState.Offer::id)).doesNotHaveDuplicates();
            // Keys of the desk itself stay what they are.
            assertThat(offers.stream().map(CommandState.Offer::key))
                    .doesNotContain('N', 'P', 'F', 'S', 'O', 'G', 'Z', 'V', 'Y');
        }
        Set<Class<?>> missing = Set.of(Command.class.getPermittedSubclasses()).stream()
                .filter(c -> !offered.contains(c))
                .collect(Collectors.toSet());
        // Verdicts are given beside the sub that is looked at: MarksDeskTest. What has to be told more of is asked for
        // on the bench of
        // Guide: GuideAndFocusTest.
        assertThat(missing)
                .containsExactlyInAnyOrder(
                        Command.GoOn.class,
                        Command.StartGuiding.class,
                        Command.GiveVerdicts.class,
                        Command.Note.class,
                        Command.GuideBy.class,
                        Command.PickGuideStar.class,
                        Command.CompareGuiding.class);
    }

    @Test
    void guidingThatWasStoppedCanBeStarted() {
        CommandTaken stopped =
                new CommandTaken(Told.NINE, "", new Command.StopGuiding(), "Ada", "", Told.NINE, true, Stage.GUIDE);
        assertThat(at(Stage.GUIDE, NightState.of(List.of(stopped))).offers())
                .extracting(CommandState.Offer::command)
                .contains(new Command.StartGuiding())
                .doesNotContain(new Command.StopGuiding());
        CommandTaken calibrated =
                new CommandTaken(Told.NINE, "", new Command.CalibrateGuider(), "Ada", "", Told.NINE, true, Stage.GUIDE);
        assertThat(at(Stage.GUIDE, NightState.of(List.of(stopped, calibrated))).offers())
                .extracting(CommandState.Offer::command)
                .contains(new Command.StopGuiding());
    }

    @Test
    void whatWaitsIsSaid() {
        assertThat(at(Stage.RUN, NightState.EMPTY).sentence())
                .isEqualTo("What you ask is done when the night has begun.");
        control.give(new Command.Refocus(), "Ada", "", Told.NINE);
        assertThat(at(Stage.RUN, NightState.EMPTY).sentence())
                .isEqualTo("\u201cFocus anew\u201d comes when the night has begun.");
    }

    @Test
    void whereNothingRunsOnlyTheRuleOfTheGateIsLeft() {
        CommandState idle = CommandState.idle(Stage.GUIDE, GatePolicy.ASK_THEN_PARK);
        assertThat(idle.offers()).isEmpty();
        assertThat(idle.policy()).contains(GatePolicy.ASK_THEN_PARK);
        assertThat(CommandState.idle(Stage.LOGBOOK, GatePolicy.GO_ON).policy()).isEmpty();
    }
}
