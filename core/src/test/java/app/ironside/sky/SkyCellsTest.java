package app.ironside.sky;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A circle of stars found by cells against one found by looking at every star. */
class SkyCellsTest {
    private static final StarCatalogue STARS = StarCatalogue.hipparcos();

    @ParameterizedTest
    @CsvSource({
        "0, 0, 3",
        "359.99, 12, 2.5",
        "0.01, -45, 7",
        "180, 89.9, 1.2",
        "77, 88, 5",
        "300, -90, 0.7",
        "210, -84, 9",
        "120, 60, 60",
        "120, 60, 180",
        "45, 30, 0.01"
    })
    void noStarIsLeftOutAndNoneIsAdded(double ra, double dec, double radius) {
        Equatorial centre = new Equatorial(ra, dec);
        int[] found = STARS.indicesWithin(centre, radius);
        int[] all = IntStream.range(0, STARS.size())
                .filter(i -> new Equatorial(STARS.raDeg(i), STARS.decDeg(i)).separationDeg(centre) <= radius)
                .toArray();
        int[] sorted = found.clone();
        Arrays.sort(sorted);
        assertThat(sorted).containsExactly(all);
        for (int k = 1; k < found.length; k++) {
            assertThat(STARS.magnitude(found[k])).isGreaterThanOrEqualTo(STARS.magnitude(found[k - 1]) - 1e-3);
        }
    }

    @ParameterizedTest
    @CsvSource({"40"})
    void anywhere(int circles) {
        Random random = new Random(8);
        for (int k = 0; k < circles; k++) {
            noStarIsLeftOutAndNoneIsAdded(
                    360 * random.nextDouble(),
                    Math.toDegrees(Math.asin(2 * random.nextDouble() - 1)),
                    0.2 + 4 * random.nextDouble());
        }
    }
}
