package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.image.Statistics;
import app.ironside.image.Stretch;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.NoSolution;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.SolveHints;
import java.util.Arrays;
import java.util.Random;
import java.util.function.IntToDoubleFunction;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What a camera, a program or a broken file may hand over: measuring ends, and gives stars that can be, or none. */
class HostileFramesTest {
    private static final StarFinder FINDER = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL);
    private static final PlateSolver SOLVER = new PlateSolver(StarCatalogue.hipparcos(), Workers.SERIAL);

    private static Frame frame(int width, int height, IntToDoubleFunction pixel) {
        float[] pixels = new float[width * height];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) pixel.applyAsDouble(i);
        }
        return new Frame(width, height, pixels, Header.EMPTY);
    }

    private static IntToDoubleFunction noise(double level, double sigma) {
        Random random = new Random(4);
        return i -> level + sigma * random.nextGaussian();
    }

    private static Stream<Arguments> frames() {
        Random random = new Random(9);
        return Stream.of(
                Arguments.of("a single pixel", frame(1, 1, i -> 7)),
                Arguments.of("one row", frame(900, 1, noise(1000, 10))),
                Arguments.of("one column", frame(1, 900, noise(1000, 10))),
                Arguments.of("three by three", frame(3, 3, noise(1000, 10))),
                Arguments.of("all black", frame(200, 150, i -> 0)),
                Arguments.of("all saturated", frame(200, 150, i -> 65_535)),
                Arguments.of("all without value", frame(200, 150, i -> Double.NaN)),
                Arguments.of("all infinite", frame(200, 150, i -> Double.POSITIVE_INFINITY)),
                Arguments.of(
                        "infinities in noise",
                        frame(
                                200,
                                150,
                                i -> i % 997 == 0
                                        ? Double.POSITIVE_INFINITY
                                        : i % 991 == 0 ? Double.NEGATIVE_INFINITY : 1000 + 10 * random.nextGaussian())),
                Arguments.of(
                        "the largest numbers", frame(200, 150, i -> i % 2 == 0 ? Float.MAX_VALUE : -Float.MAX_VALUE)),
                Arguments.of("the smallest numbers", frame(200, 150, i -> i % 7 * Float.MIN_VALUE)),
                Arguments.of("far below zero", frame(200, 150, noise(-1e6, 10))),
                Arguments.of("a chessboard", frame(200, 150, i -> (i % 200 + i / 200) % 2 * 4000)),
                Arguments.of("stripes", frame(200, 150, i -> i / 200 % 2 * 4000)),
                Arguments.of("half without value", frame(200, 150, i -> i % 200 < 100 ? Double.NaN : 1000 + i % 13)),
                Arguments.of("a steep slope", frame(200, 150, i -> 300.0 * (i % 200))),
                Arguments.of("random bits", frame(200, 150, i -> Float.intBitsToFloat(random.nextInt()))));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("frames")
    void measuringEndsAndEveryStarCanBe(String what, Frame frame) {
        float[] before = frame.pixels().clone();
        StarField field = FINDER.find(frame);
        assertThat(field.stars()).allSatisfy(s -> {
            assertThat(s.x()).isBetween(0.5, frame.width() + 0.5);
            assertThat(s.y()).isBetween(0.5, frame.height() + 0.5);
            assertThat(s.fluxAdu()).isPositive().isFinite();
            assertThat(s.halfFluxRadiusPx()).isFinite();
            assertThat(s.eccentricity()).isBetween(0.0, 1.0);
        });
        assertThat(Arrays.equals(before, frame.pixels()))
                .as("the frame is not touched")
                .isTrue();
        FieldMap.of(field);
        Stretch stretch = Stretch.automatic(frame);
        assertThat(stretch.apply(1000)).isBetween(0.0, 1.0);
        assertThat(Statistics.sample(frame, 500)).doesNotContain(Float.NaN);
    }

    /** None of them is taken for the sky, with hints or without. */
    @ParameterizedTest(name = "{0}")
    @MethodSource("frames")
    void noneIsTakenForTheSky(String what, Frame frame) {
        StarField field = FINDER.find(frame);
        SolveHints near = SolveHints.NONE
                .withNear(new Equatorial(35, 40), 2)
                .withScale(3, 0.05)
                .nearOnly();
        assertThat(SOLVER.solve(field, near)).isInstanceOf(NoSolution.class);
        assertThat(((NoSolution) SOLVER.solve(field, near)).reason()).isNotBlank();
    }

    /** Of even noise of any size and level nothing stands out: at five sigma less than one dot in ten thousand pixels would be too many. */
    @ParameterizedTest
    @CsvSource({
        "64, 64, 0, 1",
        "257, 131, 1000, 12",
        "1000, 700, 30000, 173",
        "2000, 20, 500, 3",
        "100, 100, 0.001, 0.0001"
    })
    void noiseHasNoStars(int width, int height, double level, double sigma) {
        StarField field = FINDER.find(frame(width, height, noise(level, sigma)));
        assertThat(field.stars()).hasSizeLessThanOrEqualTo(Math.max(1, width * height / 100_000));
        assertThat(field.backgroundAdu()).isBetween(level - sigma, level + sigma);
        assertThat(field.noiseAdu()).isBetween(0.8 * sigma, 1.25 * sigma);
    }

    /** Law: whoever does the work, the stars are the same, in the same order. */
    @Test
    void coresDoNotMatter() {
        Random random = new Random(3);
        Frame frame = frame(600, 400, i -> {
            int column = i % 600;
            int row = i / 600;
            double light = 0;
            for (int k = 0; k < 40; k++) {
                double dx = column - (37 * k) % 590 - 5;
                double dy = row - (61 * k) % 390 - 5;
                light += dx * dx + dy * dy < 100 ? 3000 * Math.exp(-(dx * dx + dy * dy) / 5) : 0;
            }
            return 500 + light + 8 * random.nextGaussian();
        });
        StarField one = FINDER.find(frame);
        StarField many = new StarFinder(DetectSettings.DEFAULT, Workers.ALL_CORES).find(frame);
        assertThat(one.stars()).hasSizeGreaterThan(30);
        assertThat(many).isEqualTo(one);
    }
}
