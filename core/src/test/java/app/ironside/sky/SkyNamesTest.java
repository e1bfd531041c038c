package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What people type for a place. M 33's place is that of the NASA/IPAC Extragalactic Database, from memory. */
class SkyNamesTest {
    private static final SkyNames NAMES =
            new SkyNames(DeepSkyCatalogue.load(), NamedStar.of(StarCatalogue.hipparcos()));

    @ParameterizedTest
    @ValueSource(
            strings = {
                "M 33",
                "ngc598",
                "Triangulum",
                "01 33 50.9 +30 39 36",
                "01:33:50.9 +30:39:36",
                "1h33m50.9s, +30°39′36″",
                "23.4621 30.6602"
            })
    void oneGalaxyInManyWords(String typed) {
        SkyNames.Place place = NAMES.find(typed).orElseThrow();
        assertThat(place.position().raDeg()).isCloseTo(23.462, within(0.01));
        assertThat(place.position().decDeg()).isCloseTo(30.660, within(0.01));
    }

    @Test
    void starsHaveNames() {
        // Hipparcos: 18h36m56s, +38°47′
        SkyNames.Place vega = NAMES.find("vega").orElseThrow();
        assertThat(vega.position().raDeg()).isCloseTo(279.234, within(0.01));
        assertThat(vega.object()).isEmpty();
        assertThat(NAMES.find("veg").orElseThrow().name()).isEqualTo("Vega");
    }

    @Test
    void whatBeginsWithItComesFirstThenTheBrightest() {
        List<SkyNames.Place> some = NAMES.like("ngc 28", 4);
        assertThat(some).hasSize(4).allMatch(p -> p.name().startsWith("NGC"));
        assertThat(NAMES.like("2", 5)).isEmpty();
        assertThat(NAMES.find("no such thing anywhere")).isEmpty();
    }

    @Test
    void southOfTheEquatorTheSignIsKeptAtZero() {
        assertThat(NAMES.find("00 47 33 -00 17 20").orElseThrow().position().decDeg())
                .isCloseTo(-0.2889, within(1e-4));
        assertThat(NAMES.find("12 00 00 +91 00 00")).isEmpty();
        assertThat(NAMES.find("25 00 00 +10 00 00")).isEmpty();
        assertThat(NAMES.find("x01 33 51 y30 39 37")).isEmpty();
        assertThat(NAMES.find("01 33 51 −30 39 37").orElseThrow().position().decDeg())
                .isNegative();
    }

    @ParameterizedTest
    @CsvSource({
        "45.2042, 45.2042",
        "45° 12′ 15″ N, 45.20417",
        "45 12.25, 45.20417",
        "S 33:51, -33.85",
        "-33 51, -33.85",
        "7°40'12\" W, -7.67",
        "'45,2042', 45.2042"
    })
    void latitudesAsTheyAreWritten(String text, double deg) {
        assertThat(Sexagesimal.degrees(text).orElseThrow()).isCloseTo(deg, within(1e-5));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "north", "a45", "x5 10", "/45", "45 72", "N 45 S", "45.5 30", "45 12 75"})
    void whatIsNoAngle(String text) {
        assertThat(Sexagesimal.degrees(text)).isEmpty();
    }
}
