package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** The parts of Polar and Point that a person works alone: reticle, drift, the model of a permanent mount. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class PolarAndPointTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        NightFile night = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.POLAR, 0));
        onDesk(() -> desk.beginnings().plan(night));
        onDesk(() -> desk.choose(Stage.POLAR));
    }

    private void type(String id, String text) {
        on(() -> {
            ((TextField) desk.lookup(id)).setText(text);
            return true;
        });
    }

    /** The old rules of thumb, and their sum: 0.26″ a minute for each arcminute. */
    @Test
    void driftOfTwoStarsTellsTheKnobs() {
        on(() -> {
            desk.choose(Stage.POLAR);
            return true;
        });
        robot.clickOn("#polar-drift");
        type("#drift-0-2", "");
        type("#drift-1-2", "");
        assertThat(text("#drift-verdict")).isEqualTo("No drift noted yet.");
        type("#drift-0-2", "−2.6");
        assertThat(text("#drift-verdict")).isEqualTo("Near the meridian: the axis is too far east.");
        type("#drift-1-2", "0,5");
        assertThat(text("#drift-verdict")).matches("\\d+\\.\\d′ from the pole\\.");
        type("#drift-1-2", "a little");
        assertThat(text("#drift-verdict")).isEqualTo("Not a number.");
    }

    /** A star behind a tree is left out by its own button, and comes back. */
    @Test
    void threeStarsServeAHandController() {
        on(() -> {
            desk.choose(Stage.POINT);
            return true;
        });
        robot.clickOn("#point-stars");
        assertThat(text("#three-stars")).isEqualTo("Centre these three, in this order.");
        String first = on(() -> ((Label) ((HBox) desk.lookup("#hide-star-1").getParent())
                        .getChildren()
                        .get(0))
                .getText());
        robot.clickOn("#hide-star-1");
        String other = on(() -> ((Label) ((HBox) desk.lookup("#hide-star-1").getParent())
                        .getChildren()
                        .get(0))
                .getText());
        assertThat(other).isNotEqualTo(first);
        robot.clickOn("#unhide-stars");
        assertThat(on(() -> ((Label) ((HBox) desk.lookup("#hide-star-1").getParent())
                                .getChildren()
                                .get(0))
                        .getText()))
                .isEqualTo(first);
        robot.clickOn("#point-frame");
    }

    @Test
    void theReticleIsDrawn() {
        on(() -> {
            desk.choose(Stage.POLAR);
            return true;
        });
        robot.clickOn("#polar-reticle");
        int before = picture().hashCode();
        robot.clickOn("#inverted");
        assertThat(picture().hashCode()).isNotEqualTo(before);
        robot.clickOn("#polar-images");
    }

    @Test
    void aModelIsTakenKeptAndCleared() throws Exception {
        on(() -> {
            desk.choose(Stage.POINT);
            return true;
        });
        robot.clickOn("#point-model");
        assertThat(text("#model-verdict")).isEqualTo("No model yet.");
        on(() -> {
            javafx.scene.control.Spinner<?> points = (javafx.scene.control.Spinner<?>) desk.lookup("#model-points");
            points.decrement(3);
            return true;
        });
        robot.clickOn("#take-points");
        until("the model", d -> !text("#model-verdict").equals("No model yet."));
        // The simulated mount has a cone error, an index error and a polar error of tens of arcminutes.
        assertThat(text("#model-verdict")).matches("\\d+″ instead of [\\d]{3,}″\\.");
        Path kept = kept("pointing-model-rehearsed-");
        assertThat(Files.readString(kept)).contains("HOUR_ANGLE_INDEX");
        robot.clickOn("#clear-model");
        assertThat(text("#model-verdict")).isEqualTo("No model yet.");
        assertThat(kept).doesNotExist();
        robot.clickOn("#point-frame");
    }

    /** The one file of the folder whose name begins so. */
    private Path kept(String start) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(f -> f.getFileName().toString().startsWith(start))
                    .findFirst()
                    .orElseThrow();
        }
    }
}
