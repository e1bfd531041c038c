package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.image.Header;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalDouble;
import org.junit.jupiter.api.Test;

/** Laws of a kit's sharpest stars. */
class SharpStarsTest {
    /** Forty subs at 15 °C of 1.50 to 1.89 px, twenty at 2 °C of 2.00 to 2.19 px, three at −10 °C. */
    private static SharpStars record() {
        List<SharpStars.Seen> seen = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            seen.add(new SharpStars.Seen(1.5 + 0.01 * i, OptionalDouble.of(15)));
        }
        for (int i = 0; i < 20; i++) {
            seen.add(new SharpStars.Seen(2 + 0.01 * i, OptionalDouble.of(2)));
        }
        for (int i = 0; i < 3; i++) {
            seen.add(new SharpStars.Seen(1, OptionalDouble.of(-10)));
        }
        seen.add(new SharpStars.Seen(0.9, OptionalDouble.empty()));
        seen.sort(Comparator.comparingDouble(SharpStars.Seen::radiusPx));
        return new SharpStars(seen);
    }

    /** One in twenty is luck: of forty the third, of twenty the second. */
    @Test
    void theBestAboutATemperature() {
        assertThat(record().bestAbout(13).orElseThrow()).isEqualTo(1.52);
        assertThat(record().bestAbout(4).orElseThrow()).isEqualTo(2.01);
        assertThat(record().bestAbout(-10)).as("three subs tell nothing").isEmpty();
        assertThat(record().best().orElseThrow()).isEqualTo(1.0);
        assertThat(SharpStars.NONE.best()).isEmpty();
    }

    @Test
    void aCamerasOwnTemperatureIsNoTubes() {
        assertThat(SharpStars.tubeC(Header.EMPTY.with("CCD-TEMP", -10.0))).isEmpty();
        assertThat(SharpStars.tubeC(Header.EMPTY.with("AMBTEMP", 3.5).with("CCD-TEMP", -10.0)))
                .hasValue(3.5);
        assertThat(SharpStars.tubeC(Header.EMPTY.with("FOCTEMP", 2.0).with("AMBTEMP", 3.5)))
                .hasValue(2.0);
    }
}
