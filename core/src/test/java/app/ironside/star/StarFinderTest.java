package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Workers;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.Comparator;
import java.util.Optional;
import java.util.Random;
import org.hipparchus.special.Erf;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Invented Gaussian stars, integrated over the pixels exactly, on a sloping background with noise. */
class StarFinderTest {
    private static final int SIZE = 400;
    private static final double NOISE = 8;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL);

    private static float[] background(long seed) {
        Random random = new Random(seed);
        float[] pixels = new float[SIZE * SIZE];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (1000 + 0.2 * (i % SIZE) + NOISE * random.nextGaussian());
        }
        return pixels;
    }

    /** Adds a star at FITS (x, y), turned by an angle only if it is round in effect: widths along x and y. */
    private static void add(float[] pixels, double x, double y, double flux, double sigmaX, double sigmaY) {
        for (int row = (int) y - 40; row < y + 40; row++) {
            for (int column = (int) x - 40; column < x + 40; column++) {
                if (row >= 0 && column >= 0 && row < SIZE && column < SIZE) {
                    double share = slice(column + 1 - x, sigmaX) * slice(row + 1 - y, sigmaY);
                    pixels[row * SIZE + column] += (float) (flux * share);
                }
            }
        }
    }

    /** Integral of a unit Gaussian over a pixel. */
    private static double slice(double distance, double sigma) {
        double s = sigma * Math.sqrt(2);
        return 0.5 * (Erf.erf((distance + 0.5) / s) - Erf.erf((distance - 0.5) / s));
    }

    private StarField find(float[] pixels) {
        return finder.find(new Frame(SIZE, SIZE, pixels, Header.EMPTY));
    }

    private static Optional<Star> near(StarField field, double x, double y) {
        return field.stars().stream()
                .filter(s -> Math.hypot(s.x() - x, s.y() - y) < 1.5)
                .min(Comparator.comparingDouble(s -> Math.hypot(s.x() - x, s.y() - y)));
    }

    /**
     * Law: a Gaussian holds half its flux within 1.1774 σ (and its width at half height is twice that); pixels add 1/12 px² to
     * σ². Tolerance 3 %, for the finite pixels of the smallest star.
     */
    @ParameterizedTest
    @ValueSource(doubles = {0.9, 1.5, 3, 5})
    void halfFluxRadiusAndWidthOfAGaussian(double sigma) {
        float[] pixels = background(1);
        for (int i = 0; i < 16; i++) {
            add(pixels, 50.3 + 90 * (i % 4), 60.7 + 85 * (i / 4.0), 150_000, sigma, sigma);
        }
        StarField field = find(pixels);
        double wide = Math.sqrt(sigma * sigma + 1 / 12.0);
        assertThat(field.stars()).hasSize(16);
        assertThat(field.medianHalfFluxRadiusPx().orElseThrow()).isCloseTo(1.1774 * wide, within(0.03 * 1.1774 * wide));
        assertThat(field.medianFwhmPx().orElseThrow()).isCloseTo(2.3548 * wide, within(0.04 * 2.3548 * wide));
        assertThat(field.medianEccentricity().orElseThrow()).isLessThan(0.25);
    }

    /** Published: King 1983, PASP 95, 163: a centroid under background noise errs by σ_c = √(8π) σ² B / F a axis for a matched Gaussian. */
    @Test
    void centroidsAreNearTheNoiseLimit() {
        double sigma = 1.5;
        double flux = 6000;
        double squares = 0;
        int n = 0;
        for (int seed = 0; seed < 12; seed++) {
            float[] pixels = background(100 + seed);
            Random random = new Random(seed);
            double[][] truth = new double[25][];
            for (int i = 0; i < 25; i++) {
                truth[i] =
                        new double[] {40 + 80 * (i % 5) + random.nextDouble(), 40 + 80 * (i / 5) + random.nextDouble()};
                add(pixels, truth[i][0], truth[i][1], flux, sigma, sigma);
            }
            StarField field = find(pixels);
            for (double[] t : truth) {
                Star star = near(field, t[0], t[1]).orElseThrow();
                squares += Math.pow(star.x() - t[0], 2) + Math.pow(star.y() - t[1], 2);
                n += 2;
            }
        }
        double limit = Math.sqrt(8 * Math.PI) * (sigma * sigma + 1 / 12.0) * NOISE / flux;
        assertThat(Math.sqrt(squares / n)).isLessThan(1.2 * limit);
    }

    /** Stars of 2 px σ, and hits that light two or three pixels: however bright, they are sharper than any star of the field. */
    @Test
    void particlesAreNoStars() {
        float[] pixels = background(6);
        Random random = new Random(6);
        for (int i = 0; i < 25; i++) {
            add(pixels, 40 + 75 * (i % 5) + random.nextDouble(), 40 + 75 * (i / 5) + random.nextDouble(), 40_000, 2, 2);
        }
        for (int i = 0; i < 16; i++) {
            int at = (76 + 75 * (i / 4)) * SIZE + 76 + 75 * (i % 4);
            float hit = 300 + 400 * i;
            pixels[at] += hit;
            pixels[at + 1] += 0.7f * hit;
            pixels[at + (i % 2 == 0 ? SIZE : SIZE + 1)] += 0.5f * hit;
        }
        StarField field = find(pixels);
        assertThat(field.stars()).hasSize(25).allMatch(s -> s.halfFluxRadiusPx() > 2);
    }

    @Test
    void elongationAndItsDirection() {
        float[] pixels = background(2);
        add(pixels, 200, 200, 200_000, 3, 1.5);
        Star star = near(find(pixels), 200, 200).orElseThrow();
        // By hand: variances 9 + 1/12 and 2.25 + 1/12; √(1 − 2.333/9.083) = 0.862.
        assertThat(star.eccentricity()).isCloseTo(0.862, within(0.02));
        assertThat(Math.abs(star.angleDeg())).isLessThan(2);
    }

    @Test
    void hotPixelsAreNotStarsAndCloseStarsAreTwo() {
        float[] pixels = background(3);
        add(pixels, 100, 100, 80_000, 1.5, 1.5);
        add(pixels, 108, 100, 60_000, 1.5, 1.5);
        for (int i = 0; i < 30; i++) {
            pixels[(20 + 11 * i) * SIZE + 300] += 3000;
        }
        StarField field = find(pixels);
        assertThat(field.stars()).hasSize(2);
        assertThat(near(field, 100, 100)).isPresent();
        assertThat(near(field, 108, 100)).isPresent();
    }

    @Test
    void aRingOutOfFocusIsOneStar() {
        float[] pixels = background(4);
        for (int row = -14; row <= 14; row++) {
            for (int column = -14; column <= 14; column++) {
                double r = Math.hypot(row, column);
                if (r > 6 && r < 12) {
                    pixels[(200 + row) * SIZE + 200 + column] += 400;
                }
            }
        }
        StarField field = find(pixels);
        assertThat(field.stars()).hasSize(1);
        // By hand: an even ring from 6 to 12 px holds half its light within √((36 + 144) / 2) = 9.49 px.
        assertThat(field.stars().get(0).halfFluxRadiusPx()).isCloseTo(9.49, within(0.3));
    }

    @Test
    void noiseAloneHasNoStars() {
        StarField field = find(background(5));
        assertThat(field.stars()).hasSizeLessThanOrEqualTo(1); // 5 sigma over 160,000 pixels: 0.05 expected
        // By hand: the slope of 0.2 ADU a pixel adds (0.2 × 66.7)² / 12 to the variance inside a cell of 66.7 px.
        assertThat(field.noiseAdu()).isCloseTo(Math.sqrt(NOISE * NOISE + 14.8), within(0.25));
        assertThat(field.backgroundAdu()).isCloseTo(1040, within(5.0)); // by hand: 1000 + 0.2 × 200
    }

    @Test
    void missingPixelsAndTinyFramesDoNotBreakIt() {
        float[] pixels = background(6);
        for (int i = 0; i < SIZE * 30; i++) {
            pixels[i] = Float.NaN;
        }
        add(pixels, 200, 200, 90_000, 1.5, 1.5);
        assertThat(find(pixels).stars()).hasSize(1);
        assertThat(finder.find(new Frame(5, 4, new float[20], Header.EMPTY)).stars())
                .isEmpty();
    }

    @Test
    void aMosaicIsLevelledBeforeItIsSearched() {
        float[] pixels = background(7);
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] += (i / SIZE % 2) * 300 + (i % SIZE % 2) * 200;
        }
        add(pixels, 150, 150, 120_000, 2, 2);
        StarField field = finder.find(new Frame(SIZE, SIZE, pixels, Header.EMPTY.with("BAYERPAT", "RGGB")));
        assertThat(field.stars()).hasSize(1);
    }

    @Test
    void saturationIsFlagged() {
        float[] pixels = background(8);
        add(pixels, 100, 100, 2_000_000, 1.5, 1.5);
        StarField field = finder.find(new Frame(SIZE, SIZE, pixels, Header.EMPTY.with("SATURATE", 60_000)));
        assertThat(field.stars().get(0).saturated()).isTrue();
    }

    /**
     * Another library: sep 1.2.1 on a frame of Moffat stars that it was given with ours (tools/reference-sky.py). Centroids agree within
     * a tenth of a pixel, half-flux radii of bright stars within 8 % (that library leaves the pixel's own width in), fluxes within 10 % (its aperture of 9
     * px holds a little less than ours) and the noise.
     */
    @Test
    void agreesWithAnotherLibrary() throws Exception {
        java.nio.file.Path frame = java.nio.file.Path.of(
                StarFinderTest.class.getResource("small-field.fits").toURI());
        StarField field = finder.find(app.ironside.image.FitsFiles.read(frame));
        java.util.List<String> lines = java.nio.file.Files.readAllLines(java.nio.file.Path.of(
                StarFinderTest.class.getResource("small-field.csv").toURI()));
        assertThat(lines).hasSizeGreaterThan(12);
        for (String line : lines.subList(1, lines.size())) {
            String[] v = line.split(",");
            double x = Double.parseDouble(v[0]);
            double y = Double.parseDouble(v[1]);
            Star star = near(field, x, y).orElseThrow(() -> new AssertionError("no star at " + line));
            assertThat(Math.hypot(star.x() - x, star.y() - y)).as(line).isLessThan(0.1);
            double flux = Double.parseDouble(v[3]);
            assertThat(star.fluxAdu()).as(line).isCloseTo(flux, within(0.1 * flux + 3 * star.fluxErrorAdu()));
            if (star.snr() > 200) {
                assertThat(star.halfFluxRadiusPx() / Double.parseDouble(v[2]))
                        .as(line)
                        .isBetween(0.92, 1.08);
            }
        }
    }

    /**
     * Moffat's profile (1969, A&A 3, 455) with β = 2.5, which the sky gives: by its formula the width at half peak is 2 α √(2^(1/β) − 1), and
     * drawn out by q on one axis its geometric mean is √q times that. The width of its second moments is a quarter more.
     */
    @ParameterizedTest
    @CsvSource({"2.2, 2.5, 1", "1.6, 3.2, 1", "2.2, 2.5, 1.3", "3.5, 4.5, 1"})
    void theWidthIsThatAtHalfThePeak(double alpha, double beta, double stretch) {
        int size = 400;
        float[] pixels = new float[size * size];
        Random random = new Random(8);
        for (int row = 40; row < size - 20; row += 40) {
            for (int column = 40; column < size - 20; column += 40) {
                double x = column + random.nextDouble();
                double y = row + random.nextDouble();
                for (int r = row - 19; r <= row + 19; r++) {
                    for (int c = column - 19; c <= column + 19; c++) {
                        double d = Math.hypot((c - x) / stretch, r - y) / alpha;
                        pixels[r * size + c] += (float) (20_000 * Math.pow(1 + d * d, -beta));
                    }
                }
            }
        }
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] += (float) (1000 + 12 * random.nextGaussian());
        }
        double truth = 2 * alpha * Math.sqrt(Math.pow(2, 1 / beta) - 1) * Math.sqrt(stretch);
        StarField field = finder.find(new Frame(size, size, pixels, Header.EMPTY));
        assertThat(field.stars()).hasSizeGreaterThan(60);
        assertThat(field.medianFwhmPx().orElseThrow()).isCloseTo(truth, within(0.02 * truth));
    }
}
