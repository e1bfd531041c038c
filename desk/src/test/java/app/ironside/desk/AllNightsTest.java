package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.Stage;
import app.ironside.logbook.SubFact;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.io.TempDir;

/** The demo's earlier nights, asked in words in the real window. What is counted is held against the logbook's own account. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class AllNightsTest extends DeskHarness {
    @TempDir
    static Path folder;

    @BeforeAll
    void openTheDesk() throws Exception {
        openOn(folder);
        DemoNights.importEarlier(logbook);
        open(new DeskSettings(1280, 800, Palette.DUSK, Stage.LOGBOOK, 0));
        onDesk(() -> desk.beginnings().open(logbook.nights().get(0)));
        on(() -> {
            desk.choose(Stage.LOGBOOK);
            ((ButtonBase) desk.lookup("#all-nights")).fire();
            return true;
        });
        answered();
    }

    private void answered() throws Exception {
        until("the answer", d -> d.isAnswered());
    }

    private void ask(String words) throws Exception {
        on(() -> {
            ((TextField) desk.lookup("#ask-logbook")).setText(words);
            return true;
        });
        answered();
    }

    private String label(String id) {
        return on(() -> ((Label) desk.lookup(id)).getText());
    }

    @Test
    void whatIsAskedIsCounted() throws Exception {
        ask("");
        double kept = logbook.account().hoursKept();
        assertThat(label("#asked-count")).endsWith(String.format("kept, %.1f h.", kept));
        List<?> nights = on(() -> List.copyOf(((ListView<?>) desk.lookup("#asked-nights")).getItems()));
        assertThat(nights).hasSize(logbook.account().nights().size());
        ask("kept L");
        assertThat(label("#asked-words")).isEqualTo("Asked: kept, L.");
        ask("out Ha above 89°");
        assertThat(label("#asked-count")).startsWith("0 subs");
        ask("kept parsecs");
        assertThat(label("#asked-words")).contains("Nothing here is known as \"parsecs\"");
    }

    @Test
    @SuppressWarnings("unchecked")
    void oneThingAgainstAnotherHasItsErrorOrSaysWhyNot() throws Exception {
        on(() -> {
            ((ComboBox<SubFact>) desk.lookup("#trend-of")).setValue(SubFact.FOCUS);
            ((ComboBox<SubFact>) desk.lookup("#trend-against")).setValue(SubFact.TEMPERATURE);
            return true;
        });
        ask("wren");
        assertThat(label("#trend-words")).matches(".*steps per °C.*over \\d+ subs of \\d+ nights.*");
        ask("out Ha above 89°");
        assertThat(label("#trend-words")).startsWith("No sub has both");
    }
}
