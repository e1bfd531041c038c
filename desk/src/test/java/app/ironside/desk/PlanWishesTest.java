package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.parts.NameField;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.reckon.Intent;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.kit.Equipment;
import app.ironside.kit.Kit;
import app.ironside.logbook.Profiles;
import app.ironside.plan.BalanceBy;
import app.ironside.plan.Ending;
import app.ironside.plan.FilterGoal;
import app.ironside.plan.MoonRule;
import app.ironside.plan.Patience;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.PolarBy;
import app.ironside.plan.Reactions;
import app.ironside.plan.SetUp;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.DeepSkyCatalogue;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.event.ActionEvent;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** Says what is wanted, filter by filter, by which rules and under which weather; what the plan then holds is read from the plan. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PlanWishesTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importProfiles(new Profiles(logbook.folder()));
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    @BeforeEach
    void planTheDemoNight() throws Exception {
        NightFile night = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(night));
        until(
                "the candidates",
                d -> !d.planDesk().isBusy()
                        && !d.planDesk().targets().candidates().isEmpty());
        show(PlanDesk.Tab.WISHES);
    }

    private void show(PlanDesk.Tab tab) throws Exception {
        onDesk(() -> desk.planDesk().setTab(tab));
        settled();
    }

    private TargetPlan first() throws Exception {
        settled();
        return on(() -> desk.planDesk().draft().plan().blocks().get(0)).target();
    }

    private PlannedBlock block() throws Exception {
        settled();
        return on(() -> desk.planDesk().draft().plan().blocks().get(0));
    }

    private void type(String id, String text) throws Exception {
        settled();
        on(() -> {
            TextField field = (TextField) desk.lookup("#" + id);
            field.setText(text);
            field.fireEvent(new ActionEvent());
            return true;
        });
        settled();
    }

    private void press(String id) throws Exception {
        settled();
        on(() -> {
            ((Button) desk.lookup("#" + id)).fire();
            return true;
        });
        settled();
    }

    private String label(String id) {
        return on(() -> ((Label) desk.lookup("#" + id)).getText());
    }

    private static FilterGoal goal(TargetPlan target, String filter) {
        return target.goals().stream()
                .filter(g -> g.filter().equals(filter))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void eachFilterHasItsOwnLengthCountAndMoon() throws Exception {
        type("wish-seconds-L", "60");
        press("split-half-luminance");
        double colour = first().goals().stream()
                .skip(1)
                .mapToDouble(g -> g.subs().orElseThrow() * g.subSeconds())
                .sum();
        assertThat(goal(first(), "L").subs().orElseThrow() * goal(first(), "L").subSeconds())
                .isBetween(colour, colour + 4 * first().longestSubSeconds());
        press("split-none");
        assertThat(first().goals()).allMatch(g -> g.subs().isEmpty());
        type("wish-subs-L", "12");
        on(() -> {
            ((CheckBox) desk.lookup("#wish-Ha")).fire();
            return true;
        });
        settled();
        on(() -> {
            @SuppressWarnings("unchecked")
            ComboBox<MoonRule> moon = (ComboBox<MoonRule>) desk.lookup("#wish-moon-Ha");
            moon.setValue(MoonRule.ANY);
            return true;
        });
        assertThat(first().filters()).containsExactly("L", "R", "G", "B", "Ha");
        assertThat(goal(first(), "L")).isEqualTo(new FilterGoal("L", 60).withSubs(Optional.of(12)));
        assertThat(goal(first(), "Ha").moon()).isEqualTo(MoonRule.ANY);
        assertThat(goal(first(), "Ha").subSeconds())
                .as("as long as the sky behind it allows")
                .isGreaterThan(180);
        assertThat(block().byFilter()).containsEntry("L", 12);
        press("wish-earlier-Ha");
        assertThat(first().filters()).containsExactly("L", "R", "G", "Ha", "B");
        onDesk(() -> desk.planDesk().undo());
        assertThat(first().filters()).containsExactly("L", "R", "G", "B", "Ha");
        type("wish-seconds-L", "often");
        assertThat(said()).isEqualTo("\"often\" is not a number.");
        assertThat(goal(first(), "L").subSeconds()).isEqualTo(60);
    }

    private String said() {
        return on(() -> ((Label) desk.lookup(".sentence")).getText());
    }

    /** Arranging keeps them; they are used again on another target, and after the desk was closed. */
    @Test
    void whatIsWantedIsKeptToBeUsedAgain() throws Exception {
        type("wish-seconds-L", "45");
        type("wish-turn", "5");
        type("wish-altitude", "33");
        on(() -> {
            ((TextField) desk.lookup("#wish-name")).setText("Bright galaxy");
            return true;
        });
        press("keep-wish");
        until("the wish is kept", d -> d.lookup("#use-wish-Bright-galaxy") != null);
        assertThat(new Profiles(logbook.folder()).wishes()).singleElement().satisfies(w -> assertThat(w.subsPerFilter())
                .isEqualTo(5));
        List<PlannedBlock> before = on(() -> desk.planDesk().draft().plan().blocks());
        show(PlanDesk.Tab.TONIGHT);
        press("arrange");
        until("an arranged night is shown", d -> d.lookup("#leave-arranged") != null);
        assertThat(rowNames()).contains("before arranging", "arranged, as shown");
        press("leave-arranged");
        assertThat(on(() -> desk.planDesk().draft().plan().blocks())).isEqualTo(before);
        press("arrange");
        until("it is shown again", d -> d.lookup("#take-arranged") != null);
        press("take-arranged");
        assertThat(goal(first(), "L").subSeconds()).isEqualTo(45);
        assertThat(first().minimumAltitudeDeg()).contains(33.0);
        assertThat(on(() -> desk.planDesk().arranging().schedule())).isPresent();
        assertThat(rowNames()).contains("before arranging", "now");
        show(PlanDesk.Tab.WISHES);
        onDesk(() -> desk.planDesk().blocks().choose(1));
        settled();
        press("use-wish-Bright-galaxy");
        List<PlannedBlock> blocks = on(() -> desk.planDesk().draft().plan().blocks());
        assertThat(goal(blocks.get(1).target(), "L").subSeconds()).isEqualTo(45);
        assertThat(blocks.get(1).target().minimumAltitudeDeg()).contains(33.0);
    }

    private List<String> rowNames() throws Exception {
        return on(() -> desk.lookupAll(".row-name").stream()
                .map(n -> ((Label) n).getText())
                .toList());
    }

    /** By hand: 0.5 h wanted are ten subs of 180 s. */
    @Test
    void hoursWantedInAllEndWhatIsTaken() throws Exception {
        type("wish-hours-R", "0.5");
        assertThat(goal(first(), "R").gathered()).contains(new FilterGoal.Gathered(0.5, 0));
        assertThat(block().byFilter()).containsEntry("R", 10);
    }

    @Test
    void rulesAreChangedWithTheirPriceAndRefusedInWords() throws Exception {
        show(PlanDesk.Tab.RULES);
        String before = label("price-darks");
        type("rule-darks", "30");
        assertThat(on(() -> desk.planDesk().file().program().calibrations().darks()))
                .isEqualTo(30);
        assertThat(label("price-darks")).isNotEqualTo(before).matches("60 frames, \\d+ minutes");
        type("rule-cool", "-15");
        assertThat(on(() -> desk.planDesk().file().program().coolToC())).isEqualTo(-15);
        type("rule-dither", "0");
        assertThat(label("rules-fault")).contains("dither after each").contains("expected");
        assertThat(on(() -> desk.planDesk().file().program().ditherEvery())).isPositive();
        type("rule-dither", "1.5");
        assertThat(label("rules-fault")).contains("expected a whole number");
        onDesk(() -> desk.planDesk().undo());
        settled();
        assertThat(on(() -> desk.planDesk().file().program().coolToC())).isNotEqualTo(-15.0);
    }

    /** How the axis is set and the kit brought up is chosen here, and kept with the night; the gain where its cost stands. */
    /** What the night may do by itself, how long its patience is, how it ends and where a second copy goes. */
    @Test
    void whatIsDoneAboutTroubleAndAtTheEndIsChosen() throws Exception {
        show(PlanDesk.Tab.RULES);
        onDesk(() -> ((CheckBox) desk.lookup("#rule-react-focus")).fire());
        settled();
        type("rule-react-giveup", "45");
        type("rule-react-sky", "2.5");
        type("rule-end-copy", folder.resolve("second").toString());
        onDesk(() -> ((ChoiceBox<Ending.Order>) desk.lookup("#rule-end-order")).setValue(Ending.Order.WARM_FIRST));
        settled();
        NightFile file = on(() -> desk.planDesk().file());
        assertThat(file.program().reactions())
                .isEqualTo(Reactions.USUAL
                        .withRefocus(false)
                        .withGiveUp(Patience.ofMinutes(45))
                        .withLeaveAboveSky(Optional.of(2.5)));
        assertThat(file.program().ending())
                .isEqualTo(Ending.USUAL
                        .withOrder(Ending.Order.WARM_FIRST)
                        .withCopyTo(Optional.of(folder.resolve("second").toString())));
        // It is in the night file, and comes back from it.
        NightFile again = NightFile.parse(file.text(), "again", DeepSkyCatalogue.load());
        assertThat(again.program().reactions()).isEqualTo(file.program().reactions());
        assertThat(again.program().ending()).isEqualTo(file.program().ending());
        type("rule-react-giveup", "3");
        assertThat(on(() -> desk.planDesk().file().program().reactions().giveUp()))
                .isEqualTo(Patience.ofMinutes(45));
        type("rule-react-giveup", "never");
        assertThat(on(() -> desk.planDesk().file().program().reactions().giveUp()))
                .isEqualTo(Patience.ENDLESS);
        onDesk(() -> ((CheckBox) desk.lookup("#rule-react-giveup-window")).fire());
        settled();
        NightFile byWindow = on(() -> desk.planDesk().file());
        assertThat(NightFile.parse(byWindow.text(), "again", DeepSkyCatalogue.load())
                        .program()
                        .reactions()
                        .giveUp())
                .isEqualTo(Patience.OF_THE_WINDOW);
        for (int i = 0; i < 7; i++) {
            onDesk(() -> desk.planDesk().undo());
            settled();
        }
        assertThat(on(() -> desk.planDesk().file().program().reactions())).isEqualTo(Reactions.USUAL);
    }

    @Test
    void schoolsOfSettingUpAreChosen() throws Exception {
        show(PlanDesk.Tab.RULES);
        onDesk(() -> ((ChoiceBox<PolarBy>) desk.lookup("#rule-polar")).setValue(PolarBy.DRIFT));
        settled();
        onDesk(() -> ((ChoiceBox<BalanceBy>) desk.lookup("#rule-balance")).setValue(BalanceBy.ANYWHERE));
        settled();
        for (String rule : List.of("#rule-at-once", "#rule-sweep")) {
            onDesk(() -> ((CheckBox) desk.lookup(rule)).fire());
            settled();
        }
        assertThat(on(() -> desk.planDesk().file().program().setUp()))
                .isEqualTo(new SetUp(false, PolarBy.DRIFT, true, BalanceBy.ANYWHERE));
        onDesk(() -> desk.planDesk().undo());
        settled();
        assertThat(on(() -> desk.planDesk().file().program().setUp().sweepAxes()))
                .isTrue();
        Kit before = on(() -> desk.planDesk().file().kit());
        Equipment.GainPoint high = before.equipment().gainCurve().get(2);
        assertThat(before.isAtGain(high)).isFalse();
        onDesk(() -> desk.planDesk().obey(new Intent.Gain(high)));
        settled();
        Kit after = on(() -> desk.planDesk().file().kit());
        assertThat(after.isAtGain(high)).isTrue();
        assertThat(after.sensor().readNoiseElectrons()).isEqualTo(high.readNoiseElectrons());
        assertThat(after.equipment().camera().gain()).contains((int) high.setting());
    }

    /** Natural colour or lines, and what guides, are taken from the cards that tell what each costs. */
    @Test
    void schoolsOfLightAndGuidingAreChosen() throws Exception {
        show(PlanDesk.Tab.EXPOSURE);
        choose("In the light of lines");
        assertThat(first().filters()).containsExactly("Ha");
        choose("In natural colour");
        assertThat(first().filters()).contains("L").doesNotContain("Ha");
        show(PlanDesk.Tab.FRAMING);
        choose("Guide off-axis");
        Kit prism = on(() -> desk.planDesk().file().kit());
        assertThat(prism.equipment().offAxis()).isPresent();
        assertThat(prism.guider().focalLengthMm()).isEqualTo(prism.optics().focalLengthMm());
        choose("Guide by a telescope beside");
        assertThat(on(() -> desk.planDesk().file().kit().equipment().offAxis())).isEmpty();
    }

    /** Takes a card of the right column by its name. */
    private void choose(String school) throws Exception {
        settled();
        onDesk(() -> {
            Node card = desk.lookupAll(".school").stream()
                    .filter(box -> box.lookup(".row-value") instanceof Label name
                            && name.getText().startsWith(school))
                    .findFirst()
                    .orElseThrow();
            card.fireEvent(new KeyEvent(KeyEvent.KEY_PRESSED, "", "", KeyCode.ENTER, false, false, false, false));
        });
        settled();
    }

    /** A table of a front at midnight: hours of it are told; without it nothing is. */
    @Test
    void theWeatherIsToldInHours() throws Exception {
        show(PlanDesk.Tab.TONIGHT);
        assertThat(said()).doesNotContain("up and dark");
        onDesk(() -> ((ToggleButton) desk.lookup("#weather")).fire());
        assertThat(label("forecast-source")).isEqualTo("No forecast of this night and place: nothing is claimed.");
        Path table = folder.resolve("front.csv");
        Files.writeString(
                table,
                """
                time,cloud %,temperature,humidity,wind
                17:00,0,9,50,3
                23:50,0,4,60,3
                0:10,100,3,99,9
                7:00,100,1,99,9
                """);
        onDesk(() -> desk.planDesk().readForecast(table));
        until("the forecast", d -> ((Label) d.lookup(".sentence")).getText().contains("up and dark"));
        settled();
        assertThat(said())
                .matches(
                        "5\\.\\d of the 9\\.3 hours that M 33 is up and dark are clear: worth starting at 18:\\d\\d,"
                                + " until (23|00):\\d\\d\\. The block of NGC 2403 at 04:\\d\\d is clear for 0\\.0 of its 1\\.\\d h: .*");
        assertThat(label("forecast-source")).startsWith("front.csv, less than an hour old, for Colle Sorbo from 17:00");
        assertThat(on(() -> desk.planDesk().budget().weatherInvented())).isFalse();
        assertThat(on(() -> desk.planDesk().budget().reminders()))
                .anyMatch(r -> r.startsWith("Wind of 9 m/s from 01:00"));
        onDesk(() -> desk.planDesk().forgetForecast());
        settled();
        assertThat(on(() -> desk.planDesk().budget().weatherInvented())).isTrue();
        for (String[] number :
                new String[][] {{"cloud", "10"}, {"dusk", "9"}, {"dawn", "-1"}, {"humidity", "70"}, {"wind", "2"}}) {
            on(() -> {
                ((TextField) desk.lookup("#forecast-" + number[0])).setText(number[1]);
                return true;
            });
        }
        press("use-forecast");
        assertThat(on(() -> desk.planDesk().budget().dew().stream()
                        .mapToDouble(h -> h.temperatureC())
                        .max()
                        .orElseThrow()))
                .isCloseTo(9, within(1.0));
        assertThat(said()).contains("M 33 is up and dark are clear: worth starting");
    }

    /** Anything in the catalogue can be looked at, whether it is up or not. */
    @Test
    void anObjectOutOfSeasonIsLookedUp() throws Exception {
        show(PlanDesk.Tab.SEASON);
        until("the year", d -> d.planDesk().targets().season().isPresent());
        type("season-find", "NGC 6503");
        until("its row", d -> d.planDesk()
                .targets()
                .season()
                .filter(b -> b.rows().stream().anyMatch(r -> r.object().id().equals("NGC 6503")))
                .isPresent());
        settled();
        assertThat(on(() -> ((Label) desk.lookup("#verdict")).getText())).startsWith("NGC 6503 is ");
        type("season-find", "Nowhere 7");
        assertThat(said()).isEqualTo("The catalogue has no \"Nowhere 7\".");
        type("season-find", "vega");
        assertThat(said()).startsWith("\"vega\" is a place, but no object");
        type("season-find", "fireworks");
        settled();
        assertThat(on(() -> desk.planDesk().looked().orElseThrow().id())).isEqualTo("NGC 6946");
    }

    /** What is typed is offered in full; the arrow and Enter take it. */
    @Test
    void aPartOfANameIsOffered() throws Exception {
        show(PlanDesk.Tab.SEASON);
        until("the year", d -> d.planDesk().targets().season().isPresent());
        type("season-find", "");
        robot.clickOn("#season-find").write("pacm");
        NameField field = (NameField) on(() -> desk.lookup("#season-find"));
        until("the offers", d -> field.isOffering());
        press(KeyCode.DOWN);
        press(KeyCode.ENTER);
        until(
                "NGC 281",
                d -> d.planDesk().looked().filter(o -> o.id().equals("NGC 281")).isPresent());
        assertThat(on(() -> field.getText())).isEqualTo("NGC 281");
    }
}
