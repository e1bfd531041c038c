package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.Stage;
import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.geometry.Point2D;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** A folder of somebody's lights (tools/graded-frames.py) is dropped on the desk, judged, marked and developed in the real window. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class DarkroomDeskTest extends DeskHarness {
    private static final Path FRAMES = Path.of("..", "core", "src", "test", "resources", "app", "ironside", "judge");

    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder.resolve("data"));
        Files.createDirectories(folder.resolve("night"));
        for (int i = 0; i < 12; i++) {
            String name = String.format("light-%02d.fits.fz", i);
            Files.copy(FRAMES.resolve(name), folder.resolve("night").resolve(name));
        }
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    private String said(String id) {
        return on(() -> ((Label) desk.darkroom().lookup(id)).getText());
    }

    private List<String> lines() {
        return on(() -> ((ListView<?>) desk.darkroom().lookup("#darkroom-list"))
                .getItems().stream().map(Object::toString).toList());
    }

    private void fire(String id) {
        on(() -> {
            ((ButtonBase) desk.darkroom().lookup(id)).fire();
            return true;
        });
    }

    @Test
    void aFolderIsDevelopedOnTheDesk() throws Exception {
        on(() -> desk.take(List.of(folder.resolve("night"))));
        until("the folder", d -> said("#darkroom-title").startsWith("12 lights"));
        assertThat(said("#darkroom-title")).isEqualTo("12 lights of IC 342.");
        assertThat(lines().get(0)).contains("IC 342 · L · 12 × 180 s");
        assertThat(lines()).anyMatch(l -> l.contains("Missing: darks"));
        assertThat(said("#darkroom-detail")).contains("No dark: there is none in these folders.");
        fire("#darkroom-judge");
        until("the verdicts", d -> said("#darkroom-said").startsWith("Kept:"));
        assertThat(said("#darkroom-said")).startsWith("Kept: 7 of 12");
        assertThat(lines()).hasSize(12);
        assertThat(lines().get(2)).contains("✕ light-02.fits.fz").contains("cloud");
        // The first light is left out by hand, that is taken back, and done again.
        assertThat(lines().get(0)).contains("✓ ");
        chooseGrain(2);
        assertThat(said("#darkroom-said"))
                .as("seven are kept: 0.482 / √7")
                .startsWith(
                        "7 lights dithered by chance would cover pixels 2 times as fine to within 18 %: evenly enough.");
        chooseGrain(0);
        fire("#darkroom-mark");
        assertThat(lines().get(0)).contains("✕ ").contains("by hand");
        press(KeyCode.Z, true);
        assertThat(lines().get(0)).contains("✓ ").doesNotContain("by hand");
        theContactSheet();
        fire("#darkroom-prove");
        until("the reason", d -> said("#darkroom-said").contains("neither dark, bias nor flat"));
        fire("#darkroom-compare");
        until("both stacks", d -> said("#darkroom-said").startsWith("Both stacks are in "));
        assertThat(said("#darkroom-detail"))
                .startsWith("By the verdicts: 7 of 12 lights")
                .contains("Keeping all is");
        fire("#darkroom-mark");
        fire("#darkroom-develop");
        // While it works no second one can be begun, and another folder waits.
        fire("#darkroom-there");
        assertThat(on(() -> desk.darkroom().lookup("#darkroom-develop").isDisabled()))
                .isTrue();
        on(() -> desk.take(List.of(folder.resolve("data"))));
        assertThat(said("#darkroom-title")).isEqualTo("12 lights of IC 342.");
        until("the stack", d -> said("#darkroom-said").startsWith("1 stack in "));
        assertThat(lines().get(0))
                .contains("IC 342 · L")
                .contains("6 of 12 lights")
                .contains("left out by hand");
        assertThat(folder.resolve("night-developed").resolve("stacks").resolve("IC_342_L.fits"))
                .exists();
        fire("#close-darkroom");
        assertThat(on(() -> desk.darkroom().isVisible())).isFalse();
    }

    /** All twelve at once: chosen by pointer and keys, a block left out and taken back, and sorted by what they add. */
    private void theContactSheet() throws Exception {
        press(KeyCode.S, false);
        until("the likenesses", d -> !d.darkroom().isLooking());
        assertThat(chosen()).containsExactly(0);
        clickOn(3, false);
        assertThat(chosen()).containsExactly(3);
        clickOn(1, true);
        assertThat(chosen()).containsExactly(1, 2, 3);
        press(KeyCode.K, false);
        assertThat(said("#darkroom-said")).isEqualTo("3 lights left out by hand. Ctrl Z takes it back.");
        // The third was out by its cloud already.
        assertThat(lines().subList(1, 4)).allMatch(l -> l.contains("✕ "));
        assertThat(lines().stream().filter(l -> l.contains("by hand"))).hasSize(2);
        press(KeyCode.Z, true);
        assertThat(lines()).noneMatch(l -> l.contains("by hand"));
        clickOn(0, false);
        until("the first", d -> chosen().equals(List.of(0)));
        press(KeyCode.RIGHT, false);
        assertThat(chosen()).containsExactly(1);
        sortBy("what it adds, %");
        assertThat(lines().get(11)).contains("100 %");
        List<Integer> now = chosen();
        assertThat(lines().get(now.get(0))).as("what was chosen stays it").contains("light-01");
        sortBy("time");
        BufferedImage whole = sheetSeen();
        fire("#sheet-corners");
        until("the corners", d -> !d.darkroom().isLooking());
        assertThat(pixels(sheetSeen())).isNotEqualTo(pixels(whole));
        fire("#sheet-corners");
        until("the likenesses again", d -> !d.darkroom().isLooking());
        assertThat(pixels(sheetSeen())).isEqualTo(pixels(whole));
        fire("#darkroom-sheet");
        until("the picture", d -> !d.darkroom().isLooking());
        on(() -> {
            ((ListView<?>) desk.darkroom().lookup("#darkroom-list"))
                    .getSelectionModel()
                    .clearAndSelect(0);
            return true;
        });
    }

    private void chooseGrain(int place) {
        on(() -> {
            ((ComboBox<?>) desk.darkroom().lookup("#darkroom-grain"))
                    .getSelectionModel()
                    .select(place);
            return true;
        });
    }

    private BufferedImage sheetSeen() {
        return on(() -> Snapshots.of(desk.getScene()));
    }

    private static int[] pixels(BufferedImage image) {
        return image.getRGB(0, 0, image.getWidth(), image.getHeight(), null, 0, image.getWidth());
    }

    private List<Integer> chosen() {
        return on(() -> List.copyOf(((ListView<?>) desk.darkroom().lookup("#darkroom-list"))
                .getSelectionModel()
                .getSelectedIndices()));
    }

    /** Of the first row: four cells stand in it. */
    private void clickOn(int cell, boolean shift) {
        Point2D place = on(() -> desk.darkroom().lookup("#contact-sheet").localToScreen(96 + 184 * cell, 74));
        if (shift) {
            robot.press(KeyCode.SHIFT);
        }
        robot.clickOn(place);
        if (shift) {
            robot.release(KeyCode.SHIFT);
        }
    }

    @SuppressWarnings("unchecked")
    private void sortBy(String words) {
        on(() -> {
            ComboBox<Object> box = (ComboBox<Object>) desk.darkroom().lookup("#sort-by");
            box.getItems().stream()
                    .filter(m -> m.toString().equals(words))
                    .findFirst()
                    .ifPresent(box::setValue);
            return true;
        });
    }

    private void press(KeyCode code, boolean shortcut) {
        on(() -> {
            desk.darkroom()
                    .fireEvent(new javafx.scene.input.KeyEvent(
                            javafx.scene.input.KeyEvent.KEY_PRESSED, "", "", code, false, shortcut, false, false));
            return true;
        });
    }

    /** The drawer was set to Ha and told nobody: said once for all twelve; nothing is written to the frames. */
    @Test
    void aWrongFilterIsCorrectedForAllAtOnce() throws Exception {
        Path copy = Files.createDirectories(folder.resolve("unsure"));
        for (int i = 0; i < 3; i++) {
            Files.copy(FRAMES.resolve("light-0" + i + ".fits.fz"), copy.resolve("light-0" + i + ".fits.fz"));
        }
        byte[] before = Files.readAllBytes(copy.resolve("light-00.fits.fz"));
        on(() -> desk.take(List.of(copy)));
        until("the folder", d -> said("#darkroom-title").startsWith("3 lights"));
        on(() -> {
            ((ListView<?>) desk.darkroom().lookup("#darkroom-list"))
                    .getSelectionModel()
                    .clearAndSelect(0);
            return true;
        });
        fire("#darkroom-facts");
        assertThat(said("#facts-title")).isEqualTo("What is true of these 3 frames");
        type("#facts-gain", "much");
        fire("#facts-take");
        assertThat(said("#facts-wrong")).isEqualTo("the gain \"much\" is no number.");
        type("#facts-gain", "");
        type("#facts-filter", "Ha");
        fire("#facts-take");
        until("the corrected set", d -> lines().stream().anyMatch(l -> l.contains("IC 342 · Ha · 3 × 180 s")));
        assertThat(Files.readAllBytes(copy.resolve("light-00.fits.fz"))).isEqualTo(before);
        on(() -> {
            ((ListView<?>) desk.darkroom().lookup("#darkroom-list"))
                    .getSelectionModel()
                    .clearAndSelect(0);
            return true;
        });
        fire("#darkroom-facts");
        fire("#facts-forget");
        until("the header's word", d -> lines().stream().anyMatch(l -> l.contains("IC 342 · L · 3 × 180 s")));
        until("the end", d -> !d.darkroom().isBusy());
    }

    private void type(String id, String text) {
        on(() -> {
            ((javafx.scene.control.TextField) desk.darkroom().lookup(id)).setText(text);
            return true;
        });
    }
}
