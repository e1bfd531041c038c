package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.ToDoubleBiFunction;
import org.junit.jupiter.api.Test;

/** Invented star lists whose sizes and shapes follow a known law, seed 4, with a scatter of 3 %. */
class FieldMapTest {
    private static final int WIDTH = 3000;
    private static final int HEIGHT = 2000;

    /** Stars with a size of place (u, v in half diagonals from the middle) and a shape. */
    private static StarField field(
            int count, ToDoubleBiFunction<Double, Double> size, ToDoubleBiFunction<Double, Double> angle, double axes) {
        Random random = new Random(4);
        double half = Math.hypot(WIDTH, HEIGHT) / 2;
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            double x = 1 + random.nextDouble() * (WIDTH - 1);
            double y = 1 + random.nextDouble() * (HEIGHT - 1);
            double u = (x - (WIDTH + 1) / 2.0) / half;
            double v = (y - (HEIGHT + 1) / 2.0) / half;
            double hfr = size.applyAsDouble(u, v) * (1 + 0.03 * random.nextGaussian());
            double ratio = Math.min(1, axes * (1 + 0.02 * random.nextGaussian()));
            stars.add(star(x, y, hfr, Math.sqrt(1 - ratio * ratio), angle.applyAsDouble(u, v)));
        }
        return field(WIDTH, HEIGHT, stars);
    }

    static Star star(double x, double y, double hfr, double eccentricity, double angle) {
        return new Star(x, y, 20_000, 2000, hfr, 2 * hfr, eccentricity, angle, 90, false, 100, Optional.empty());
    }

    static StarField field(int width, int height, List<Star> stars) {
        return new StarField(width, height, stars, 1000, 10);
    }

    private static double towardMiddle(double u, double v) {
        double a = Math.toDegrees(Math.atan2(v, u));
        return a > 90 ? a - 180 : a < -90 ? a + 180 : a;
    }

    /** Medians of 31 stars and more scatter by 1.25 × 0.06 / √31: three times that is 0.04. */
    @Test
    void aGoodFieldHasNothingToSay() {
        Random random = new Random(9);
        FieldMap map = FieldMap.of(field(400, (u, v) -> 2.0, (u, v) -> 180 * random.nextDouble() - 90, 0.93));
        assertThat(map.findings()).isEmpty();
        assertThat(map.zones()).hasSize(9).allMatch(z -> z.stars() > 20 && Math.abs(z.halfFluxRadiusPx() - 2) < 0.05);
    }

    /** Law: h = 2 (1 + 0.2 u + 0.15 v), so the growth is the root of the squares, 25 %, toward atan(0.15 / 0.2) = 36.9°. */
    @Test
    void tiltIsFoundWithItsSide() {
        Random random = new Random(9);
        FieldMap map = FieldMap.of(
                field(400, (u, v) -> 2 * (1 + 0.2 * u + 0.15 * v), (u, v) -> 180 * random.nextDouble() - 90, 0.93));
        assertThat(map.tiltShare()).isCloseTo(0.25, within(0.02));
        assertThat(map.tiltTowardDeg()).isCloseTo(36.9, within(5.0));
        assertThat(map.findings()).extracting(FieldMap.Finding::kind).containsExactly(FieldMap.Kind.TILTED);
        assertThat(map.findings().get(0).sentence())
                .contains("toward the upper right")
                .contains("tilted");
    }

    @Test
    void aCurvedFieldIsToldFromSpacing() {
        Random random = new Random(9);
        FieldMap curved = FieldMap.of(
                field(400, (u, v) -> 2 * (1 + 0.4 * (u * u + v * v)), (u, v) -> 180 * random.nextDouble() - 90, 0.93));
        assertThat(curved.curvatureShare()).isCloseTo(0.4, within(0.03));
        assertThat(curved.findings()).extracting(FieldMap.Finding::kind).containsExactly(FieldMap.Kind.CURVED);
        assertThat(curved.findings().get(0).sentence()).contains("a curved field");
        FieldMap spacing =
                FieldMap.of(field(400, (u, v) -> 2 * (1 + 0.4 * (u * u + v * v)), FieldMapTest::towardMiddle, 0.8));
        // A frame wider than high shares some of it as one direction.
        assertThat(spacing.radialShare()).isCloseTo(0.2, within(0.06));
        assertThat(spacing.findings().get(0).sentence()).contains("point to the middle");
    }

    /** One star in twelve, all at the top, is a blend five times as large. */
    @Test
    void blendsAreNoTilt() {
        Random random = new Random(9);
        FieldMap map = FieldMap.of(field(
                600,
                (u, v) -> v > 0.2 && random.nextInt(4) == 0 ? 10.0 : 2.0,
                (u, v) -> 180 * random.nextDouble() - 90,
                0.93));
        assertThat(map.findings()).isEmpty();
    }

    @Test
    void trailingIsTheSameEverywhere() {
        FieldMap map = FieldMap.of(field(400, (u, v) -> 2.0, (u, v) -> 30.0, 0.7));
        assertThat(map.trailing()).isCloseTo(0.3, within(0.02));
        assertThat(map.trailingAngleDeg()).isCloseTo(30, within(1.0));
        assertThat(map.findings()).extracting(FieldMap.Finding::kind).containsExactly(FieldMap.Kind.TRAILED);
        // By hand: 1 − 0.7 = 0.3, so the long axis is 0.3 / 0.7 = 43 % longer.
        assertThat(map.findings().get(0).sentence()).startsWith("Stars are 43 % longer than wide at 30°");
    }

    @Test
    void tooFewStarsAreNamed() {
        assertThat(FieldMap.of(field(7, (u, v) -> 2.0, (u, v) -> 0.0, 0.9))
                        .findings()
                        .get(0)
                        .sentence())
                .isEqualTo("Only 7 good stars: 20 are needed to map the field. Expose longer.");
    }
}
