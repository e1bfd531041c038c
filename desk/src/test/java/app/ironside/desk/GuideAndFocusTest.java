package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.night.Moment;
import app.ironside.desk.night.Reckoner;
import app.ironside.desk.reckon.Intent;
import app.ironside.desk.reckon.ReckoningState;
import app.ironside.document.NightFile;
import app.ironside.focus.FilterOffsets;
import app.ironside.focus.FocusMethod;
import app.ironside.focus.FocusVerdict;
import app.ironside.guide.GuideComparison;
import app.ironside.guide.GuideLaw;
import app.ironside.guide.GuideRules;
import app.ironside.journal.FocusExpected;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.FocuserMeasured;
import app.ironside.journal.GuideCameraLooked;
import app.ironside.journal.GuidingCompared;
import app.ironside.journal.NightState;
import app.ironside.journal.OffsetsMeasured;
import app.ironside.journal.Stage;
import app.ironside.journal.UnguidedWatched;
import app.ironside.kit.KitFile;
import app.ironside.logbook.Profiles;
import app.ironside.plan.NightPlanner;
import app.ironside.plan.Program;
import app.ironside.sky.Interval;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** The stations Focus and Guide in the window: what is chosen there is in the plan, and what was measured is said and can be taken. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class GuideAndFocusTest extends DeskHarness {
    @TempDir
    static Path folder;

    private NightFile night;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importProfiles(new Profiles(logbook.folder()));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
        night = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(night));
    }

    private Program program() throws Exception {
        settled();
        return on(() -> desk.planDesk().file().program());
    }

    private Node onGuide(String id) {
        return on(() -> desk.lookup("#guide-rules").lookup(id));
    }

    private void openRules() throws Exception {
        onDesk(() -> {
            desk.choose(Stage.GUIDE);
            ((ToggleButton) desk.lookup("#guide-rules-tab")).fire();
        });
    }

    private void type(String id, String text) throws Exception {
        TextField field = (TextField) onGuide(id);
        onDesk(() -> {
            field.setText(text);
            field.fireEvent(new javafx.event.ActionEvent());
        });
    }

    @Test
    void rulesOfGuidingAreChosenAndTakenBack() throws Exception {
        openRules();
        type("#guide-ra-share", "80");
        assertThat(program().guiding().ra().share()).isEqualTo(0.8);
        @SuppressWarnings("unchecked")
        ChoiceBox<GuideLaw> law = (ChoiceBox<GuideLaw>) onGuide("#guide-dec-law");
        onDesk(() -> {
            law.setValue(GuideLaw.LOW_PASS);
            law.fireEvent(new javafx.event.ActionEvent());
        });
        assertThat(program().guiding().dec().law()).isEqualTo(GuideLaw.LOW_PASS);
        type("#guide-settle", "1,5");
        assertThat(program().guiding().settleArcsec()).contains(1.5);
        type("#guide-exposure", "900");
        assertThat(((Label) onGuide("#guide-rules-fault")).getText())
                .contains("exposure, s: exposureSeconds")
                .contains("30");
        assertThat(program().guiding().exposureSeconds()).isEqualTo(2);
        type("#guide-exposure", "long");
        assertThat(((Label) onGuide("#guide-rules-fault")).getText()).contains("is not a number");
        onDesk(() -> desk.choose(Stage.PLAN));
        for (int i = 0; i < 3; i++) {
            robot.press(KeyCode.CONTROL).push(KeyCode.Z).release(KeyCode.CONTROL);
            settled();
        }
        assertThat(program().guiding()).isEqualTo(night.program().guiding());
    }

    /** A tracker has no trace: what its gear and axis allow stands there; with a guider again the trace is back. */
    @Test
    void aKitWithoutAGuiderShowsWhatItsGearAllows() throws Exception {
        NightFile tracker = NightFile.of(
                night.site(),
                KitFile.parse(Files.readString(Path.of("..", "examples", "kits", "lark.json")), "lark.json"),
                night.program()
                        .withTargets(
                                night.program().date(),
                                night.program().targets().stream()
                                        .map(t -> t.withFilters(List.of("none")))
                                        .toList()),
                List.of(),
                night.observatory());
        onDesk(() -> desk.beginnings().plan(tracker));
        onDesk(() -> desk.choose(Stage.GUIDE));
        assertThat(on(() -> desk.lookup("#guide-trace"))).isNull();
        ReckoningState state = reckoned(tracker, Stage.GUIDE, NightState.EMPTY);
        assertThat(state.verdict()).isEqualTo("This kit is not guided.");
        assertThat(state.rows())
                .anyMatch(r -> r.name().equals("round at 60 s") && r.value().endsWith("% expected"));
        onDesk(() -> desk.beginnings().plan(night));
        onDesk(() -> desk.choose(Stage.GUIDE));
        assertThat(on(() -> desk.lookup("#guide-trace"))).isNotNull();
    }

    /** Without a night that runs there is nobody to compare for; minutes that are none are refused. */
    @Test
    void aComparisonWantsANightThatRuns() throws Exception {
        onDesk(() -> {
            desk.choose(Stage.GUIDE);
            ((ToggleButton) desk.lookup("#guide-compare")).fire();
            ((TextField) desk.lookup("#compare-minutes")).setText("1000");
            ((Button) desk.lookup("#compare-begin")).fire();
        });
        assertThat(on(() -> desk.lookup("#guide-comparison").getScene())).isNotNull();
        assertThat(on(() -> desk.lookupAll(".dim").stream()
                        .filter(Label.class::isInstance)
                        .map(l -> ((Label) l).getText())
                        .toList()))
                .contains("Minutes: a whole number from 2 to 60.");
        onDesk(() -> {
            ((TextField) desk.lookup("#compare-minutes")).setText("10");
            ((Button) desk.lookup("#compare-begin")).fire();
        });
        assertThat(text("#status")).contains("No night runs that could do it.");
    }

    private static Interval span() {
        return new Interval(Told.at(1), Told.at(11));
    }

    private static ReckoningState reckoned(NightFile file, Stage stage, NightState state) {
        Reckoner reckoner = new Reckoner(file, NightPlanner.plan(file.site(), file.kit(), file.program()), Map.of());
        return reckoner.of(stage, new Moment(Told.at(60), true, state, List.of()), Optional.empty());
    }

    /** What was measured of filters and focuser goes into the plan's kit by a button, as a step that can be taken back. */
    @Test
    void whatWasMeasuredGoesIntoTheKit() throws Exception {
        NightFile file = night;
        FocusSwept swept = new FocusSwept(
                Told.at(2),
                "",
                "Focus, start",
                List.of(new FocusSwept.Point(2400, 2.0, OptionalDouble.empty())),
                new FocusVerdict(2462, 1.1, 0.99, 2, FocusMethod.HYPERBOLA, true, "believed"),
                new FocusSwept.Hyperbola(1.1, 0.02, 2462),
                "L",
                OptionalInt.of(0),
                4,
                Duration.ofSeconds(90),
                Optional.empty(),
                Optional.empty());
        ReckoningState state = reckoned(
                file,
                Stage.FOCUS,
                NightState.of(List.of(
                        new FocusExpected(
                                Told.at(1), "", 2460, 12, 14, 6, -3.2, 0.4, Optional.empty(), "they span 2.0 °C only"),
                        swept,
                        new OffsetsMeasured(
                                Told.at(4), "", "L", 6.4, 0, List.of(new FilterOffsets.Offset("B", 12.6, 0.8))),
                        new FocuserMeasured(
                                Told.at(5), "", 170, 3.2, 9, 43, OptionalDouble.of(11.2), OptionalDouble.of(0.6)))));
        assertThat(state.rows())
                .anyMatch(r -> r.name().equals("expected") && r.value().equals("2460 ± 12.0, by 14 runs"))
                .anyMatch(r -> r.name().equals("to follow it") && r.value().startsWith("not yet: they span"))
                .anyMatch(r -> r.name().equals("B") && r.value().contains("2.0 critical zones: not parfocal"))
                .anyMatch(r -> r.name().equals("filters in turns, tonight")
                        && r.value().matches("no run with these offsets; without them \\d+ runs, \\d+ min"))
                .anyMatch(r -> r.name().equals("slack") && r.value().equals("11.2 ± 0.6 steps"));
        assertThat(state.schools()).filteredOn(ReckoningState.School::ours).hasSize(1);
        for (ReckoningState.Action action : state.actions()) {
            onDesk(() -> desk.planDesk().obey(action.intent()));
        }
        settled();
        assertThat(on(() -> desk.planDesk().file().kit().filter("B").focusOffsetSteps()))
                .contains(13);
        assertThat(on(() -> desk.planDesk().file().kit().focuser().backlashSteps()))
                .isEqualTo(12);
        onDesk(() -> desk.planDesk().obey(new Intent.FilterSteps("Another", "L", List.of())));
        assertThat(on(() -> desk.planDesk().file().kit().filter("B").focusOffsetSteps()))
                .contains(13);
    }

    @Test
    void whatWasTriedAtTheGuiderIsSaid() {
        ReckoningState state = reckoned(
                night,
                Stage.GUIDE,
                NightState.of(List.of(
                        new GuideCameraLooked(Told.at(1), "", 31, OptionalDouble.of(3.4), 1.6, false),
                        new UnguidedWatched(
                                Told.at(11),
                                "",
                                "M 33",
                                span(),
                                0.62,
                                -2.1,
                                0.4,
                                OptionalDouble.of(480),
                                OptionalDouble.of(8.9)),
                        new GuidingCompared(
                                Told.at(30),
                                "",
                                "exposures of 4 s",
                                List.of(span()),
                                List.of(span()),
                                0.93,
                                0.8,
                                1.07,
                                0.2,
                                GuideComparison.Verdict.OPEN,
                                37.2),
                        Told.sub(40, true))));
        assertThat(state.rows())
                .anyMatch(r -> r.value().equals("out of focus: 3.40 px of at most 1.60, 31 stars"))
                .anyMatch(r -> r.name().equals("without guiding") && r.value().contains("the gear ± 8.9″ every 480 s"))
                .anyMatch(r -> r.name().equals("exposures of 4 s")
                        && r.value().startsWith("open: 0.93 times the RMS (0.80 to 1.07); 38 min a run"));
        assertThat(state.schools())
                .filteredOn(ReckoningState.School::ours)
                .extracting(ReckoningState.School::name)
                .containsExactly("Right ascension: proportional", "Calibrated each night");
        assertThat(state.schools())
                .allMatch(s ->
                        s.choice().filter(Intent.GuideByRules.class::isInstance).isPresent());
        assertThat(((Intent.GuideByRules) state.schools().get(2).choice().orElseThrow()).rules())
                .isEqualTo(GuideRules.USUAL.withRa(GuideRules.USUAL.ra().withLaw(GuideLaw.FORESEEING)));
    }
}
