package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.function.DoubleBinaryOperator;
import org.junit.jupiter.api.Test;

/** Stars are put down by a law for size and shape; the surface gives it back between them. */
class ShapeSurfaceTest {
    private static final int WIDTH = 3000;
    private static final int HEIGHT = 2000;

    private static StarField field(
            int count, DoubleBinaryOperator size, double eccentricity, double angle, double scatter) {
        Random random = new Random(4);
        List<Star> stars = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            double x = 1 + (WIDTH - 1) * random.nextDouble();
            double y = 1 + (HEIGHT - 1) * random.nextDouble();
            double hfr = size.applyAsDouble(x, y) * (1 + scatter * random.nextGaussian());
            stars.add(FieldMapTest.star(x, y, i % 40 == 0 ? 5 * hfr : hfr, eccentricity, angle));
        }
        return FieldMapTest.field(WIDTH, HEIGHT, stars);
    }

    /** A tilt is linear, which a symmetric bell gives back exactly, but for the edges, where it sees one side only. */
    @Test
    void aTiltRisesEvenlyAndOutliersDoNotShow() {
        ShapeSurface surface = ShapeSurface.of(field(900, (x, y) -> 2 + 0.6 * x / WIDTH, 0, 0, 0.03));
        int row = surface.rows() / 2;
        for (int column = 4; column < surface.columns() - 4; column++) {
            double expected = 2 + 0.6 * column / (surface.columns() - 1);
            assertThat(surface.at(column, row).orElseThrow().halfFluxRadiusPx()).isCloseTo(expected, within(0.05));
        }
        assertThat(surface.leastPx().orElseThrow()).isBetween(1.95, 2.2);
    }

    /** b/a = 0.8 at 30° everywhere. */
    @Test
    void whatAllStarsShareIsTheSameEverywhere() {
        ShapeSurface surface = ShapeSurface.of(field(600, (x, y) -> 2, 0.6, 30, 0));
        for (int column = 0; column < surface.columns(); column += 6) {
            ShapeSurface.Shape shape = surface.at(column, surface.rows() / 2).orElseThrow();
            assertThat(shape.elongation()).isCloseTo(0.2, within(1e-9));
            assertThat(shape.angleDeg()).isCloseTo(30, within(1e-9));
        }
    }

    @Test
    void whereThereAreNoStarsNothingIsSaid() {
        assertThat(ShapeSurface.of(FieldMapTest.field(WIDTH, HEIGHT, List.of())).leastPx())
                .isEmpty();
        List<Star> corner = new ArrayList<>();
        for (int i = 0; i < 30; i++) {
            corner.add(FieldMapTest.star(100 + i, 100 + 2 * i, 2, 0, 0));
        }
        ShapeSurface surface = ShapeSurface.of(FieldMapTest.field(WIDTH, HEIGHT, corner));
        assertThat(surface.at(0, 0)).isPresent();
        assertThat(surface.at(surface.columns() - 1, surface.rows() - 1)).isEmpty();
    }

    @Test
    void aTallFrameIsMappedTall() {
        ShapeSurface surface = ShapeSurface.of(FieldMapTest.field(1000, 1500, List.of()));
        assertThat(surface.rows()).isEqualTo(25);
        assertThat(surface.columns()).isEqualTo(16);
    }
}
