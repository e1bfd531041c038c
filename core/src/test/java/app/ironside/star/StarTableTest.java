package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Stars that are kept beside a frame. */
class StarTableTest {
    @TempDir
    Path folder;

    private static StarField field(int count) {
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            stars.add(new Star(
                    10.12345 + i, 20.5, 90_000 - i, 1200, 1.2345, 2.5, 0.31, -42.5, 120, i == 0, 7, Optional.empty()));
        }
        return new StarField(2800, 2100, stars, 1400, 30);
    }

    @Test
    void theyComeBackAsTheyWereMeasured() {
        Path frame = folder.resolve("M_33_L_180s_0001.fits");
        assertThat(StarTable.kept(frame)).as("none are kept").isEmpty();
        StarTable.keep(frame, field(40));
        assertThat(folder.resolve("M_33_L_180s_0001.stars.csv.gz")).exists();
        List<Star> kept = StarTable.kept(frame).orElseThrow();
        assertThat(kept).hasSize(40);
        Star first = kept.get(0);
        assertThat(first.x()).isCloseTo(10.12345, within(1e-4));
        assertThat(first.halfFluxRadiusPx()).isCloseTo(1.2345, within(1e-4));
        assertThat(first.angleDeg()).isEqualTo(-42.5);
        assertThat(first.saturated()).isTrue();
        assertThat(kept.get(39).saturated()).isFalse();
    }

    @Test
    void aCrowdedFrameKeepsItsBrightest() {
        Path frame = folder.resolve("a.fits");
        StarTable.keep(frame, field(3000));
        List<Star> kept = StarTable.kept(frame).orElseThrow();
        assertThat(kept).hasSize(2000);
        assertThat(kept.get(1999).fluxAdu()).isEqualTo(90_000 - 1999);
    }

    @Test
    void aTableThatWasCutIsNamed() throws Exception {
        Path frame = folder.resolve("a.fits");
        StarTable.keep(frame, field(300));
        Path table = StarTable.beside(frame);
        byte[] whole = Files.readAllBytes(table);
        Files.write(table, Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> StarTable.kept(frame))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("a.stars.csv.gz: is no whole table of stars");
    }
}
