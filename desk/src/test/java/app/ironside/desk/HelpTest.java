package app.ironside.desk;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.journal.Stage;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The guide and the help at a station say the same. */
class HelpTest {
    @ParameterizedTest
    @EnumSource(Stage.class)
    void theGuideHoldsTheTextOfEachStation(Stage station) throws Exception {
        String guide = Files.readString(Path.of("..", "docs", "GUIDE.md"));
        String text = HelpPane.words(station).strip();
        assertThat(text).startsWith("# " + station.title());
        assertThat(guide).contains("#" + text);
    }
}
