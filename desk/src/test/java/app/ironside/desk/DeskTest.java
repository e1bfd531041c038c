package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.picture.FrameView;
import app.ironside.document.NightFile;
import app.ironside.journal.CommandTaken;
import app.ironside.journal.FocusSwept;
import app.ironside.journal.NightEnded;
import app.ironside.journal.NightEvent;
import app.ironside.journal.StackMade;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.logbook.Profiles;
import app.ironside.night.NightControl;
import java.awt.image.BufferedImage;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.util.WaitForAsyncUtils;

/** Drives the real desk in a window of the toolkit's offscreen mode, through a short night at full speed. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class DeskTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    private int count(Class<? extends NightEvent> kind) {
        return on(() -> desk.model().night().all(kind).size());
    }

    /** A night of a few short subs from dusk to the stack, with pixels twice as large. */
    static String shortNight() {
        return DemoNights.tonight()
                .replace(
                        "\"widthPx\": 2800, \"heightPx\": 2100, \"pixelUm\": 6.3",
                        "\"widthPx\": 1400, \"heightPx\": 1050, \"pixelUm\": 12.6")
                .replace(
                        "\"widthPx\": 1280, \"heightPx\": 960, \"pixelUm\": 3.75",
                        "\"widthPx\": 640, \"heightPx\": 480, \"pixelUm\": 7.5")
                .replace(
                        "{\"name\": \"M 33\", \"filters\": [\"L\", \"R\", \"G\", \"B\"], \"subsPerFilter\": 2, \"subSeconds\": 180},",
                        "{\"name\": \"M 33\", \"filters\": [\"L\"], \"subSeconds\": 60, \"until\": \"22:00:00\", \"mostSubs\": 5}")
                .replace(
                        "{\"name\": \"NGC 2403\", \"filters\": [\"L\", \"Ha\"], \"subsPerFilter\": 4, \"subSeconds\": 300}",
                        "")
                .replace(
                        "{\"darks\": 12, \"bias\": 16, \"flatsPerFilter\": 9, \"flatLevel\": 0.42}",
                        "{\"darks\": 2, \"bias\": 2, \"flatsPerFilter\": 2, \"flatLevel\": 0.42}");
    }

    @Test
    @Order(1)
    void aNightRunsWhileOneWatches() throws Exception {
        NightFile night = NightFile.parse(shortNight(), "short", wiring.objects());
        NightEntry entry = logbook.begin("short night", "night", night.text());
        onDesk(() -> desk.beginnings().rehearse(night, Optional.of(entry)));
        until("the first sub", d -> !d.model().night().subs().isEmpty());
        robot.clickOn("#freeze");
        until("the hold", d -> night().isFrozen());
        assertThat(on(() -> ((Button) desk.lookup("#freeze")).getText())).isEqualTo("Run");
        // Space means the same wherever the focus is: on the button just clicked, on a station, in the right column.
        press(KeyCode.SPACE);
        until("time to run", d -> !night().isFrozen());
        robot.clickOn("#station-focus");
        press(KeyCode.SPACE);
        until("the hold from a station", d -> night().isFrozen());
        robot.clickOn("#rate-0");
        press(KeyCode.SPACE);
        until("time to run again", d -> !night().isFrozen());
        robot.clickOn("#freeze");
        aNightIsCommanded();
        anotherNightIsLookedAtMeanwhile();
        aRunningNightIsNotEndedUnasked();
        press(KeyCode.SPACE);
        until("the end of the night", d -> night().isDone());
        assertThat(count(NightEnded.class)).isEqualTo(1);
        assertThat(count(SubTaken.class)).isEqualTo(6);
        assertThat(count(StackMade.class)).isEqualTo(1);
    }

    /** Buttons and keys of the stations reach the night; when it will obey is said beforehand, and what it did is in the journal. */
    private void aNightIsCommanded() throws Exception {
        NightControl control = night().control();
        robot.clickOn("#station-run");
        until("the safe point", d -> text("#safe-point").matches("What you ask is done after this sub(, in .*)?\\."));
        robot.clickOn("#command-one-more");
        press(KeyCode.DIGIT6);
        press(KeyCode.D);
        press(KeyCode.H);
        press(KeyCode.SPACE);
        until("the rest", d -> control.isHeld());
        until("the rest on the desk", d -> text("#safe-point").equals("The night rests."));
        List<CommandTaken> taken = on(() -> List.copyOf(desk.model().night().all(CommandTaken.class)));
        assertThat(taken).extracting(c -> c.command().words()).containsExactly("one more sub", "dither now", "hold");
        assertThat(taken).allMatch(c -> c.by().equals(System.getProperty("user.name") + ", at the desk"));
        robot.clickOn("#command-go-on-night");
        until("the night to go on", d -> !control.isHeld());
        press(KeyCode.SPACE);
        // The end of a night is asked for twice.
        press(KeyCode.W);
        until("the question", d -> d.lookup("#start") != null);
        robot.clickOn("#no-command");
        assertThat(control.waitingCount()).isZero();
        // What a gate that is not passed leads to is chosen at its station, once.
        String rule = rule();
        robot.clickOn("#gate-policy");
        assertThat(rule()).isNotEqualTo(rule).startsWith("If not passed: ");
        robot.clickOn("#gate-policy");
        robot.clickOn("#gate-policy");
        assertThat(rule()).isEqualTo(rule);
    }

    private String rule() {
        return on(() -> ((Button) desk.lookup("#gate-policy")).getText());
    }

    /** An older night is opened: it shows its own events only, and one key leads back to the night that runs. */
    private void anotherNightIsLookedAtMeanwhile() throws Exception {
        NightEntry older = logbook.begin("2026-10-01  another night", "another", DemoNights.tonight());
        logbook.journal(older).append(Told.started(Instant.parse("2026-10-01T18:00:00Z"), "Another night."));
        int running = on(() -> desk.model().night().events().size());
        onDesk(() -> desk.beginnings().open(older));
        assertThat(on(() -> desk.model().night().events())).hasSize(1);
        assertThat(text("#status")).isEqualTo("Another night is running. N goes to it.");
        assertThat(on(() -> ((Button) desk.lookup("#now")).isVisible())).isTrue();
        assertThat(on(() -> ((Button) desk.lookup("#now")).getText())).isEqualTo("To the running night");
        press(KeyCode.N);
        until("the running night", d -> d.model().night().events().size() >= running);
        assertThat(text("#status")).doesNotContain("Another night");
    }

    /** The plan's Rehearse asks first, and the usual answer leaves the night alone. */
    private void aRunningNightIsNotEndedUnasked() throws Exception {
        long nights = logbook.nights().size();
        press(KeyCode.DIGIT1);
        settled();
        until("the candidates", d -> !d.planDesk().isBusy());
        robot.clickOn("#rehearse-plan");
        until("the ways to rehearse", d -> d.lookup("#rehearse-pixels") != null);
        robot.clickOn("#rehearse-pixels");
        until("the question", d -> d.lookup("#start") != null);
        // Letters and Space do nothing behind a question.
        press(KeyCode.P);
        press(KeyCode.SPACE);
        assertThat(night().isFrozen()).isTrue();
        robot.clickOn("#keep-running");
        assertThat(on(() -> desk.lookup("#start") == null)).isTrue();
        assertThat(logbook.nights()).hasSize((int) nights);
        assertThat(night().isDone()).isFalse();
    }

    @Test
    @Order(2)
    void everyStationShowsItsVerdictAndEvidence() throws Exception {
        String[] keys = {"1", "2", "3", "4", "5", "6", "7", "8", "9", "0"};
        for (Stage stage : Stage.values()) {
            robot.clickOn("#station-" + stage.name().toLowerCase(Locale.ROOT));
            WaitForAsyncUtils.waitForFxEvents();
            until("the picture of " + stage, DeskView::isPictureReady);
            String clicked = text("#verdict");
            assertThat(clicked).isNotBlank();
            press(KeyCode.DIGIT1);
            press(KeyCode.getKeyCode(keys[stage.ordinal()]));
            assertThat(text("#verdict")).isEqualTo(clicked);
            assertThat(shades(picture())).as("something is drawn at " + stage).isGreaterThan(40);
        }
    }

    private static long shades(BufferedImage image) {
        return java.util.stream.IntStream.range(0, image.getWidth() * image.getHeight())
                .map(i -> image.getRGB(i % image.getWidth(), i / image.getWidth()))
                .distinct()
                .count();
    }

    @Test
    @Order(3)
    void clickingAnEventOnTheRibbonOpensItsEvidence() throws Exception {
        NightEvent second = on(() -> desk.model().night().subs().get(1));
        robot.clickOn("#station-run");
        javafx.geometry.Point2D place = on(() -> desk.ribbon()
                .localToScreen(
                        desk.ribbon().xOf(second.time().minusSeconds(1)),
                        desk.ribbon().getHeight() - 48));
        robot.clickOn(place);
        until("the evidence", d -> text("#status").startsWith("Looking back."));
        until("its picture", DeskView::isPictureReady);
        assertThat(text("#verdict")).isEqualTo("This sub is kept.");
        press(KeyCode.RIGHT);
        press(KeyCode.LEFT);
        assertThat(text("#status")).contains("Sub");
        press(KeyCode.N);
        until("now", d -> !text("#status").startsWith("Looking back."));
    }

    /** The Red palette sends no green and no blue at all, pictures included. */
    @Test
    @Order(4)
    void redIsOnlyRed() throws Exception {
        for (Stage stage : List.of(Stage.RUN, Stage.FOCUS, Stage.LOGBOOK, Stage.POLAR)) {
            on(() -> {
                desk.choose(stage);
                desk.setPalette(Palette.RED);
                return true;
            });
            until("the picture", DeskView::isPictureReady);
            BufferedImage image = picture();
            int notRed = 0;
            for (int y = 0; y < image.getHeight(); y++) {
                for (int x = 0; x < image.getWidth(); x++) {
                    notRed += (image.getRGB(x, y) & 0xffff) != 0 ? 1 : 0;
                }
            }
            assertThat(notRed).as("pixels with green or blue at " + stage).isZero();
        }
        press(KeyCode.P);
        assertThat(on(() -> ((Button) desk.lookup("#palette")).getText())).isEqualTo("Paper");
    }

    @Test
    @Order(5)
    void thePictureZoomsToTheCursorAndReadsOut() throws Exception {
        on(() -> {
            desk.choose(Stage.STACK);
            return true;
        });
        until("the stack", DeskView::isPictureReady);
        FrameView view = on(() -> (FrameView) desk.lookup(".frame-view"));
        double before = on(view::zoom);
        robot.moveTo(view);
        robot.scroll(3, javafx.geometry.VerticalDirection.UP);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(on(view::zoom)).isNotEqualTo(before);
        robot.moveBy(15, 10);
        WaitForAsyncUtils.waitForFxEvents();
        String readout = text("#readout");
        assertThat(readout).contains("ADU").matches(".*0[12] 3\\d .*\\+30 .*"); // near M 33, 01 34 +30 40
        press(KeyCode.F);
        assertThat(on(view::zoom)).isLessThan(1);
    }

    /** A night leaves the logbook only when asked twice; the one on screen stays. */
    /** One star of the last sweep in all its frames: the sharpest is shown first, keys and clicks go from one to the next, and it blinks. */
    @Test
    @Order(5)
    void theFramesOfASweepAreBlinked() throws Exception {
        FocusSwept last = on(() -> desk.model().night().last(FocusSwept.class).orElseThrow());
        press(KeyCode.DIGIT5);
        robot.clickOn("#focus-frames");
        until("the frames of the sweep", d -> caption().contains(" steps, "));
        int sharpest = position();
        assertThat((double) sharpest).isCloseTo(last.verdict().bestPosition(), within(20.0));
        robot.clickOn("#focus-frame-before");
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(position()).isLessThan(sharpest);
        // The first of the small ones, right of the large one.
        Node frames = on(() -> desk.lookup("#sweep-frames"));
        Bounds on = on(() -> frames.localToScreen(frames.getBoundsInLocal()));
        robot.clickOn(new Point2D(on.getMinX() + on.getHeight() + 20, on.getMinY() + 24));
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(position()).isEqualTo(last.strip().orElseThrow().positions().get(0));
        Set<Integer> seen = new HashSet<>();
        robot.clickOn("#focus-blink");
        until("three frames", d -> {
            seen.add(Integer.parseInt(caption().split(" ")[0]));
            return seen.size() >= 3;
        });
        robot.clickOn("#focus-sweep");
    }

    private String caption() {
        Node frames = desk.lookup("#sweep-frames");
        return frames == null || frames.getAccessibleText() == null ? "" : frames.getAccessibleText();
    }

    private int position() {
        return on(() -> Integer.parseInt(caption().split(" ")[0]));
    }

    @Test
    @Order(6)
    void aNightCanBeTakenOut() throws Exception {
        int nights = logbook.nights().size();
        press(KeyCode.DIGIT0);
        NightEntry older = logbook.nights().stream()
                .filter(n -> n.title().contains("another night"))
                .findFirst()
                .orElseThrow();
        onDesk(() -> desk.beginnings().open(older));
        onDesk(() -> desk.choose(Stage.LOGBOOK));
        robot.clickOn("#remove-night");
        until("the question", d -> d.lookup("#start") != null);
        robot.clickOn("#no-removal");
        assertThat(logbook.nights()).hasSize(nights);
        robot.clickOn("#remove-night");
        until("the question again", d -> d.lookup("#start") != null);
        robot.clickOn("#yes-removal");
        settled();
        assertThat(logbook.nights()).hasSize(nights - 1).doesNotContain(older);
        assertThat(text("#status")).contains("journal.jsonl");
        assertThat(older.folder().resolve("journal.jsonl")).exists();
        NightEntry whole = logbook.nights().get(0);
        onDesk(() -> desk.beginnings().open(whole));
    }

    @Test
    @Order(6)
    void theKeysAreListed() {
        assertThat(on(() -> desk.lookup("#darkroom")))
                .as("made when it is wanted")
                .isNull();
        press(KeyCode.F1);
        assertThat(on(() -> desk.lookup("#help").isVisible())).isTrue();
        press(KeyCode.ESCAPE);
        assertThat(on(() -> desk.lookup("#help").isVisible())).isFalse();
        // For hands that know no keys yet there are doors on the screen.
        robot.clickOn("#open-keys");
        assertThat(on(() -> desk.lookup("#list-of-keys"))).isNotNull();
        robot.clickOn("#open-keys");
        robot.clickOn("#open-stars");
        assertThat(on(() -> desk.starsPane().isVisible())).isTrue();
        press(KeyCode.ESCAPE);
        AtomicReference<Path> opened = new AtomicReference<>();
        on(() -> {
            desk.setOpener(opened::set);
            return true;
        });
        robot.clickOn("#open-folder");
        assertThat(opened.get()).isDirectory();
    }

    @Test
    @Order(7)
    void closedAndReopenedItIsAsItWas() throws Exception {
        on(() -> {
            desk.setPalette(Palette.PAPER);
            desk.choose(Stage.GUIDE);
            desk.settings(scene.getWidth(), scene.getHeight()).write(folder);
            desk.close();
            return true;
        });
        DeskSettings kept = DeskSettings.read(folder);
        assertThat(kept)
                .isEqualTo(new DeskSettings(
                        1280,
                        800,
                        Palette.PAPER,
                        Stage.GUIDE,
                        0,
                        Map.of(
                                Stage.READY,
                                NightControl.GatePolicy.ASK_THEN_PARK,
                                Stage.POLAR,
                                NightControl.GatePolicy.ASK_THEN_GO_ON,
                                Stage.GUIDE,
                                NightControl.GatePolicy.GO_ON),
                        100));
        open(kept);
        NightEntry first = logbook.nights().get(0);
        onDesk(() -> desk.beginnings().open(first));
        until("the old night", DeskView::isPictureReady);
        assertThat(text("#verdict")).contains("RMS");
        assertThat(on(() -> desk.model().night().events())).hasSizeGreaterThan(50);
    }

    @Test
    @Order(8)
    void anUnfinishedNightIsOfferedAgain() throws Exception {
        Path other = folder.resolve("other");
        Logbook left = Logbook.open(other);
        left.begin("left night", "night", shortNight());
        DeskView second = on(() -> new DeskView(wiring, left, new Profiles(other), DeskSettings.DEFAULT));
        on(() -> {
            new Opening(second, wiring, Opening.Found.in(left)).ownData();
            return true;
        });
        assertThat(on(() -> second.lookup("#go-on") instanceof Button b ? b.getText() : ""))
                .isEqualTo("Go on with the night that was left");
        on(() -> {
            second.close();
            return true;
        });
    }
}
