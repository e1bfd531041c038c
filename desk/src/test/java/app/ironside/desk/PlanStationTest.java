package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.night.Ribbon;
import app.ironside.desk.plan.CostsPane;
import app.ironside.desk.plan.HorizonEditor;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.desk.reckon.Intent;
import app.ironside.document.FaultKind;
import app.ironside.document.NightFile;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.journal.Stage;
import app.ironside.logbook.Profiles;
import app.ironside.plan.Candidate;
import app.ironside.plan.PlannedBlock;
import app.ironside.plan.TargetPlan;
import app.ironside.sky.Equatorial;
import app.ironside.sky.Interval;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import javafx.event.ActionEvent;
import javafx.geometry.Point2D;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
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
        onDesk(() -> desk.beginnings().plan(night));
        on(() -> {
            desk.planDesk().setTab(PlanDesk.Tab.TONIGHT);
            ((TextField) desk.lookup("#find")).clear();
            return true;
        });
        until(
                "the candidates",
                d -> !d.planDesk().isBusy()
                        && !d.planDesk().targets().candidates().isEmpty());
    }

    /** The blocks once everything that was asked for is done. */
    private List<PlannedBlock> blocks() throws Exception {
        settled();
        return on(() -> desk.planDesk().draft().plan().blocks());
    }

    private Point2D onRibbon(Instant time) {
        Ribbon ribbon = desk.ribbon();
        return on(() -> ribbon.localToScreen(ribbon.xOf(time), ribbon.ticksTop() + 18));
    }

    private void control(KeyCode key) throws Exception {
        settled();
        robot.press(KeyCode.CONTROL).push(key).release(KeyCode.CONTROL);
        settled();
    }

    private List<String> listed() {
        return on(() -> ((ListView<?>) desk.lookup("#candidates"))
                .getItems().stream().map(c -> ((Candidate) c).object().id()).toList());
    }

    @Test
    void anEndIsStretchedAndTheNeighbourGivesWay() throws Exception {
        PlannedBlock before = blocks().get(0);
        Instant end = before.span().until();
        int next = blocks().get(1).subs();
        robot.moveTo(onRibbon(end.minusSeconds(240)));
        robot.press(MouseButton.PRIMARY);
        robot.moveTo(onRibbon(end.minusSeconds(240).plus(Duration.ofMinutes(40))));
        robot.release(MouseButton.PRIMARY);
        settled();
        // Two pixels of the ribbon are under two minutes.
        Interval second = blocks().get(1).span();
        assertThat(Duration.between(end, second.from()).toMinutes()).isBetween(37L, 43L);
        assertThat(blocks().get(1).subs()).isLessThan(next);
        control(KeyCode.Z);
        assertThat(blocks().get(1).subs()).isEqualTo(next);
        control(KeyCode.Y);
        assertThat(blocks().get(1).subs()).isLessThan(next);
    }

    /** Another program writes a frame that is smaller than the kit's sensor: it is told, and taken over. */
    @Test
    void aCameraByFolderIsTriedAndItsSizeTakenOver(@TempDir Path card) throws Exception {
        int width = on(() -> desk.planDesk().file().kit().sensor().widthPx());
        int height = on(() -> desk.planDesk().file().kit().sensor().heightPx());
        onDesk(() -> desk.planDesk().setTab(PlanDesk.Tab.PROFILES));
        settled();
        on(() -> {
            ComboBox<String> drivers = choice("driver-camera");
            drivers.setValue("Folder, shutter by hand");
            drivers.fireEvent(new ActionEvent());
            return true;
        });
        settled();
        on(() -> {
            TextField address = (TextField) desk.lookup("#address-camera");
            address.setText(card.toString());
            address.fireEvent(new ActionEvent());
            return true;
        });
        settled();
        onDesk(() -> ((Button) desk.lookup("#try-camera")).fire());
        until("the shutter to be asked for", d -> said(d).startsWith("shutter: a frame of the sky of 1 s"));
        FitsFiles.write(
                card.resolve("IMG 1.fit"),
                new Frame(60, 40, new float[60 * 40], Header.EMPTY.with("EXPTIME", 60.0)),
                FitsFiles.Encoding.UNSIGNED_16);
        until("the frame", d -> said(d).startsWith("The next frame told me: 60 x 40 px, 60 s, "));
        assertThat(on(() -> said(desk)))
                .contains("It does not tell how warm its sensor is.")
                .contains("Frames of 60 s come where 1 s were asked for");
        assertThat(on(() -> ((Button) desk.lookup("#take-sensor-size")).getText()))
                .isEqualTo("The kit says " + width + " x " + height + " px: take 60 x 40 into the kit");
        onDesk(() -> ((Button) desk.lookup("#take-sensor-size")).fire());
        settled();
        assertThat(on(() -> desk.planDesk().file().kit().sensor().widthPx())).isEqualTo(60);
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().file().kit().sensor().widthPx())).isEqualTo(width);

        onDesk(() -> ((Button) desk.lookup("#try-camera")).fire());
        onDesk(() -> ((Button) desk.lookup("#try-camera")).fire());
        until("the end of the wait", d -> said(d).equals("No frame was waited for any longer."));
    }

    @SuppressWarnings("unchecked")
    private ComboBox<String> choice(String id) {
        return (ComboBox<String>) desk.lookup("#" + id);
    }

    private static String said(DeskView desk) {
        return ((Label) desk.lookup("#trial-said")).getText();
    }

    @Test
    void aDoubleClickSplitsAndTheOtherButtonRemoves() throws Exception {
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
        // On a busy machine two clicks can come too far apart to count as a double one.
        for (int attempt = 0; attempt < 3 && !planned("NGC 891"); attempt++) {
            robot.moveTo(on(() -> {
                ListView<?> list = (ListView<?>) desk.lookup("#candidates");
                return list.localToScreen(60, 18);
            }));
            robot.doubleClickOn(MouseButton.PRIMARY);
            WaitForAsyncUtils.waitForFxEvents();
        }
        assertThat(planned("NGC 891")).isTrue();
    }

    private boolean planned(String name) throws Exception {
        return blocks().stream().anyMatch(b -> b.target().name().equals(name));
    }

    @Test
    void whatIsSetAsideIsProposedNoMoreButFoundByName() throws Exception {
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
            desk.planDesk().targets().toggleAside(wiring.objects().find(first).orElseThrow());
            return true;
        });
    }

    @Test
    void anotherNightKeepsTheTargets() throws Exception {
        robot.clickOn("#night-after");
        settled();
        assertThat(on(() -> desk.planDesk().file().program().date())).hasToString("2026-11-15");
        assertThat(blocks()).extracting(b -> b.target().name()).contains("M 33", "NGC 2403");
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().file().program().date())).hasToString("2026-11-14");
    }

    /** Arranging moves blocks in time: what each target is to be stays as the person chose it. */
    @Test
    void arrangingKeepsWhatWasChosen() throws Exception {
        on(() -> {
            desk.planDesk().blocks().choose(0);
            desk.planDesk().setSubSeconds(120);
            return true;
        });
        settled();
        List<TargetPlan> before = wishes();
        robot.clickOn("#arrange");
        until(
                "the schedule",
                d -> !d.planDesk().isBusy()
                        && d.planDesk().arranging().schedule().isPresent());
        assertThat(on(() -> desk.planDesk().arranging().schedule().orElseThrow().blocks()))
                .isNotEmpty();
        assertThat(text("#verdict")).matches("\\d+ subs fit\\.");
        assertThat(wishes()).containsExactlyInAnyOrderElementsOf(before);
        robot.clickOn("#take-arranged");
        control(KeyCode.Z);
        control(KeyCode.Z);
    }

    private List<TargetPlan> wishes() {
        return on(() -> desk.planDesk().file().program().targets().stream()
                .map(t -> t.at(Optional.empty(), Optional.empty()))
                .distinct()
                .toList());
    }

    @Test
    void theFrameTurnsAndKeepsItsAngle() throws Exception {
        robot.clickOn("#plan-framing");
        on(() -> {
            ((javafx.scene.control.Slider) desk.lookup("#camera-angle")).setValue(35);
            return true;
        });
        settled();
        assertThat(angle()).isCloseTo(35, within(0.5));
        // A planned target's frame is a step of the plan: one for all moves of the slider, and it can be taken back.
        on(() -> {
            ((javafx.scene.control.Slider) desk.lookup("#camera-angle")).setValue(60);
            return true;
        });
        settled();
        assertThat(on(() -> desk.planDesk().file().program().targets().stream()
                        .filter(t -> t.name().equals("M 33"))
                        .allMatch(t -> t.angleDeg().orElse(-1.0) == 60.0)))
                .isTrue();
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().file().program().targets().stream()
                        .allMatch(t -> t.angleDeg().isEmpty())))
                .isTrue();
    }

    private double angle() {
        return on(() -> desk.planDesk()
                .framings()
                .of(desk.planDesk().looked().orElseThrow())
                .angleDeg());
    }

    @Test
    void theYearIsWeighedAndEveryTabSaysSomething() throws Exception {
        robot.clickOn("#plan-season");
        until("the year", d -> d.planDesk().targets().season().isPresent());
        // M 33 at 44° north: up all night in autumn, below the Sun's glare in spring.
        assertThat(text("#verdict")).matches("M 33 is in season until \\d+ (Dec|Jan|Feb) 202[67]\\.");
        for (PlanDesk.Tab tab : PlanDesk.Tab.values()) {
            robot.clickOn("#plan-" + tab.name().toLowerCase(java.util.Locale.ROOT));
            WaitForAsyncUtils.waitForFxEvents();
            assertThat(text("#verdict")).as(tab.title()).isNotBlank();
        }
    }

    /** For the time of a block the catalogue is weighed for what could stand in under cloud; what is chosen is kept in the plan. */
    @Test
    void whatStandsInUnderCloudIsChosenForABlock() throws Exception {
        robot.clickOn("#plan-tonight");
        settled();
        on(() -> {
            desk.planDesk().blocks().choose(0);
            return true;
        });
        WaitForAsyncUtils.waitForFxEvents();
        Equatorial covered =
                on(() -> desk.planDesk().draft().plan().blocks().get(0).target().position());
        robot.clickOn("#stand-ins");
        settled();
        until("what could stand in", d -> {
            List<Candidate> found = d.planDesk().targets().candidates();
            return !found.isEmpty()
                    && found.stream().allMatch(c -> c.object().position().separationDeg(covered) >= 25);
        });
        robot.clickOn(on(() -> desk.lookup("#candidates").lookup(".list-cell")));
        WaitForAsyncUtils.waitForFxEvents();
        String name = on(() -> desk.planDesk().looked().orElseThrow().id());
        int blocks = on(() -> desk.planDesk().draft().plan().blocks().size());
        robot.clickOn("#stand-in");
        settled();
        assertThat(on(() -> desk.planDesk().file().program().standIns()))
                .extracting(TargetPlan::name)
                .containsExactly(name);
        assertThat(on(() -> desk.planDesk().draft().plan().blocks().size()))
                .as("it takes no planned time")
                .isEqualTo(blocks);
        // What is wanted of it is said where it is said of planned targets.
        robot.clickOn("#plan-wishes");
        settled();
        assertThat(on(() -> ((Label) desk.lookup("#wishes .bench-title")).getText()))
                .isEqualTo("What is wanted of " + name + ", which stands in under cloud");
        String filter = on(() ->
                desk.planDesk().file().program().standIns().get(0).filters().get(0));
        on(() -> {
            TextField seconds = (TextField) desk.lookup("#wish-seconds-" + filter);
            seconds.setText("75");
            seconds.fireEvent(new ActionEvent());
            return true;
        });
        settled();
        assertThat(on(() -> desk.planDesk()
                        .file()
                        .program()
                        .standIns()
                        .get(0)
                        .goals()
                        .get(0)
                        .subSeconds()))
                .isEqualTo(75);
        control(KeyCode.Z);
        settled();
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().file().program().standIns())).isEmpty();
    }

    /** What is set to go wrong lies on the ribbon, is rehearsed in seconds, and can be taken back. */
    @Test
    void thePlanIsRehearsedWithWhatIsToGoWrong() throws Exception {
        robot.clickOn("#plan-rehearsal");
        settled();
        on(() -> {
            ((TextField) desk.lookup("#fault-at")).setText("half past");
            return true;
        });
        robot.clickOn("#add-fault");
        assertThat(text("#fault-message")).isEqualTo("\"half past\" is no time of the night; write it like 23:40.");
        on(() -> {
            ((TextField) desk.lookup("#fault-at")).setText("22:30");
            ((ComboBox<FaultKind>) desk.lookup("#fault-kind")).setValue(FaultKind.CLOUD);
            return true;
        });
        robot.clickOn("#add-fault");
        settled();
        assertThat(on(() -> desk.planDesk().ribbon().troubles()))
                .singleElement()
                .satisfies(t -> {
                    assertThat(t.words()).isEqualTo(FaultKind.CLOUD.sentence());
                    assertThat(t.span().duration()).isEqualTo(Duration.ofMinutes(FaultKind.CLOUD.usualMinutes()));
                });
        robot.clickOn("#rehearse-seconds");
        until("the rehearsal", d -> !d.planDesk().isRehearsing());
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(text("#verdict")).matches("\\d+ of \\d+ subs kept\\.");
        List<?> told = on(() -> List.copyOf(((ListView<?>) desk.lookup("#rehearsal-lines")).getItems()));
        assertThat(told)
                .as("the cloud was met")
                .anyMatch(l -> l.toString().startsWith("22:") && l.toString().contains(" out: "));
        control(KeyCode.Z);
        assertThat(on(() -> desk.planDesk().ribbon().troubles())).isEmpty();
        assertThat(text("#verdict"))
                .as("the answer was that of another plan")
                .isEqualTo("Rehearse it before you go out.");
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
        settled();
        String said = on(() -> ((javafx.scene.control.Label) desk.lookup(".sentence")).getText());
        assertThat(said).contains("clouds.csv").contains("lots");
        assertThat(on(() -> desk.planDesk().draft().plan().subs())).isEqualTo(subs);
    }

    private void field(String id, String text) throws Exception {
        on(() -> {
            TextField field = (TextField) desk.lookup("#field-" + id);
            field.setText(text);
            field.fireEvent(new javafx.event.ActionEvent());
            return true;
        });
        settled();
    }

    /** A value changed in the editor differs from the saved profile until it is saved; what is no number changes nothing. */
    @Test
    void aChangedKitIsFlaggedUntilItIsSaved() throws Exception {
        robot.clickOn("#plan-profiles").clickOn("#edit-kit");
        assertThat(text("#verdict")).isEqualTo("As saved.");
        field("optics-focalLengthMm", "four hundred");
        assertThat(text("#profile-fault"))
                .isEqualTo("optics, focal length: \"four hundred\" is not a number; expected mm.");
        field("optics-focalLengthMm", "396");
        assertThat(on(() -> desk.planDesk().file().kit().optics().focalLengthMm()))
                .isEqualTo(396);
        assertThat(text("#verdict")).isNotEqualTo("As saved.");
        assertThat(new Profiles(logbook.folder())
                        .kit("Wren")
                        .orElseThrow()
                        .optics()
                        .focalLengthMm())
                .isEqualTo(432);
        robot.clickOn("#save-profile");
        settled();
        assertThat(text("#verdict")).isEqualTo("As saved.");
        assertThat(new Profiles(logbook.folder())
                        .kit("Wren")
                        .orElseThrow()
                        .optics()
                        .focalLengthMm())
                .isEqualTo(396);
        field("optics-focalLengthMm", "432");
        robot.clickOn("#save-profile");
        settled();
        field("optics-focalLengthMm", "-5");
        assertThat(text("#profile-fault")).contains("focalLengthMm").contains("-5");
        assertThat(on(() -> desk.planDesk().file().kit().optics().focalLengthMm()))
                .isEqualTo(432);
    }

    /** A tree drawn into the skyline takes hours from a target behind it, and can be taken back. */
    @Test
    void theSkylineIsDrawnByHand() throws Exception {
        robot.clickOn("#plan-profiles").clickOn("#edit-site");
        int points = on(() -> desk.planDesk().file().site().horizon().points().size());
        HorizonEditor editor = on(() -> (HorizonEditor) desk.lookup("#horizon-editor"));
        robot.moveTo(on(() -> editor.localToScreen(editor.getWidth() * 0.62, editor.getHeight() * 0.3)));
        robot.doubleClickOn(MouseButton.PRIMARY);
        settled();
        assertThat(on(() -> desk.planDesk().file().site().horizon().points().size()))
                .isEqualTo(points + 1);
        robot.clickOn("#undo");
        settled();
        assertThat(on(() -> desk.planDesk().file().site().horizon().points().size()))
                .isEqualTo(points);
    }

    @Test
    void aSchoolOfSubLengthIsChosen() throws Exception {
        robot.clickOn("#plan-exposure");
        double before = on(() -> desk.planDesk().plannedSubSeconds().orElseThrow());
        int subs = on(() -> desk.planDesk().draft().plan().subs());
        on(() -> {
            desk.planDesk().setSubSeconds(before / 3);
            return true;
        });
        settled();
        assertThat(on(() -> desk.planDesk().plannedSubSeconds().orElseThrow())).isCloseTo(before / 3, within(1e-9));
        assertThat(on(() -> desk.planDesk().draft().plan().subs())).isGreaterThan(subs);
        assertThat(text("#verdict")).isEqualTo("180 s in L.");
    }

    /** Every format of the night pack is written whole, and the night file can be rehearsed. */
    @Test
    void theNightPackIsSavedInEveryFormat() throws Exception {
        robot.clickOn("#plan-costs");
        CostsPane costs = on(() -> desk.planBench().costs());
        for (String format : List.of("pdf", "html", "ics", "csv", "json")) {
            Path file = folder.resolve("pack." + format);
            on(() -> {
                costs.save(format, file);
                return true;
            });
            settled();
            assertThat(text("#pack-saved")).isEqualTo("Saved: pack." + format);
            assertThat(Files.size(file)).isGreaterThan(300);
        }
        assertThat(Files.readString(folder.resolve("pack.ics")))
                .startsWith("BEGIN:VCALENDAR")
                .contains("VALARM");
        assertThat(Files.readString(folder.resolve("pack.html")))
                .contains("M 33")
                .contains("NGC 2403");
        NightFile again = NightFile.parse(Files.readString(folder.resolve("pack.json")), "pack.json", wiring.objects());
        assertThat(again.program().targets()).hasSize(2);
        on(() -> {
            costs.save("html", folder.resolve("no such folder").resolve("pack.html"));
            return true;
        });
        settled();
        assertThat(text("#pack-saved")).startsWith("Not saved:").endsWith("make it first.");
    }

    /** A wheel asks nobody; with a box of filters one of them all night is a step that can be taken back. */
    @Test
    void aBoxOfFiltersLeavesTheChoiceOfOneFilterAllNight() throws Exception {
        NightFile before = on(() -> desk.planDesk().file());
        robot.clickOn("#plan-costs");
        settled();
        assertThat(on(() -> desk.lookup("#only-L"))).isNull();
        NightFile boxed = NightFile.parse(
                DemoNights.tonight().replace("\"equipment\": {", "\"equipment\": {\"filtersByHand\": true, "),
                "boxed",
                wiring.objects());
        on(() -> {
            desk.beginnings().plan(boxed);
            return true;
        });
        until(
                "the plan with a box of filters",
                d -> d.planDesk().isOpen()
                        && d.planDesk().file().kit().equipment().filtersByHand()
                        && d.lookup("#only-L") != null);
        on(() -> {
            ((Button) desk.lookup("#only-L")).fire();
            return true;
        });
        settled();
        assertThat(on(() -> desk.planDesk().file().program().targets()))
                .allMatch(t -> t.filters().equals(List.of("L")));
        until(
                "no choice that is left",
                d -> d.lookup("#only-L") == null
                        || !d.lookup("#only-L").getParent().isVisible());
        control(KeyCode.Z);
        settled();
        assertThat(on(() -> desk.planDesk().file().program().targets().get(0).filters()))
                .hasSizeGreaterThan(1);
        on(() -> {
            desk.beginnings().plan(before);
            return true;
        });
        until("the plan of before", d -> !d.planDesk().file().kit().equipment().filtersByHand());
    }

    @Test
    void aLessonBecomesAStepOfTheNextNight() throws Exception {
        on(() -> {
            desk.choose(Stage.READY);
            return true;
        });
        robot.clickOn("#lesson").write("heater lead on the second plug");
        robot.clickOn("#add-lesson");
        assertThat(new Profiles(logbook.folder()).lessons()).contains("heater lead on the second plug");
        assertThat(on(() -> desk.planDesk().readyList().steps()))
                .anyMatch(s -> s.subject().equals("lesson") && s.what().equals("heater lead on the second plug"));
        // Taken off again, it is no step of the night after.
        until(
                "the lesson",
                d -> !((Parent) d.lookup("#lessons")).getChildrenUnmodifiable().isEmpty());
        robot.clickOn("Take off \u201cheater lead on the second plug\u201d");
        until("its end", d -> new Profiles(logbook.folder()).lessons().isEmpty());
        on(() -> {
            desk.choose(Stage.PLAN);
            return true;
        });
    }

    /** What the stars showed goes into the kit that it was seen with, as a step that can be taken back, and no other. */
    @Test
    void aFocalLengthIsTakenOver() throws Exception {
        double before = on(() -> desk.planDesk().file().kit().optics().focalLengthMm());
        onDesk(() -> desk.planDesk().obey(new Intent.FocalLength("Another", 458)));
        assertThat(on(() -> desk.planDesk().file().kit().optics().focalLengthMm()))
                .isEqualTo(before);
        onDesk(() -> desk.planDesk().obey(new Intent.FocalLength("Wren", 458)));
        assertThat(on(() -> desk.planDesk().file().kit().optics().focalLengthMm()))
                .isEqualTo(458);
        onDesk(() -> desk.planDesk().undo());
        assertThat(on(() -> desk.planDesk().file().kit().optics().focalLengthMm()))
                .isEqualTo(before);
    }
}
