package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import java.nio.file.Path;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** A newcomer is taken through a night by keys alone: it is held at each station with its words, and goes on when they say so. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class WalkTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
    }

    private String helpTitle() {
        return on(() -> ((Label) desk.lookup("#help").lookup(".verdict")).getText());
    }

    private void at(Stage stage) throws Exception {
        until(
                "the words of " + stage,
                d -> d.lookup("#help").isVisible() && helpTitle().equals(stage.title()));
        until("the night to wait", d -> night().isFrozen());
    }

    @Test
    void eachStationIsToldWhenTheNightComesToIt() throws Exception {
        NightFile night = NightFile.parse(DeskTest.shortNight(), "short", wiring.objects());
        on(() -> {
            desk.walk(night);
            return true;
        });
        at(Stage.PLAN);
        press(KeyCode.SPACE);
        at(Stage.READY);
        press(KeyCode.SPACE);
        at(Stage.FOCUS);
        assertThat(text("#status")).startsWith("Space: on with the night.");
        // A second walk is not begun in the middle of the first.
        on(() -> {
            desk.walk(night);
            return true;
        });
        assertThat(text("#status")).startsWith("A night is running");
        press(KeyCode.ESCAPE);
        assertThat(on(() -> desk.lookup("#help").isVisible())).isFalse();
        assertThat(night().isFrozen()).isFalse();
        assertThat(text("#status")).startsWith("The walk is over.");
        on(() -> {
            night().close();
            return true;
        });
    }
}
