package app.ironside.point;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.BadInputException;
import app.ironside.Provenance;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ModelShelfTest {
    @TempDir
    Path folder;

    private static PointingModel model(double arcsec) {
        return new PointingModel(
                List.of(new PointingModel.Term(PointingModel.Kind.DECLINATION_INDEX, arcsec, 5)),
                3000,
                8,
                9,
                20,
                Instant.parse("2026-11-14T20:00:00Z"));
    }

    @Test
    void eachKitHasItsOwn() {
        ModelShelf shelf = new ModelShelf(folder, Provenance.REHEARSED);
        assertThat(shelf.of("Wren")).isEmpty();
        shelf.keep("Wren", model(120));
        shelf.keep("Heron II", model(-40));
        shelf.keep("Wren", model(90));
        assertThat(new ModelShelf(folder, Provenance.REHEARSED).of("Wren")).contains(model(90));
        assertThat(shelf.of("Heron II")).contains(model(-40));
        shelf.clear("Wren");
        shelf.clear("Wren");
        assertThat(shelf.of("Wren")).isEmpty();
        assertThat(shelf.of("Heron II")).isPresent();
    }

    @Test
    void aFileThatIsNoModelIsNamed() throws Exception {
        Files.writeString(folder.resolve("pointing-model-rehearsed-wren.json"), "{\"terms\": 3}");
        assertThatThrownBy(() -> new ModelShelf(folder, Provenance.REHEARSED).of("wren"))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("pointing-model-rehearsed-wren.json")
                .hasMessageContaining("a pointing model saved by Ironside");
    }

    /** What the simulator's mount does wrong is not what a real one does. */
    @Test
    void aModelOfARehearsalIsNotSeenByARealNight() {
        new ModelShelf(folder, Provenance.REHEARSED).keep("Wren", model(120));
        assertThat(new ModelShelf(folder, Provenance.REAL).of("Wren")).isEmpty();
        assertThat(new ModelShelf(folder, Provenance.REHEARSED).of("wren"))
                .as("another kit, whose name differs in a letter's case")
                .isEmpty();
    }

    /** A model of before the mount was taken apart is not given. */
    @Test
    void aModelOfOtherGearIsNotGiven() throws Exception {
        ModelShelf shelf = new ModelShelf(folder, Provenance.REAL);
        Instant before = Instant.now().minusSeconds(60);
        shelf.keep("Wren", model(90));
        assertThat(shelf.of("Wren", before)).contains(model(90));
        assertThat(shelf.of("Wren", Instant.now().plusSeconds(60))).isEmpty();
        assertThat(shelf.of("Heron", before)).isEmpty();
    }
}
