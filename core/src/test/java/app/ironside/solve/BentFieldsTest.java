package app.ironside.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Frames of a lens that bends its field, by a general-purpose library (tools/reference-bend.py). */
class BentFieldsTest {
    private static final int WIDTH = 2400;
    private static final int HEIGHT = 1600;
    private static final double CENTROID_PX = 0.03;

    private static List<double[]> stars() throws IOException {
        try (InputStream in = BentFieldsTest.class.getResourceAsStream("bent-fields.csv")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(l -> !l.startsWith("#"))
                    .map(l -> java.util.Arrays.stream(l.split(","))
                            .mapToDouble(Double::parseDouble)
                            .toArray())
                    .toList();
        }
    }

    private static Star star(double x, double y, double flux) {
        return new Star(x, y, flux, flux / 8, 1.6, 2.6, 0.2, 0, flux / 40, false, 20, Optional.empty());
    }

    /** @param column of the place */
    private static StarField field(List<double[]> all, int column, long seed) {
        Random random = new Random(seed);
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            double[] at = all.get(i);
            stars.add(star(
                    at[column] + CENTROID_PX * random.nextGaussian(),
                    at[column + 1] + CENTROID_PX * random.nextGaussian(),
                    60_000 * Math.exp(-i / 60.0)));
        }
        return new StarField(WIDTH, HEIGHT, stars, 1000, 12);
    }

    private static double worst(PlaneTransform t, List<double[]> all) {
        return all.stream()
                .mapToDouble(s -> Math.hypot(t.x(s[0], s[1]) - s[2], t.y(s[0], s[1]) - s[3]))
                .max()
                .orElseThrow();
    }

    /** No shift, turn and scale puts the corners within pixels; with the bend every star is where the library says, within 0.03 px in the mean. */
    @Test
    void aBentFieldIsLaidWithinThreeHundredthsOfAPixel() throws IOException {
        List<double[]> all = stars();
        StarField first = field(all, 0, 1);
        StarField second = field(all, 2, 2);
        PlaneTransform flat = Registration.of(first, second).orElseThrow().transform();
        assertThat(worst(flat, all)).isGreaterThan(1.5);
        Registration found = Registration.ofBentFields(first, second).orElseThrow();
        assertThat(found.transform().bend()).isPresent();
        assertThat(found.pairs()).isGreaterThan(all.size() * 9 / 10);
        double squares = all.stream()
                .mapToDouble(s -> Math.pow(found.transform().x(s[0], s[1]) - s[2], 2)
                        + Math.pow(found.transform().y(s[0], s[1]) - s[3], 2))
                .sum();
        assertThat(Math.sqrt(squares / all.size())).isLessThan(0.03);
        assertThat(worst(found.transform(), all)).isLessThan(0.1);
    }

    /** The way back is the way there. */
    @Test
    void aPlaceComesBackToWhereItWas() throws IOException {
        List<double[]> all = stars();
        PlaneTransform t = Registration.ofBentFields(field(all, 0, 1), field(all, 2, 2))
                .orElseThrow()
                .transform();
        PlaneTransform inverse = t.inverse();
        double[] back = new double[2];
        for (double[] s : all) {
            t.back(inverse, t.x(s[0], s[1]), t.y(s[0], s[1]), back);
            assertThat(back[0]).isCloseTo(s[0], within(1e-3));
            assertThat(back[1]).isCloseTo(s[1], within(1e-3));
            PlaneTransform finer = t.finer(2);
            assertThat(finer.x(2 * s[0] - 0.5, 2 * s[1] - 0.5)).isCloseTo(t.x(s[0], s[1]), within(1e-9));
            assertThat(finer.y(2 * s[0] - 0.5, 2 * s[1] - 0.5)).isCloseTo(t.y(s[0], s[1]), within(1e-9));
        }
    }

    /** Twenty pairs of frames that only shift and turn: none is called bent. */
    @Test
    void whatOnlyShiftsIsNotCalledBent() {
        for (int seed = 0; seed < 20; seed++) {
            Random random = new Random(seed);
            double c = Math.cos(0.02 * seed);
            double s = Math.sin(0.02 * seed);
            List<double[]> all = new ArrayList<>();
            for (int i = 0; i < 220; i++) {
                double x = random.nextDouble() * WIDTH;
                double y = random.nextDouble() * HEIGHT;
                all.add(new double[] {x, y, c * x - s * y + 30, s * x + c * y - 12});
            }
            Registration found = Registration.ofBentFields(field(all, 0, 100 + seed), field(all, 2, 200 + seed))
                    .orElseThrow();
            assertThat(found.transform().bend()).as("seed %d", seed).isEmpty();
        }
    }
}
