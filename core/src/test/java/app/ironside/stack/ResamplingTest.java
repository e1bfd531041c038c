package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.solve.PlaneTransform;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Between pixels, and from one frame's pixels to another's. */
class ResamplingTest {
    private static final int SIZE = 24;

    private static float[] even(float value) {
        float[] band = new float[SIZE * SIZE];
        Arrays.fill(band, value);
        return band;
    }

    private static float at(float[] band, double column, double row) {
        return Lanczos.at(band, SIZE, SIZE, column, row);
    }

    @Test
    void onAPixelItIsThePixel() {
        Random random = new Random(1);
        float[] band = even(0);
        for (int i = 0; i < band.length; i++) {
            band[i] = random.nextFloat();
        }
        for (int row = 3; row < 20; row++) {
            for (int column = 3; column < 20; column++) {
                assertThat(at(band, column, row)).isCloseTo(band[row * SIZE + column], within(1e-6f));
            }
        }
    }

    @ParameterizedTest
    @CsvSource({"7.1, 9.9", "10.5, 10.5", "12.25, 4.75", "8.999, 8.001"})
    void anEvenSkyStaysEven(double column, double row) {
        assertThat(at(even(500), column, row)).isCloseTo(500, within(1e-3f));
    }

    /** A slope is kept; three lobes leave a ripple of under one percent of a step. */
    @ParameterizedTest
    @CsvSource({"7.1, 9.9", "10.5, 10.5", "12.25, 4.75"})
    void aSlopeStaysASlope(double column, double row) {
        float[] band = even(0);
        for (int i = 0; i < band.length; i++) {
            band[i] = 3 * (i % SIZE) + 2 * (i / SIZE);
        }
        assertThat(at(band, column, row)).isCloseTo((float) (3 * column + 2 * row), within(0.05f));
    }

    /**
     * Published: the kernel sin(πt) sin(πt/3) 3 / (πt)² (Duchon 1979). By hand: 0.6079, −0.1351 and 0.0243 at 0.5, 1.5 and 2.5, which
     * sum to 0.9942 on both sides; half way between two pixels one of them weighs 0.6079 / 0.9942 = 0.6114, on two axes its square.
     */
    @Test
    void halfWayFromASinglePixel() {
        float[] band = even(0);
        band[10 * SIZE + 10] = 1;
        assertThat(at(band, 10.5, 10)).isCloseTo(0.6114f, within(2e-4f));
        assertThat(at(band, 10.5, 10.5)).isCloseTo(0.6114f * 0.6114f, within(2e-4f));
        // The second lobe is negative; where nothing around is below zero it is held there.
        assertThat(at(band, 13.5, 10)).isEqualTo(0f);
    }

    /** By hand: beside a star of 1000 the lobe would fall to −135; it is held to a tenth of the range below the darkest around. */
    @Test
    void noDarkRingsArise() {
        float[] band = even(0);
        band[10 * SIZE + 10] = 1000;
        assertThat(at(band, 11.5, 10)).isEqualTo(-100f);
    }

    @Test
    void aMissingPixelOrTheEdgeGivesNoValue() {
        float[] band = even(5);
        band[10 * SIZE + 10] = Float.NaN;
        assertThat(at(band, 10.2, 10.2)).isNaN();
        assertThat(at(band, 12.9, 8.1)).isNaN();
        assertThat(at(band, 13.2, 10.2)).isEqualTo(5f);
        assertThat(at(even(5), 1.9, 10)).isNaN();
        assertThat(at(even(5), 2, 10)).isEqualTo(5f);
        assertThat(at(even(5), 20.9, 10)).isEqualTo(5f);
        assertThat(at(even(5), 21, 10)).isNaN();
        assertThat(at(even(5), 10, -0.5)).isNaN();
    }

    /** A star of 2.4 px width, moved by half a pixel on both axes, keeps its light and its width. */
    @Test
    void aMovedStarStaysAsNarrow() {
        double sigma = 2.4 / 2.3548;
        float[] band = even(0);
        for (int i = 0; i < band.length; i++) {
            double dx = i % SIZE - 11.5;
            double dy = i / SIZE - 11.5;
            band[i] = (float) Math.exp(-0.5 * (dx * dx + dy * dy) / sigma / sigma);
        }
        double light = 0;
        double moment = 0;
        double before = 0;
        double beforeMoment = 0;
        for (int row = 4; row < 20; row++) {
            for (int column = 4; column < 20; column++) {
                double v = at(band, column + 0.5, row + 0.5);
                light += v;
                moment += v * (Math.pow(column + 0.5 - 11.5, 2) + Math.pow(row + 0.5 - 11.5, 2));
                double b = band[row * SIZE + column];
                before += b;
                beforeMoment += b * (Math.pow(column - 11.5, 2) + Math.pow(row - 11.5, 2));
            }
        }
        assertThat(light).isCloseTo(before, within(0.02 * before));
        assertThat(Math.sqrt(moment / light)).isCloseTo(Math.sqrt(beforeMoment / before), within(0.06));
    }

    @ParameterizedTest
    @CsvSource({"0, 1", "30, 1", "-120, 1.2", "180, 1", "90, 0.5"})
    void aTurnIsFoundInItsMatrix(double turn, double scale) {
        double c = scale * Math.cos(Math.toRadians(turn));
        double s = scale * Math.sin(Math.toRadians(turn));
        PlaneTransform transform = new PlaneTransform(c, -s, 40, s, c, -7);
        assertThat(Math.cos(Math.toRadians(transform.turnDeg() - turn))).isCloseTo(1, within(1e-12));
        // By hand: (1, 0) is turned to (cos, sin), then moved.
        assertThat(transform.x(1, 0)).isCloseTo(c + 40, within(1e-12));
        assertThat(transform.y(1, 0)).isCloseTo(s - 7, within(1e-12));
    }

    @Test
    void identityLeavesAllInItsPlace() {
        assertThat(PlaneTransform.IDENTITY.x(12.5, 8)).isEqualTo(12.5);
        assertThat(PlaneTransform.IDENTITY.y(12.5, 8)).isEqualTo(8);
        assertThat(PlaneTransform.IDENTITY.turnDeg()).isZero();
    }
}
