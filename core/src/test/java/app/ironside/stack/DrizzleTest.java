package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.calibrate.Calibrator;
import app.ironside.calibrate.Masters;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.hipparchus.special.Erf;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Stacks by drops, of invented frames whose stars are narrower than their pixels can show. */
class DrizzleTest {
    private static final int WIDTH = 200;
    private static final int HEIGHT = 170;
    private static final int STARS = 40;
    private static final double SIGMA_PX = 0.75;
    private static final double NARROW_PX = 0.4;
    private static final double LEVEL = 1000;
    private static final double NOISE = 8;

    @TempDir
    Path folder;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT, Workers.SERIAL);

    /** Light that a Gaussian leaves between two edges. */
    private static double between(double from, double to, double at, double sigmaPx) {
        double scale = sigmaPx * Math.sqrt(2);
        return (Erf.erf((to - at) / scale) - Erf.erf((from - at) / scale)) / 2;
    }

    private static double[][] sky() {
        Random random = new Random(12);
        double[][] stars = new double[STARS][];
        for (int i = 0; i < STARS; i++) {
            stars[i] = new double[] {
                15 + (WIDTH - 30) * random.nextDouble(),
                15 + (HEIGHT - 30) * random.nextDouble(),
                6000 * Math.pow(12, random.nextDouble())
            };
        }
        return stars;
    }

    /** Pixels that gather what falls on them, at a shift and turn; a hit of a cosmic ray where it is asked for. */
    private Path sub(int index, double dx, double dy, double turnDeg, boolean hit, String pattern, double sigmaPx) {
        Random noise = new Random(index);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (LEVEL + NOISE * noise.nextGaussian());
        }
        double c = Math.cos(Math.toRadians(turnDeg));
        double s = Math.sin(Math.toRadians(turnDeg));
        for (double[] star : sky()) {
            double u = star[0] - WIDTH / 2.0;
            double v = star[1] - HEIGHT / 2.0;
            double x = WIDTH / 2.0 + c * u - s * v + dx;
            double y = HEIGHT / 2.0 + s * u + c * v + dy;
            for (int row = (int) y - 6; row <= y + 6; row++) {
                for (int column = (int) x - 6; column <= x + 6; column++) {
                    if (row >= 0 && column >= 0 && row < HEIGHT && column < WIDTH) {
                        pixels[row * WIDTH + column] += (float) (star[2]
                                * between(column + 0.5, column + 1.5, x, sigmaPx)
                                * between(row + 0.5, row + 1.5, y, sigmaPx));
                    }
                }
            }
        }
        if (hit) {
            for (int i = 0; i < 12; i++) {
                pixels[(80 + i) * WIDTH + 100 + i] += 3000;
            }
        }
        Path file = folder.resolve("sub" + index + ".fits");
        Header header = Header.EMPTY.with("EXPTIME", 60.0).with("XPIXSZ", 3.76).with("YPIXSZ", 3.76);
        if (!pattern.isEmpty()) {
            header = header.with("BAYERPAT", pattern);
        }
        FitsFiles.write(file, new Frame(WIDTH, HEIGHT, pixels, header), FitsFiles.Encoding.FLOAT_32);
        return file;
    }

    private List<Path> dithered(int n, String pattern) {
        return dithered(n, pattern, SIGMA_PX);
    }

    private List<Path> dithered(int n, String pattern, double sigmaPx) {
        Random random = new Random(5);
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            files.add(sub(
                    i,
                    i == 0 ? 0 : 6 * random.nextDouble() - 3,
                    i == 0 ? 0 : 6 * random.nextDouble() - 3,
                    i % 2 * 180 + 0.2 * i,
                    i == 3,
                    pattern,
                    sigmaPx));
        }
        return files;
    }

    private StackResult stack(List<Path> files, Optional<Drizzle> how, long memory) {
        return new Stacker(
                        finder,
                        Workers.ALL_CORES,
                        new StackSettings(Rejection.WINSORIZED, true, memory).withDrizzle(how))
                .stack(
                        files.stream()
                                .map(f -> new Stacker.Light(f, new Calibrator(Masters.NONE, 0)))
                                .toList(),
                        Optional.of(new Stacker.Grid("sub0.fits", finder.find(FitsFiles.read(files.get(0))))),
                        Progress.NONE);
    }

    /** Light within some of a sub's pixels about a place of the grid, above the level, in a sub's units. */
    private static double light(Frame picture, double x, double y, double scale) {
        double sum = 0;
        double reach = 5 * scale;
        double cx = (x - 0.5) * scale + 0.5;
        double cy = (y - 0.5) * scale + 0.5;
        for (int row = (int) (cy - reach); row <= cy + reach; row++) {
            for (int column = (int) (cx - reach); column <= cx + reach; column++) {
                if (Math.hypot(column + 1 - cx, row + 1 - cy) <= reach) {
                    sum += picture.pixels()[row * picture.width() + column] - LEVEL;
                }
            }
        }
        return sum / (scale * scale);
    }

    @Test
    void starsAreNarrowerInTheirPlaceAndTheirLightIsWhole() {
        StackResult result =
                stack(dithered(20, ""), Optional.of(new Drizzle(2, 0.6)), StackSettings.USUAL_MEMORY_BYTES);
        StackResult.Drizzled drizzled = result.drizzled().orElseThrow();
        assertThat(result.picture().width()).isEqualTo(2 * WIDTH);
        assertThat(result.picture().header().number("XPIXSZ")).hasValue(1.88);
        assertThat(result.picture().header().history()).anyMatch(h -> h.contains("drizzle"));
        // Widths add in squares: the star's own, the sub's pixel, the drop, the stack's pixel; boxes by their variance
        // of side² / 12.
        double law = 2.3548 * Math.sqrt(SIGMA_PX * SIGMA_PX + (1 + 0.36 + 0.25) / 12);
        assertThat(drizzled.fwhmPx()).isCloseTo(law, within(0.04 * law));
        assertThat(drizzled.isEven()).isTrue();
        // Noise of blocks is what the subs allow, as with interpolation.
        assertThat(result.gain().measured())
                .isCloseTo(result.gain().possible(), within(4 * result.gain().error()));
        // Laid on the first sub's grid, which has the truth's own places.
        List<Star> seen = finder.find(result.picture()).stars();
        List<double[]> alone = Arrays.stream(sky()).filter(DrizzleTest::isAlone).toList();
        assertThat(alone).hasSizeGreaterThan(8);
        for (double[] star : alone) {
            assertThat(light(result.picture(), star[0], star[1], 2) / star[2]).isCloseTo(1, within(0.02));
            assertThat(seen)
                    .anyMatch(s ->
                            Math.hypot((s.x() - 0.5) / 2 + 0.5 - star[0], (s.y() - 0.5) / 2 + 0.5 - star[1]) < 0.05);
        }
    }

    private static boolean isAlone(double[] star) {
        return Arrays.stream(sky())
                        .filter(s -> Math.hypot(s[0] - star[0], s[1] - star[1]) < 16)
                        .count()
                == 1;
    }

    /** Stars that a pixel nearly holds are narrower by drops than interpolated: what is finer than the pixels is kept. */
    @Test
    void starsNarrowerThanPixelsKeepTheirWidth() {
        StackResult.Drizzled drizzled = stack(
                        dithered(20, "", NARROW_PX), Optional.of(new Drizzle(2, 0.5)), StackSettings.USUAL_MEMORY_BYTES)
                .drizzled()
                .orElseThrow();
        double law = 2.3548 * Math.sqrt(NARROW_PX * NARROW_PX + (1 + 0.25 + 0.25) / 12);
        assertThat(drizzled.fwhmPx()).isCloseTo(law, within(0.04 * law)).isLessThan(drizzled.plainFwhmPx());
    }

    /** A hit in one sub of twenty is no more than noise in the stack; nor do bands leave seams. */
    @Test
    void whatTheRejectionLeavesOutDoesNotFall() {
        List<Path> files = dithered(20, "");
        Drizzle how = new Drizzle(2, 0.7);
        Frame whole =
                stack(files, Optional.of(how), StackSettings.USUAL_MEMORY_BYTES).picture();
        Frame banded = stack(files, Optional.of(how), 2 << 20).picture();
        assertThat(banded.pixels()).isEqualTo(whole.pixels());
        float[] clean = stack(
                        files.stream().filter(f -> !f.endsWith("sub3.fits")).toList(),
                        Optional.of(how),
                        StackSettings.USUAL_MEMORY_BYTES)
                .picture()
                .pixels();
        double worst = 0;
        for (int y = 130; y < 220; y++) {
            for (int x = 150; x < 250; x++) {
                float without = clean[y * whole.width() + x];
                // In the stars one sub less changes more.
                if (without < LEVEL + 50) {
                    worst = Math.max(worst, Math.abs(whole.pixels()[y * whole.width() + x] - without));
                }
            }
        }
        // Unhindered it would be 3000 / 20 = 150; one sub less changes a pixel by some of its own noise.
        assertThat(worst).isLessThan(25);
    }

    /** Every colour gets its own pixels only: a level of its own stays what it is, and stars stand where they stood. */
    @Test
    void coloursOfAMosaicAreNotFilledIn() {
        StackResult result =
                stack(dithered(24, "RGGB"), Optional.of(new Drizzle(1, 1)), StackSettings.USUAL_MEMORY_BYTES);
        assertThat(result.planes()).hasSize(3);
        assertThat(result.drizzled().orElseThrow().how().scale()).isEqualTo(1);
        for (Frame plane : result.planes()) {
            int holes = 0;
            for (int y = 40; y < HEIGHT - 40; y++) {
                for (int x = 40; x < WIDTH - 40; x++) {
                    holes += Float.isNaN(plane.pixels()[y * WIDTH + x]) ? 1 : 0;
                }
            }
            assertThat(holes).isZero();
        }
        assertThat(result.drizzled().orElseThrow().fwhmPx())
                .isLessThan(result.drizzled().orElseThrow().plainFwhmPx());
    }

    /** By hand: 34 000 pixels of 4 bytes, one plane and twice sixteen of them, are 4.3 MB. */
    @Test
    void aGridThatMemoryCannotHoldIsRefusedBeforeAnythingIsMeasured() {
        assertThatThrownBy(() -> stack(dithered(2, ""), Optional.of(new Drizzle(4, 0.5)), 3 << 20))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("sub0.fits: takes 4 MB for pixels 4 times as fine; 3 are allowed");
    }

    /** Two subs cannot cover a grid twice as fine with small drops, and that is said. */
    @Test
    void tooFewSubsAreSaidToBe() {
        StackResult result = stack(dithered(3, ""), Optional.of(new Drizzle(3, 0.3)), StackSettings.USUAL_MEMORY_BYTES);
        StackResult.Drizzled drizzled = result.drizzled().orElseThrow();
        assertThat(drizzled.isEven()).isFalse();
        assertThat(drizzled.words(result.gain())).contains("unevenly covered");
    }
}
