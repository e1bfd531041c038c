package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import app.ironside.sky.Equatorial;
import app.ironside.sky.TangentPlane;
import app.ironside.solve.Coverage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** A deeper table of stars is added to the desk's, as a person with a long focal length does. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class StarsToGoByTest extends DeskHarness {
    @TempDir
    static Path folder;

    private NightFile night;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        night = NightFile.parse(
                DemoNights.tonight().replace("\"focalLengthMm\": 432", "\"focalLengthMm\": 1600"),
                "demo",
                wiring.objects());
        assertThat(night.kit().optics().focalLengthMm()).isEqualTo(1600);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
        onDesk(() -> desk.beginnings().plan(night));
    }

    private String label(String selector) {
        return on(() -> ((Label) desk.starsPane().lookup(selector)).getText());
    }

    private Path table() throws Exception {
        Random random = new Random(4);
        StringBuilder csv = new StringBuilder("id,lon,lat,brightness\n");
        for (var target : night.program().targets()) {
            TangentPlane plane = new TangentPlane(target.position());
            for (int i = 0; i < 300; i++) {
                Equatorial place = plane.unproject(2 * random.nextDouble() - 1, 2 * random.nextDouble() - 1);
                csv.append(String.format(
                        Locale.ROOT,
                        "%d,%.6f,%.6f,%.2f%n",
                        i,
                        place.raDeg(),
                        place.decDeg(),
                        10 + 3 * random.nextDouble()));
            }
        }
        Path file = folder.resolve("deep.csv");
        Files.writeString(file, csv);
        return file;
    }

    @SuppressWarnings("unchecked")
    private void column(int index, String title) {
        on(() -> {
            ((ComboBox<String>) desk.starsPane().lookup("#column-" + index)).setValue(title);
            return true;
        });
    }

    @Test
    void aDeeperTableIsMappedImportedAndTakenAway() throws Exception {
        press(KeyCode.G);
        assertThat(on(() -> desk.starsPane().isVisible())).isTrue();
        assertThat(label("#stars-verdict")).startsWith("Too few stars at ");
        Path file = table();
        on(() -> {
            desk.starsPane().open(file);
            return true;
        });
        until("the columns", d -> label("#table-title").contains("which column is which?"));
        assertThat(label("#table-title")).contains("deep.csv");
        robot.clickOn("#import-table");
        until("the refusal", d -> label("#stars-said").contains("no column of right ascension"));
        column(0, "lon");
        column(1, "lat");
        column(2, "brightness");
        on(() -> {
            ((TextField) desk.starsPane().lookup("#column-epoch")).setText("soon");
            return true;
        });
        robot.clickOn("#import-table");
        assertThat(label("#stars-said")).contains("\"soon\"").contains("expected a year");
        on(() -> {
            ((TextField) desk.starsPane().lookup("#column-epoch")).setText("2000");
            return true;
        });
        robot.clickOn("#import-table");
        until("the import", d -> label("#stars-said").startsWith("Imported deep.csv."));
        assertThat(label("#stars-verdict")).isEqualTo("Enough stars to go by.");
        assertThat(wiring.shelf().holding().imported())
                .isEqualTo(300 * night.program().targets().size());
        var target = night.program().targets().get(0);
        assertThat(Coverage.of(wiring.shelf().solver().catalogue(), target.position(), 0.9, 0.7, 0)
                        .suffices())
                .isTrue();
        robot.clickOn("#drop-table");
        until("the table gone", d -> label("#stars-verdict").startsWith("Too few stars"));
        Path broken = folder.resolve("broken.vot");
        Files.writeString(broken, "<VOTABLE><nothing");
        on(() -> {
            desk.starsPane().open(broken);
            return true;
        });
        until("the refusal", d -> label("#stars-said").contains("is no well-formed XML"));
        assertThat(label("#stars-said")).contains("broken.vot");
        press(KeyCode.ESCAPE);
        assertThat(on(() -> desk.starsPane().isVisible())).isFalse();
    }
}
