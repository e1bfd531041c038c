package app.ironside.desk.station;

import static app.ironside.desk.Headless.on;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.desk.Headless;
import java.util.List;
import javafx.scene.Scene;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A list in a narrow place tells everything and needs no bar to be pushed sideways. */
class SentenceCellTest {
    @BeforeAll
    static void startTheToolkit() throws Exception {
        Headless.start();
    }

    @Test
    void aLongSentenceTakesTwoLines() {
        List<Double> heights = on(() -> {
            ListView<String> list = new ListView<>();
            list.getItems().setAll("Stack begins.", "Eight subs are stacked, which is better than one. ".repeat(2));
            SentenceCell.of(list, text -> text);
            new Scene(list, 400, 300)
                    .getStylesheets()
                    .add(new atlantafx.base.theme.PrimerDark().getUserAgentStylesheet());
            list.applyCss();
            list.layout();
            return list.lookupAll(".list-cell").stream()
                    .map(ListCell.class::cast)
                    .filter(cell -> !cell.isEmpty())
                    .sorted(java.util.Comparator.comparingInt(ListCell::getIndex))
                    .map(ListCell::getHeight)
                    .toList();
        });
        assertThat(heights).hasSize(2);
        assertThat(heights.get(1) - heights.get(0)).isCloseTo(heights.get(0) * 0.7, within(heights.get(0) * 0.4));
    }
}
