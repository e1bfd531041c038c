package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.logbook.Profiles;
import app.ironside.night.NightFile;
import app.ironside.night.Stage;
import app.ironside.plan.Candidate;
import app.ironside.plan.PlannedBlock;
import app.ironside.sky.Interval;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import javafx.geometry.Point2D;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.util.WaitForAsyncUtils;

/** Plans a night with mouse and keys, as a person would: what the plan then holds is read from the plan, not from the screen. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PlanStationTest extends DeskHarness {
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
        on(() -> {
            desk.plan(night);
            desk.planDesk().setTab(PlanDesk.Tab.TONIGHT);
            ((TextField) desk.lookup("#find")).clear();
            return true;
        });
        until(
                "the candidates",
                d -> !d.planDesk().isBusy() && !d.planDesk().candidates().isEmpty());
    }

    private List<PlannedBlock> blocks() {
        return on(() -> desk.planDesk().draft().plan().blocks());
    }

    private Point2D onRibbon(Instant time) {
        Ribbon ribbon = desk.ribbon();
        return on(() -> ribbon.localToScreen(ribbon.xOf(time), ribbon.ticksTop() + 18));
    }

    private void control(KeyCode key) {
        robot.press(KeyCode.CONTROL).push(key).release(KeyCode.CONTROL);
        WaitForAsyncUtils.waitForFxEvents();
    }

    private List<String> listed() {
        return on(() -> ((ListView<?>) desk.lookup("#candidates"))
                .getItems().stream().map(c -> ((Candidate) c).object().id()).toList());
    }

    @Test
    void anEndIsStretchedAndTheNeighbourGivesWay() {
        PlannedBlock before = blocks().get(0);
        Instant end = before.span().until();
        int next = blocks().get(1).subs();
        robot.moveTo(onRibbon(end.minusSeconds(240)));
        robot.press(MouseButton.PRIMARY);
        robot.moveTo(onRibbon(end.minusSeconds(240).plus(Duration.ofMinutes(40))));
        robot.release(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        // Two pixels of the ribbon are under two minutes.
        Interval second = blocks().get(1).span();
        assertThat(Duration.between(end, second.from()).toMinutes()).isBetween(37L, 43L);
        assertThat(blocks().get(1).subs()).isLessThan(next);
        control(KeyCode.Z);
        assertThat(blocks().get(1).subs()).isEqualTo(next);
        control(KeyCode.Y);
        assertThat(blocks().get(1).subs()).isLessThan(next);
    }

    @Test
    void aDoubleClickSplitsAndTheOtherButtonRemoves() {
        Instant middle = blocks().get(0).span().from().plus(Duration.ofHours(3));
        robot.moveTo(onRibbon(middle));
        robot.doubleClickOn(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(blocks()).hasSize(3);
        assertThat(Duration.between(middle, blocks().get(1).span().from()).abs())
                .isLessThan(Duration.ofMinutes(3));
        robot.clickOn(onRibbon(middle.plus(Duration.ofHours(1))), MouseButton.SECONDARY);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(blocks()).hasSize(2);
    }

    @Test
    void anyNameFindsAnObjectAndTwoClicksAddIt() throws Exception {
        robot.clickOn("#find").write("andromeda");
        assertThat(listed()).contains("M 31");
        on(() -> {
            ((TextField) desk.lookup("#find")).setText("ngc0891".substring(0, 3) + " 891");
            return true;
        });
        assertThat(listed()).containsExactly("NGC 891");
        robot.clickOn("#candidates", MouseButton.PRIMARY);
        robot.moveTo(on(() -> {
            ListView<?> list = (ListView<?>) desk.lookup("#candidates");
            return list.localToScreen(60, 18);
        }));
        robot.doubleClickOn(MouseButton.PRIMARY);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(blocks()).anyMatch(b -> b.target().name().equals("NGC 891"));
    }

    @Test
    void whatIsSetAsideIsProposedNoMoreButFoundByName() {
        String first = listed().get(0);
        robot.moveTo(on(() -> ((ListView<?>) desk.lookup("#candidates")).localToScreen(60, 18)));
        robot.clickOn(MouseButton.PRIMARY);
        robot.push(KeyCode.DELETE);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(listed()).doesNotContain(first);
        assertThat(new Profiles(logbook.folder()).setAside()).contains(first);
        robot.clickOn("#find").write(first);
        assertThat(listed()).contains(first);
        on(() -> {
            desk.planDesk().toggleAside(wiring.objects().find(first).orElseThrow());
            return true;
        });
    }

    @Test
    void anotherNightKeepsTheTargets() throws Exception {
        robot.clickOn("#night-after");
        until("the night after", d -> !d.planDesk().isBusy());
        assertThat(on(() -> desk.planDesk().file().program().date())).hasToString("2026-11-15");
        assertThat(blocks()).extracting(b -> b.target().name()).contains("M 33", "NGC 2403");
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().file().program().date())).hasToString("2026-11-14");
    }

    @Test
    void arrangingGivesNoFewerEffectiveHoursThanTheFirstTargetAlone() throws Exception {
        robot.clickOn("#arrange");
        until(
                "the schedule",
                d -> !d.planDesk().isBusy() && d.planDesk().schedule().isPresent());
        assertThat(on(() -> desk.planDesk().schedule().orElseThrow().blocks())).isNotEmpty();
        assertThat(text("#verdict")).matches("\\d+ subs fit\\.");
    }

    @Test
    void theFrameTurnsAndKeepsItsAngle() {
        robot.clickOn("#plan-framing");
        on(() -> {
            ((javafx.scene.control.Slider) desk.lookup("#camera-angle")).setValue(35);
            return true;
        });
        assertThat(on(() -> desk.planDesk()
                        .framing(desk.planDesk().looked().orElseThrow())
                        .angleDeg()))
                .isCloseTo(35, within(0.5));
    }

    @Test
    void theYearIsWeighedAndEveryTabSaysSomething() throws Exception {
        robot.clickOn("#plan-season");
        until("the year", d -> d.planDesk().season().isPresent());
        // M 33 at 44° north: up all night in autumn, below the Sun's glare in spring.
        assertThat(text("#verdict")).matches("M 33 is best from \\d+ (September|October|November)\\.");
        for (PlanDesk.Tab tab : PlanDesk.Tab.values()) {
            robot.clickOn("#plan-" + tab.name().toLowerCase(java.util.Locale.ROOT));
            WaitForAsyncUtils.waitForFxEvents();
            assertThat(text("#verdict")).as(tab.title()).isNotBlank();
        }
    }

    @Test
    void aForecastThatCannotBeReadIsNamedAndNothingChanges() throws Exception {
        Path broken = folder.resolve("clouds.csv");
        Files.writeString(broken, "time,cover\n2026-11-14T20:00Z,lots\n");
        int subs = on(() -> desk.planDesk().draft().plan().subs());
        on(() -> {
            desk.planDesk().readForecast(broken);
            return true;
        });
        String said = on(() -> ((javafx.scene.control.Label) desk.lookup(".sentence")).getText());
        assertThat(said).contains("clouds.csv").contains("lots");
        assertThat(on(() -> desk.planDesk().draft().plan().subs())).isEqualTo(subs);
    }
}
