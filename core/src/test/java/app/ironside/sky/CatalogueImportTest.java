package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Progress;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables written by another library (astropy 5.2.1, tools/reference-sky.py), and by hand. */
class CatalogueImportTest {
    @TempDir
    Path folder;

    private static Path resource(String name) throws URISyntaxException {
        return Path.of(CatalogueImportTest.class.getResource(name).toURI());
    }

    @ParameterizedTest
    @ValueSource(strings = {"moving-stars.fits", "moving-stars.vot"})
    void fitsAndVoTableAreRead(String name) throws URISyntaxException {
        StarCatalogue stars = CatalogueImport.read(resource(name), CatalogueImport.Columns.USUAL, Progress.NONE);
        assertThat(stars.size()).isEqualTo(3);
        CatalogueStar first = stars.within(new Equatorial(10, 41), 0.1).get(0);
        assertThat(first.magnitude()).isCloseTo(5.5, within(1e-6));
        // By hand: 1″ a year eastward for 26 years is 26″ on the sky, 26″ / cos 41° in right ascension.
        Equatorial then = first.positionAt(2026);
        assertThat((then.raDeg() - 10) * 3600).isCloseTo(26 / Math.cos(Math.toRadians(41)), within(0.01));
        assertThat((then.decDeg() - 41) * 3600).isCloseTo(-13, within(0.01));
    }

    /** By hand: positions of 2016 carried back 16 years. */
    @Test
    void anotherEpochIsBroughtToJ2000() throws URISyntaxException {
        StarCatalogue stars = CatalogueImport.read(
                resource("moving-stars.fits"), CatalogueImport.Columns.USUAL.withEpochYear(2016), Progress.NONE);
        CatalogueStar first = stars.within(new Equatorial(10, 41), 0.1).get(0);
        assertThat((first.position().decDeg() - 41) * 3600).isCloseTo(8, within(0.01));
        assertThat(first.positionAt(2016).separationDeg(new Equatorial(10, 41)) * 3600)
                .isLessThan(0.01);
    }

    @Test
    void columnsAreNamedByTheUser() throws IOException {
        Path csv = folder.resolve("deep.csv");
        Files.writeString(csv, "id,lon,lat,brightness\n1,10.5,20.5,12.25\n2,11.0,21.0,\n3,11.5,21.5,13.5\n");
        CatalogueImport.Columns columns =
                CatalogueImport.Columns.USUAL.withPlace("lon", "lat").withMagnitude("brightness");
        StarCatalogue stars = CatalogueImport.read(csv, columns, Progress.NONE);
        assertThat(stars.size()).as("the row without a magnitude is left out").isEqualTo(2);
        assertThat(stars.star(0).position()).isEqualTo(new Equatorial(10.5, 20.5));
        assertThatThrownBy(() -> CatalogueImport.read(csv, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("deep.csv")
                .hasMessageContaining("no column of right ascension")
                .hasMessageContaining("id, lon, lat, brightness");
    }

    @Test
    void whatIsNoTableIsNamed() throws IOException {
        Path broken = folder.resolve("broken.fits");
        Files.writeString(broken, "SIMPLE  =                    T / and then nothing");
        assertThatThrownBy(() -> CatalogueImport.read(broken, CatalogueImport.Columns.USUAL, Progress.NONE))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("broken.fits");
        Path wrong = folder.resolve("wrong.csv");
        Files.writeString(wrong, "ra,dec,mag\n10,95,8\n");
        assertThatThrownBy(() -> CatalogueImport.read(wrong, CatalogueImport.Columns.USUAL, Progress.NONE))
                .hasMessageContaining("row 1")
                .hasMessageContaining("declination 95.0000");
    }

    /** Law: written and opened again it is the same; cut short it is refused. */
    @Test
    void theOwnFileIsOpenedAgain() throws Exception {
        StarCatalogue stars =
                CatalogueImport.read(resource("moving-stars.vot"), CatalogueImport.Columns.USUAL, Progress.NONE);
        Path file = folder.resolve("stars.bin");
        stars.write(file);
        StarCatalogue again = StarCatalogue.open(file);
        assertThat(again.fingerprint()).isEqualTo(stars.fingerprint());
        for (int i = 0; i < stars.size(); i++) {
            assertThat(again.star(i)).isEqualTo(stars.star(i));
        }
        byte[] whole = Files.readAllBytes(file);
        Files.write(file, java.util.Arrays.copyOf(whole, whole.length - 3));
        assertThatThrownBy(() -> StarCatalogue.open(file)).hasMessageContaining("import the table of stars again");
    }

    /** Before a table is imported its columns are shown, those with usual names or UCDs chosen. */
    @Test
    void aTableIsLookedAtFirst() throws Exception {
        CatalogueImport.Sample table = CatalogueImport.look(resource("moving-stars.vot"), 2);
        assertThat(table.rows()).isEqualTo(3);
        assertThat(table.first()).hasSize(2);
        assertThat(table.first().get(0)).hasSameSizeAs(table.titles());
        assertThat(table.titles())
                .contains(table.guess().ra(), table.guess().dec(), table.guess().motionRa());
        Path csv = folder.resolve("odd.csv");
        Files.writeString(csv, "id,lon,lat,brightness\n1,10.5,20.5,12.25\n");
        CatalogueImport.Sample odd = CatalogueImport.look(csv, 5);
        assertThat(odd.titles()).containsExactly("id", "lon", "lat", "brightness");
        assertThat(odd.guess().ra()).isEmpty();
        assertThat(odd.first().get(0)).containsExactly("1", "10.5", "20.5", "12.25");
        assertThatThrownBy(() -> CatalogueImport.look(folder.resolve("none.csv"), 5))
                .hasMessageContaining("none.csv")
                .hasMessageContaining("cannot be read");
    }

    /** By hand: two tables of two stars that share one. */
    @Test
    void catalogueOfTwoHoldsEachStarOnce() {
        StarCatalogue one =
                StarCatalogue.of("a ", List.of(new Equatorial(10, 5), new Equatorial(20, -5)), new double[] {8, 9});
        StarCatalogue two = StarCatalogue.of(
                "b ", List.of(new Equatorial(10 + 1 / 3600.0, 5), new Equatorial(15, 0)), new double[] {8.2, 11});
        StarCatalogue both = one.joined(two, 3);
        assertThat(both.size()).isEqualTo(3);
        assertThat(both.star(0).name()).isEqualTo("a 2");
        assertThat(both.star(1).name()).isEqualTo("b 2");
        assertThat(both.star(2).magnitude()).isEqualTo(8);
        assertThat(one.joined(two, 0.5).size()).isEqualTo(4);
    }
}
