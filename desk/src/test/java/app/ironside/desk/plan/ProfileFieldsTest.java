package app.ironside.desk.plan;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.ironside.JsonText;
import app.ironside.kit.Equipment;
import app.ironside.kit.KitFile;
import app.ironside.sky.SiteFile;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The values of sites and kits as rows to edit. */
class ProfileFieldsTest {
    private static final Path EXAMPLES = Path.of("..", "examples");

    private static ObjectNode kit(String name) throws IOException {
        String text = Files.readString(EXAMPLES.resolve("kits").resolve(name + ".json"));
        return KitFile.tree(KitFile.parse(text, name));
    }

    private static ProfileFields.Field field(ObjectNode tree, String dotted) {
        return ProfileFields.of(tree, ProfileShape.KIT).stream()
                .filter(f -> f.dotted().equals(dotted))
                .findFirst()
                .orElseThrow();
    }

    /** Law: a value put in the place of itself changes nothing, whatever the kit; and every row can be told from the others. */
    @ParameterizedTest
    @ValueSource(strings = {"wren", "lark", "heron"})
    void everyValueGoesThereAndBack(String name) throws IOException {
        ObjectNode tree = kit(name);
        List<ProfileFields.Field> fields = ProfileFields.of(tree, ProfileShape.KIT);
        assertThat(fields).hasSizeGreaterThan(20);
        assertThat(fields.stream().map(ProfileFields.Field::dotted)).doesNotHaveDuplicates();
        for (ProfileFields.Field field : fields) {
            assertThat(JsonText.differences(tree, ProfileFields.with(tree, field, field.value())))
                    .as(field.dotted())
                    .isEmpty();
            assertThat(field.name()).isNotBlank();
        }
        assertThat(KitFile.parse(JsonText.write(tree), name)).isNotNull();
    }

    @Test
    void aSiteHasItsRowsWithoutTheSkyline() throws IOException {
        String text = Files.readString(EXAMPLES.resolve("sites").resolve("colle-sorbo.json"));
        List<ProfileFields.Field> fields =
                ProfileFields.of(SiteFile.tree(SiteFile.parse(text, "site")), ProfileShape.SITE);
        assertThat(fields.stream().map(ProfileFields.Field::dotted))
                .contains("name")
                .noneMatch(d -> d.contains("horizon"));
    }

    @ParameterizedTest
    @CsvSource({
        "focalLengthMm, focal length, mm",
        "blurFwhmArcsec, blur fwhm, ″",
        "cardGigabytes, card, GB",
        "pixelUm, pixel, µm",
        "readoutSeconds, readout, s",
        "skyMagPerArcsec2, sky, mag/arcsec²",
        "slewDegPerSecond, slew, °/s",
        "name, name, ''"
    })
    void unitsComeFromTheNames(String key, String words, String unit) {
        assertThat(ProfileFields.words(key)).isEqualTo(words);
        assertThat(ProfileFields.unit(key)).isEqualTo(unit);
    }

    /** What no file said can be said here, and taken back. */
    @Test
    void valuesThatWereLeftOutCanBeGivenAndTakenAway() throws IOException {
        ObjectNode tree = kit("heron");
        ProfileFields.Field gain = field(tree, "equipment.camera.gain");
        assertThat(gain.value()).isEmpty();
        ObjectNode set = ProfileFields.with(tree, gain, "120");
        set = ProfileFields.with(set, field(set, "equipment.camera.readoutMode"), "low noise");
        set = ProfileFields.with(set, field(set, "equipment.ownFlipDeg"), "2,5");
        set = ProfileFields.with(set, field(set, "equipment.cardGigabytes"), "32");
        Equipment told = KitFile.parse(JsonText.write(set), "heron").equipment();
        assertThat(told.cardGigabytes()).hasValue(32.0);
        assertThat(told.camera().words()).isEqualTo("gain 120, read-out low noise");
        assertThat(told.ownFlipDeg()).hasValue(2.5);
        ObjectNode cleared = ProfileFields.with(set, field(set, "equipment.camera.gain"), " ");
        assertThat(KitFile.parse(JsonText.write(cleared), "heron")
                        .equipment()
                        .camera()
                        .gain())
                .isEmpty();
        assertThatThrownBy(() -> ProfileFields.with(tree, gain, "high")).isInstanceOf(NumberFormatException.class);
    }

    @Test
    void numbersStayNumbers() throws IOException {
        ObjectNode tree = kit("wren");
        ProfileFields.Field focal = field(tree, "optics.focalLengthMm");
        ObjectNode longer = ProfileFields.with(tree, focal, " 510,5 ");
        assertThat(longer.at("/optics/focalLengthMm").doubleValue()).isEqualTo(510.5);
        assertThat(tree.at("/optics/focalLengthMm").doubleValue()).as("a copy").isEqualTo(432);
        assertThatThrownBy(() -> ProfileFields.with(tree, focal, "432 mm")).isInstanceOf(NumberFormatException.class);
        assertThatThrownBy(() -> ProfileFields.with(tree, focal, "")).isInstanceOf(NumberFormatException.class);
        ProfileFields.Field width = field(tree, "sensor.widthPx");
        assertThat(ProfileFields.with(tree, width, "3000").at("/sensor/widthPx").isIntegralNumber())
                .isTrue();
        assertThatThrownBy(() -> ProfileFields.with(tree, width, "wide")).isInstanceOf(NumberFormatException.class);
        assertThatThrownBy(() -> ProfileFields.with(tree, width, "99999999999"))
                .as("more than an integer holds")
                .isInstanceOf(NumberFormatException.class);
    }
}
