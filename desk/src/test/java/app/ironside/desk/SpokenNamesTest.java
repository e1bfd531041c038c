package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.desk.parts.SpokenNames;
import app.ironside.desk.plan.PlanDesk;
import app.ironside.document.NightFile;
import app.ironside.journal.Stage;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** Whoever cannot see the screen is told what each control is: at every station, and in every part of the plan. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SpokenNamesTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importEarlier(logbook);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.PLAN, 0));
        NightFile tonight = NightFile.parse(DemoNights.tonight(), "demo", wiring.objects());
        onDesk(() -> desk.beginnings().plan(tonight));
        settled();
    }

    /** Controls that can have the focus and still have no name. */
    private static List<String> nameless(Node node) {
        List<String> found = new ArrayList<>();
        if (node instanceof Control control
                && control.isFocusTraversable()
                && !(control instanceof ScrollPane)
                && !(control instanceof Label)) {
            SpokenNames.name(control);
            boolean named = control.getAccessibleText() != null
                    && !control.getAccessibleText().isBlank();
            boolean says = control instanceof Labeled l
                    && l.getText() != null
                    && !l.getText().isBlank();
            if (!named && !says) {
                found.add(control.getClass().getSimpleName() + " in "
                        + control.getParent().getClass().getSimpleName() + " " + control.getStyleClass());
            }
        }
        if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(child -> found.addAll(nameless(child)));
        }
        return found;
    }

    @Test
    void everyControlHasAName() throws Exception {
        for (PlanDesk.Tab tab : PlanDesk.Tab.values()) {
            onDesk(() -> desk.planDesk().setTab(tab));
            settled();
            assertThat(on(() -> nameless(desk))).as(tab.toString()).isEmpty();
        }
        onDesk(() -> desk.beginnings().open(logbook.nights().get(0)));
        for (Stage stage : Stage.values()) {
            onDesk(() -> desk.choose(stage));
            assertThat(on(() -> nameless(desk))).as(stage.title()).isEmpty();
        }
    }

    /** A field is called by the label in its row, not by what it holds. */
    @Test
    void aFieldIsCalledByItsLabel() throws Exception {
        onDesk(() -> desk.beginnings().plan(NightFile.parse(DemoNights.tonight(), "demo", wiring.objects())));
        onDesk(() -> desk.planDesk().setTab(PlanDesk.Tab.RULES));
        settled();
        String name = on(() -> {
            TextField bed = (TextField) desk.lookup("#rule-bed");
            bed.requestFocus();
            return bed.getAccessibleText();
        });
        assertThat(name).isEqualTo("in bed by");
    }
}
