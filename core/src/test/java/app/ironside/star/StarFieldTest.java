package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Which stars a field is judged by; by hand. */
class StarFieldTest {
    private static Star star(double hfr, double snr, boolean saturated, Optional<Moffat> profile) {
        return new Star(10, 10, 1000, 300, hfr, 2 * hfr, 0.3, 0, snr, saturated, 10, profile);
    }

    private static StarField field(List<Star> stars) {
        return new StarField(100, 100, stars, 900, 12);
    }

    private static List<Star> bright(int count) {
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            stars.add(star(2 + 0.1 * i, 50, false, Optional.empty()));
        }
        return stars;
    }

    /** Eight bright ones of 2.0 to 2.7 px: the median is 2.35, whatever the faint and the saturated ones are. */
    @Test
    void brightStarsAreJudgedIfThereAreEnough() {
        List<Star> stars = bright(8);
        stars.add(star(9, 200, true, Optional.empty()));
        stars.add(star(7, 8, false, Optional.empty()));
        assertThat(field(stars).good()).hasSize(8);
        assertThat(field(stars).medianHalfFluxRadiusPx().orElseThrow()).isBetween(2.3499, 2.3501);
        assertThat(field(stars).medianFwhmPx().orElseThrow()).isBetween(4.6999, 4.7001);
    }

    @Test
    void ofFewBrightOnesTheFaintHelp() {
        List<Star> stars = bright(2);
        stars.add(star(5, 8, false, Optional.empty()));
        stars.add(star(9, 200, true, Optional.empty()));
        assertThat(field(stars).good()).hasSize(3);
        assertThat(field(stars).medianHalfFluxRadiusPx()).hasValue(2.1);
    }

    @Test
    void withoutStarsThereIsNoWidth() {
        StarField onlySaturated = field(List.of(star(9, 200, true, Optional.empty())));
        for (StarField none : new StarField[] {field(List.of()), onlySaturated}) {
            assertThat(none.medianHalfFluxRadiusPx()).isEmpty();
            assertThat(none.medianFwhmPx()).isEmpty();
            assertThat(none.medianEccentricity()).isEmpty();
            assertThat(none.medianProfileFwhmPx()).isEmpty();
        }
    }

    @Test
    void theListIsACopy() {
        List<Star> stars = bright(3);
        StarField field = field(stars);
        stars.clear();
        assertThat(field.stars()).hasSize(3);
    }
}
