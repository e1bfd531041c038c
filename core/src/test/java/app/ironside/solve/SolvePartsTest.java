package app.ironside.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.Vectors;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The laws of the pieces that recognition is made of. */
class SolvePartsTest {
    private static final int WIDTH = 2800;
    private static final int HEIGHT = 2100;

    /** Law: distances and their ratios do not change when a figure is shifted, turned, scaled or mirrored. */
    @Test
    void aCodeStaysUnderShiftTurnScaleAndMirror() {
        Random random = new Random(1);
        for (int k = 0; k < 200; k++) {
            double[][] four = new double[4][];
            for (int i = 0; i < 4; i++) {
                four[i] = new double[] {1000 * random.nextDouble(), 1000 * random.nextDouble()};
            }
            double angle = 7 * random.nextDouble();
            double scale = 0.1 + random.nextDouble();
            int parity = random.nextBoolean() ? 1 : -1;
            double[][] moved = new double[4][];
            for (int i = 0; i < 4; i++) {
                // In another order too.
                double[] p = four[3 - i];
                moved[i] = new double[] {
                    50 + scale * (p[0] * Math.cos(angle) - parity * p[1] * Math.sin(angle)),
                    -20 + scale * (p[0] * Math.sin(angle) + parity * p[1] * Math.cos(angle))
                };
            }
            double[] before = new double[FourStars.LENGTH];
            double[] after = new double[FourStars.LENGTH];
            int[] order = {0, 1, 2, 3};
            int[] movedOrder = {0, 1, 2, 3};
            boolean usable = FourStars.code(order, (s, axis) -> four[s][axis], 2, before);
            assertThat(FourStars.code(movedOrder, (s, axis) -> moved[s][axis], 2, after))
                    .isEqualTo(usable);
            if (usable) {
                assertThat(after).containsExactly(before, within(1e-9));
                assertThat(Arrays.stream(movedOrder).map(i -> 3 - i).toArray())
                        .as("the same stars in the same places")
                        .containsExactly(order);
                assertThat(before).isSortedAccordingTo(Comparator.reverseOrder());
            }
        }
    }

    @Test
    void starsThatCoincideHaveNoCode() {
        double[][] four = {{0, 0}, {0.1, 0}, {100, 0}, {50, 80}};
        assertThat(FourStars.code(new int[] {0, 1, 2, 3}, (s, a) -> four[s][a], 2, new double[FourStars.LENGTH]))
                .isFalse();
    }

    /** The brightest 2,000 stars of the sky: as looking at every one finds them. */
    @Test
    void nearestNeighbours() {
        StarCatalogue catalogue = StarCatalogue.hipparcos();
        int[] bright = Arrays.copyOf(catalogue.brightestFirst(IntStream.range(0, catalogue.size())), 2000);
        double[][] vectors = Arrays.stream(bright)
                .mapToObj(i -> Vectors.of(catalogue.raDeg(i), catalogue.decDeg(i)))
                .toArray(double[][]::new);
        NearestStars nearest = new NearestStars(vectors);
        int complete = 0;
        for (int star = 0; star < 2000; star += 7) {
            int at = star;
            int[] found = new int[3];
            int n = nearest.nearest(star, found);
            int[] all = IntStream.range(0, 2000)
                    .filter(i -> i != at)
                    .boxed()
                    .sorted(Comparator.comparingDouble(i -> Vectors.angle(vectors[i], vectors[at])))
                    .limit(3)
                    .mapToInt(i -> i)
                    .toArray();
            // Only the neighbouring cubes are searched: what is found there comes in order.
            for (int k = 1; k < n; k++) {
                assertThat(Vectors.angle(vectors[found[k]], vectors[star]))
                        .isGreaterThanOrEqualTo(Vectors.angle(vectors[found[k - 1]], vectors[star]));
            }
            complete += n == 3 && Arrays.equals(found, all) ? 1 : 0;
        }
        assertThat(complete).isGreaterThan(280);
    }

    /** Inverse: what the distortion moved is moved back. Coefficients of the size that lenses have. */
    @ParameterizedTest
    @ValueSource(ints = {2, 3, 4})
    void distortionIsUndone(int order) {
        Random random = new Random(order);
        double[][] a = new double[order + 1][order + 1];
        double[][] b = new double[order + 1][order + 1];
        for (int p = 0; p <= order; p++) {
            for (int q = 0; p + q <= order; q++) {
                if (p + q >= 2) {
                    double size = 5 / Math.pow(1400, p + q);
                    a[p][q] = size * random.nextGaussian();
                    b[p][q] = size * random.nextGaussian();
                }
            }
        }
        Sip sip = new Sip(order, a, b, 1400, 1050);
        for (int k = 0; k < 100; k++) {
            double u = 2800 * random.nextDouble() - 1400;
            double v = 2100 * random.nextDouble() - 1050;
            double[] shift = sip.shift(u, v);
            double[] back = sip.undo(u + shift[0], v + shift[1]);
            assertThat(back[0]).isCloseTo(u, within(1e-6));
            assertThat(back[1]).isCloseTo(v, within(1e-6));
        }
        assertThat(sip.toHeader().values())
                .containsEntry("A_ORDER", (long) order)
                .containsKeys("AP_ORDER", "BP_ORDER");
    }

    private static List<WcsFit.Match> matches(Wcs wcs, int count, double noisePx, Random random) {
        List<WcsFit.Match> matches = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            double x = 1 + WIDTH * random.nextDouble();
            double y = 1 + HEIGHT * random.nextDouble();
            matches.add(new WcsFit.Match(
                    x + noisePx * random.nextGaussian(),
                    y + noisePx * random.nextGaussian(),
                    wcs.toSky(x, y),
                    Math.max(0.01, noisePx)));
        }
        return matches;
    }

    private static Wcs wcs() {
        return new Wcs(new Equatorial(36, 42.3), 1400.5, 1050.5, -8e-4, 2e-4, 2e-4, 8e-4);
    }

    @Test
    void anExactFitIsExact() {
        WcsFit.Result fit = WcsFit.fit(matches(wcs(), 30, 0, new Random(3)), WIDTH, HEIGHT, new Equatorial(36.2, 42.1))
                .orElseThrow();
        assertThat(fit.rmsArcsec()).isLessThan(1e-4);
        assertThat(fit.wcs().toSky(10, 2000).separationDeg(wcs().toSky(10, 2000)) * 3600)
                .isLessThan(1e-3);
        assertThat(fit.wcs().scaleArcsecPerPixel()).isCloseTo(3600 * Math.sqrt(64e-8 + 4e-8), within(1e-6));
    }

    /** Law: a fit of 6 parameters to n stars of σ px an axis leaves σ √2 √(1 − 3 / n). One star in ten is wrong by 40 px. */
    @Test
    void wrongMatchesAreDropped() {
        Random random = new Random(4);
        List<WcsFit.Match> matches = matches(wcs(), 60, 0.2, random);
        for (int i = 0; i < 60; i += 10) {
            WcsFit.Match m = matches.get(i);
            matches.set(i, new WcsFit.Match(m.x() + 40, m.y() - 25, m.sky(), m.sigmaPx()));
        }
        WcsFit.Result fit =
                WcsFit.fit(matches, WIDTH, HEIGHT, wcs().reference()).orElseThrow();
        assertThat(fit.used()).hasSizeBetween(50, 54);
        double sigma = 0.2 * Math.sqrt(2) * Math.sqrt(1 - 3 / 54.0) * wcs().scaleArcsecPerPixel();
        assertThat(fit.rmsArcsec()).isCloseTo(sigma, within(0.2 * sigma));
    }

    /** Noise alone is no distortion: of 40 frames without any, the test at 1 in 10,000 finds it in none. */
    @Test
    void noiseIsNoDistortion() {
        for (int seed = 0; seed < 40; seed++) {
            WcsFit.Result fit = WcsFit.refine(
                            matches(wcs(), 80, 0.3, new Random(seed)), WIDTH, HEIGHT, wcs().reference())
                    .orElseThrow();
            assertThat(fit.wcs().distortion()).isEmpty();
        }
    }

    @Test
    void threeStarsAndStarsInALineAreNotEnough() {
        List<WcsFit.Match> three = matches(wcs(), 3, 0, new Random(1));
        assertThat(WcsFit.fit(three, WIDTH, HEIGHT, wcs().reference())).isEmpty();
        List<WcsFit.Match> line = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            line.add(new WcsFit.Match(100 + 200 * i, 500, wcs().toSky(100 + 200 * i, 500), 0.1));
        }
        assertThat(WcsFit.fit(line, WIDTH, HEIGHT, wcs().reference())).isEmpty();
    }

    private static Star star(double x, double y, double flux) {
        return new Star(x, y, flux, flux / 6, 1.2, 2.4, 0.3, 0, 100, false, 10, Optional.empty());
    }

    private static StarField field(List<Star> stars) {
        return new StarField(
                WIDTH,
                HEIGHT,
                stars.stream()
                        .sorted(Comparator.comparingDouble(Star::fluxAdu).reversed())
                        .toList(),
                1000,
                10);
    }

    /** Two frames of one field, turned half round as by a flip and shifted, a fifth of the stars missing in each. */
    @Test
    void twoFramesOfOneFieldAreMatched() {
        Random random = new Random(12);
        List<Star> a = new ArrayList<>();
        List<Star> b = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            double x = WIDTH * random.nextDouble();
            double y = HEIGHT * random.nextDouble();
            double flux = 1000 * Math.pow(random.nextDouble(), -1);
            if (random.nextDouble() > 0.2) {
                a.add(star(x, y, flux));
            }
            if (random.nextDouble() > 0.2) {
                b.add(star(WIDTH + 31 - x + 0.1 * random.nextGaussian(), HEIGHT - 12 - y, flux * 0.9));
            }
        }
        List<FieldMatcher.Pair> pairs = FieldMatcher.match(field(a), field(b)).orElseThrow();
        assertThat(pairs).hasSizeGreaterThan(40);
        assertThat(pairs).allSatisfy(p -> {
            assertThat(p.b().x()).isCloseTo(WIDTH + 31 - p.a().x(), within(3.0));
            assertThat(p.b().y()).isCloseTo(HEIGHT - 12 - p.a().y(), within(3.0));
        });
    }

    @Test
    void twoFieldsThatDifferAreNotMatched() {
        Random random = new Random(13);
        List<Star> a = new ArrayList<>();
        List<Star> b = new ArrayList<>();
        for (int i = 0; i < 150; i++) {
            a.add(star(WIDTH * random.nextDouble(), HEIGHT * random.nextDouble(), 1e5 * random.nextDouble()));
            b.add(star(WIDTH * random.nextDouble(), HEIGHT * random.nextDouble(), 1e5 * random.nextDouble()));
        }
        assertThat(FieldMatcher.match(field(a), field(b))).isEmpty();
    }
}
