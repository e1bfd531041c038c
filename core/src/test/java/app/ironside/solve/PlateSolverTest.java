package app.ironside.solve;

import static app.ironside.solve.InventedFrames.HEIGHT;
import static app.ironside.solve.InventedFrames.WIDTH;
import static app.ironside.solve.InventedFrames.field;
import static app.ironside.solve.InventedFrames.inside;
import static app.ironside.solve.InventedFrames.star;
import static app.ironside.solve.InventedFrames.wcs;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.Examples;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.kit.Kit;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.TangentPlane;
import app.ironside.star.Star;
import app.ironside.star.StarField;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Invented frames over real star positions: a fifth of the stars missing, half as many again added, centroids 0.2 px off. */
@Order(1)
class PlateSolverTest {
    private static final StarCatalogue CATALOGUE = StarCatalogue.hipparcos();
    private static final PlateSolver SOLVER = new PlateSolver(CATALOGUE, Workers.ALL_CORES);

    private static StarField frame(Wcs wcs, Random random) {
        double radius = Math.hypot(WIDTH, HEIGHT) / 2 * wcs.scaleArcsecPerPixel() / 3600;
        List<Star> stars = new ArrayList<>();
        for (CatalogueStar star : CATALOGUE.within(wcs.reference(), radius)) {
            Optional<double[]> pixel = wcs.toPixel(star.position());
            if (pixel.isPresent() && inside(pixel.get()) && random.nextDouble() > 0.2) {
                stars.add(star(
                        pixel.get()[0] + 0.2 * random.nextGaussian(),
                        pixel.get()[1] + 0.2 * random.nextGaussian(),
                        star.magnitude() + 0.2 * random.nextGaussian()));
            }
        }
        int real = stars.size();
        for (int i = 0; i < real / 2; i++) {
            double magnitude = 5 + 5 * Math.sqrt(random.nextDouble());
            stars.add(star(1 + WIDTH * random.nextDouble(), 1 + HEIGHT * random.nextDouble(), magnitude));
        }
        return field(stars);
    }

    @ParameterizedTest
    @CsvSource({
        "23.46, 30.66, 3.008, 17, false",
        "114.2, 65.60, 6.016, -163, false",
        "359.9, 10.0, 8, 95, true",
        "0.05, -89.0, 12, 40, false",
        "200.0, 89.3, 6, 0, true",
        "280.0, -35.0, 20, -60, false"
    })
    void findsTheTruthWithHints(double ra, double dec, double scale, double turn, boolean mirrored) {
        Wcs truth = wcs(new Equatorial(ra, dec), scale, turn, mirrored);
        SolveHints hints = SolveHints.NONE
                .withNear(new Equatorial(ra, Math.max(-90, Math.min(90, dec - 1.2))), 4)
                .withScale(scale * 1.01, 0.03);
        check(truth, SOLVER.solve(frame(truth, new Random(7)), hints));
    }

    @ParameterizedTest
    @CsvSource({"23.46, 30.66, 4.5, 17, false", "83.0, -5.0, 8, 130, true", "310.0, 60.1, 12, -100, false"})
    void findsTheTruthBlind(double ra, double dec, double scale, double turn, boolean mirrored) {
        Wcs truth = wcs(new Equatorial(ra, dec), scale, turn, mirrored);
        check(truth, SOLVER.solve(frame(truth, new Random(11)), SolveHints.NONE));
    }

    /** The hint is 40° wrong: the whole sky is searched and the truth found. */
    @Test
    void aWrongPlaceDoesNotMislead() {
        Wcs truth = wcs(new Equatorial(35.6, 42.3), 6, 10, false);
        SolveHints hints = SolveHints.NONE.withNear(new Equatorial(80, 20), 3).withScale(6, 0.05);
        check(truth, SOLVER.solve(frame(truth, new Random(5)), hints));
    }

    private static void check(Wcs truth, SolveResult result) {
        assertThat(result).isInstanceOf(PlateSolution.class);
        PlateSolution found = (PlateSolution) result;
        double offPx = found.centre().separationDeg(truth.toSky((WIDTH + 1) / 2.0, (HEIGHT + 1) / 2.0))
                * 3600
                / truth.scaleArcsecPerPixel();
        // Centroids of 0.2 px over a handful of stars: three standard errors.
        assertThat(offPx).isLessThan(0.2 * 3 / Math.sqrt(found.matchedStars() / 3.0));
        assertThat(found.scaleArcsecPerPixel())
                .isCloseTo(truth.scaleArcsecPerPixel(), within(truth.scaleArcsecPerPixel() * 4e-4));
        assertThat(Math.cos(Math.toRadians(found.rotationDeg() - truth.rotationDeg())))
                .isCloseTo(1, within(1e-6));
        assertThat(found.wcs().mirrored()).isEqualTo(truth.mirrored());
        assertThat(found.log10FalseOdds()).isLessThan(-9);
    }

    /**
     * Fields of 1.6 and 2 degrees hold five to seven catalogue stars among sixty fainter ones: pairs of known length are enough. Of a
     * place where the catalogue holds four, nothing is claimed.
     */
    @ParameterizedTest
    @CsvSource({"2.0, 16", "2.6, 16"})
    void aHandfulOfStarsIsEnoughWithHints(double scale, int fields) {
        Random random = new Random(5);
        int few = 0;
        int found = 0;
        for (int i = 0; i < fields; i++) {
            Equatorial centre =
                    new Equatorial(360 * random.nextDouble(), Math.toDegrees(Math.asin(2 * random.nextDouble() - 1)));
            Wcs truth = wcs(centre, scale, 360 * random.nextDouble(), random.nextBoolean());
            List<Star> stars = new ArrayList<>();
            for (CatalogueStar star : CATALOGUE.within(centre, 1750 * scale / 3600)) {
                truth.toPixel(star.position())
                        .filter(InventedFrames::inside)
                        .ifPresent(p -> stars.add(star(
                                p[0] + 0.15 * random.nextGaussian(),
                                p[1] + 0.15 * random.nextGaussian(),
                                star.magnitude())));
            }
            int held = stars.size();
            for (int k = 0; k < 60; k++) {
                stars.add(star(
                        1 + WIDTH * random.nextDouble(),
                        1 + HEIGHT * random.nextDouble(),
                        8.5 + 4.5 * Math.sqrt(random.nextDouble())));
            }
            SolveHints hints = SolveHints.NONE
                    .withNear(new TangentPlane(centre).unproject(0.5, -0.6), 6)
                    .withScale(scale * 1.004, 0.03)
                    .nearOnly();
            SolveResult result = SOLVER.solve(field(stars), hints);
            if (result instanceof PlateSolution s) {
                double off = s.centre().separationDeg(centre) * 3600 / scale;
                assertThat(off).as("no false answer").isLessThan(3);
                assertThat(s.log10FalseOdds()).isLessThan(-9);
            }
            if (held >= 5 && held <= 7) {
                few++;
                found += result instanceof PlateSolution ? 1 : 0;
            }
        }
        assertThat(few).isGreaterThan(3);
        assertThat(found).isGreaterThanOrEqualTo((int) (0.95 * few));
    }

    /** Twenty and more by hand. */
    private static final int RANDOM_FIELDS = Integer.getInteger("solve.random", 6);

    /** Random dots are never recognised. */
    @Test
    void randomDotsAreRefused() {
        for (int seed = 0; seed < RANDOM_FIELDS; seed++) {
            Random random = new Random(seed);
            List<Star> dots = new ArrayList<>();
            for (int i = 0; i < 60; i++) {
                dots.add(star(
                        1 + WIDTH * random.nextDouble(),
                        1 + HEIGHT * random.nextDouble(),
                        4 + 6 * random.nextDouble()));
            }
            assertThat(SOLVER.solve(field(dots), SolveHints.NONE)).isInstanceOf(NoSolution.class);
        }
    }

    @Test
    void tooFewStarsAreNamed() {
        SolveResult result = SOLVER.solve(field(List.of(star(10, 10, 8))), SolveHints.NONE);
        assertThat(((NoSolution) result).reason()).startsWith("Only 1 stars were found and 7 are needed");
    }

    /** By hand: one success in one trial of probability p is p; 2 of 3 at one half is one half. */
    @Test
    void binomialTail() {
        assertThat(Verifier.log10Tail(1, 1, 0.01)).isCloseTo(-2, within(1e-12));
        assertThat(Verifier.log10Tail(3, 2, 0.5)).isCloseTo(Math.log10(0.5), within(1e-12));
        assertThat(Verifier.log10Tail(40, 30, 0.001)).isLessThan(-75);
    }

    /** By hand: 432 mm × 3.008 / 3.2815 = 396 mm. */
    @Test
    void aWrongFocalLengthIsFoundAndNamed() {
        Wcs truth = wcs(new Equatorial(35.6, 62.3), 3.2815, 10, false);
        Kit kit = Examples.kit("wren");
        SolveHints hints = SolveHints.NONE.withNear(new Equatorial(35, 62), 3).withKit(kit, 1, 0.03);
        SolveResult result = SOLVER.solve(frame(truth, new Random(5)), hints);
        check(truth, result);
        assertThat(((PlateSolution) result).wrongHints())
                .containsExactly("The focal length is 396 mm, the kit says 432: correct the kit.");
    }

    @Test
    void aWrongPlaceAndAnotherBinningAreNamed() {
        Wcs truth = wcs(new Equatorial(35.6, 42.3), 6.016, 10, false);
        SolveHints hints = SolveHints.NONE.withNear(new Equatorial(80, 20), 3).withKit(Examples.kit("wren"), 1, 0.03);
        SolveResult result = SOLVER.solve(frame(truth, new Random(5)), hints);
        check(truth, result);
        // By hand: the great circle between the two places.
        assertThat(((PlateSolution) result).wrongHints())
                .anySatisfy(w -> assertThat(w).matches("The frame is 43\\.\\d° from where it was thought to be\\."))
                .anySatisfy(w -> assertThat(w).contains("2 times coarser").contains("binning"));
    }

    /** Half a percent of barrel at the corners, as a lens has it: the polynomial takes it out. */
    @Test
    void distortionIsFitted() {
        Wcs truth = wcs(new Equatorial(300, 35), 20, 33, false);
        Random random = new Random(3);
        double half = Math.hypot(WIDTH, HEIGHT) / 2;
        List<Star> stars = new ArrayList<>();
        for (CatalogueStar star : CATALOGUE.within(truth.reference(), 11)) {
            Optional<double[]> pixel = truth.toPixel(star.position());
            if (pixel.isPresent()) {
                double u = pixel.get()[0] - WIDTH / 2.0;
                double v = pixel.get()[1] - HEIGHT / 2.0;
                double stretch = 1 + 0.005 * (u * u + v * v) / half / half;
                double[] p = {
                    WIDTH / 2.0 + u * stretch + 0.1 * random.nextGaussian(),
                    HEIGHT / 2.0 + v * stretch + 0.1 * random.nextGaussian()
                };
                if (inside(p)) {
                    stars.add(star(p[0], p[1], star.magnitude()));
                }
            }
        }
        PlateSolution found = (PlateSolution) SOLVER.solve(field(stars), SolveHints.NONE);
        // At the corner the lens shifts by 0.005 × 1750 px; centroids of 0.1 px an axis leave 0.14 px.
        assertThat(found.wcs().largestDistortionPx(WIDTH, HEIGHT)).isCloseTo(8.75, within(1.0));
        assertThat(found.rmsArcsec() / 20).isBetween(0.1, 0.2);
        assertThat(found.stars()).hasSizeGreaterThan(200);
    }

    /** Law: an index read from its file gives what the built one gave; one of another catalogue is not used. */
    @Test
    void theIndexIsKept(@TempDir Path folder) throws IOException {
        Wcs truth = wcs(new Equatorial(83, -5), 8, 130, true);
        StarField frame = frame(truth, new Random(11));
        PlateSolver first = new PlateSolver(CATALOGUE, Workers.ALL_CORES, Optional.of(folder));
        first.prepare(Progress.NONE);
        check(truth, first.solve(frame, SolveHints.NONE));
        try (var files = Files.list(folder)) {
            assertThat(files.map(f -> f.getFileName().toString())).contains("patterns-0.bin", "patterns-5.bin");
        }
        PlateSolver second = new PlateSolver(CATALOGUE, Workers.ALL_CORES, Optional.of(folder));
        check(truth, second.solve(frame, SolveHints.NONE));
        Path last = folder.resolve("patterns-5.bin");
        Files.write(last, new byte[] {1, 2, 3});
        check(truth, new PlateSolver(CATALOGUE, Workers.ALL_CORES, Optional.of(folder)).solve(frame, SolveHints.NONE));
        assertThat(Files.size(last)).as("a broken file is made again").isGreaterThan(1000);
    }

    /** Sixty fields anywhere, every sixth near a pole and every fifth across 0 h, blind: at least 98 %. */
    @Test
    void nearlyEveryFieldIsRecognisedBlind() {
        Random random = new Random(21);
        int found = 0;
        for (int i = 0; i < 60; i++) {
            double dec = i % 6 == 0 ? 88.5 : Math.toDegrees(Math.asin(2 * random.nextDouble() - 1));
            double ra = i % 5 == 0 ? (359.8 + 0.4 * random.nextDouble()) % 360 : 360 * random.nextDouble();
            double scale = 4.5 * Math.pow(5, random.nextDouble());
            Wcs truth = wcs(new Equatorial(ra, dec), scale, 360 * random.nextDouble(), random.nextBoolean());
            if (SOLVER.solve(frame(truth, random), SolveHints.NONE) instanceof PlateSolution s) {
                double off = s.centre().separationDeg(truth.toSky((WIDTH + 1) / 2.0, (HEIGHT + 1) / 2.0));
                assertThat(off * 3600 / scale).as("no false answer").isLessThan(3);
                found++;
            }
        }
        assertThat(found).isGreaterThanOrEqualTo(59);
    }
}
