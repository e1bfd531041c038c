package app.ironside.colour;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import app.ironside.Workers;
import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.star.DetectSettings;
import app.ironside.star.Star;
import app.ironside.star.StarFinder;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A cluster with known colours: what was put in is what comes out. */
class CombinationTest {
    private static final int SIZE = 300;

    @TempDir
    Path folder;

    private final StarFinder finder = new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), Workers.SERIAL);
    private final Combination combination = new Combination(finder);

    /**
     * Stars of one light in all channels but one, which is redder.
     *
     * @param light of the average star in this channel
     * @param red that of the red star over the average
     */
    private static Combination.Input stack(String name, double light, double red, double sky, double shift) {
        Random where = new Random(5);
        Random noise = new Random(name.hashCode());
        float[] pixels = new float[SIZE * SIZE];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (sky + 3 * noise.nextGaussian());
        }
        for (int k = 0; k < 40; k++) {
            double x = 15 + where.nextDouble() * 270 + shift;
            double y = 15 + where.nextDouble() * 270;
            double flux = light * 5000 * Math.pow(20, where.nextDouble()) * (k == 0 ? red : 1);
            add(pixels, x, y, k == 0 ? light * red * 60_000 : flux);
        }
        return new Combination.Input(name, new Frame(SIZE, SIZE, pixels, Header.EMPTY));
    }

    private static void add(float[] pixels, double x, double y, double flux) {
        for (int row = (int) y - 8; row <= y + 8; row++) {
            for (int column = (int) x - 8; column <= x + 8; column++) {
                if (row >= 0 && column >= 0 && row < SIZE && column < SIZE) {
                    double d = Math.pow(column + 1 - x, 2) + Math.pow(row + 1 - y, 2);
                    pixels[row * SIZE + column] += (float) (flux / (2 * Math.PI * 1.96) * Math.exp(-d / 3.92));
                }
            }
        }
    }

    private double flux(Frame plane, double x, double y) {
        return finder.find(plane).stars().stream()
                .filter(s -> Math.hypot(s.x() - x, s.y() - y) < 2)
                .mapToDouble(Star::fluxAdu)
                .findFirst()
                .orElseThrow();
    }

    /**
     * By hand: red has half and blue a quarter of green's light, so that they are multiplied by 2 and 4; the skies come to green's; and the one
     * star that is three times as red as the others stays so. Forty stars tell the scale to a hundredth.
     */
    @Test
    void theAverageStarIsWhiteAndARedOneStaysRed() {
        ColourPicture picture = combination.combine(
                stack("red", 0.5, 3, 90, 0),
                stack("green", 1, 1, 200, 0),
                stack("blue", 0.25, 1, 40, 0),
                Optional.empty(),
                List.of());
        assertThat(picture.reference()).isEqualTo("green");
        assertThat(picture.channels().get(0).scale()).isCloseTo(2, within(0.03));
        assertThat(picture.channels().get(1).scale()).isEqualTo(1);
        assertThat(picture.channels().get(2).scale()).isCloseTo(4, within(0.06));
        for (Frame plane : picture.planes()) {
            assertThat(app.ironside.image.Statistics.median(plane.pixels())).isCloseTo(200, within(1.5));
        }
        Random where = new Random(5);
        double x = 15 + where.nextDouble() * 270;
        double y = 15 + where.nextDouble() * 270;
        assertThat(flux(picture.red(), x, y) / flux(picture.green(), x, y)).isCloseTo(3, within(0.1));
    }

    /** A stack that lies four pixels aside is brought onto the first's grid. */
    @Test
    void anotherGridIsBroughtOntoTheFirsts() {
        ColourPicture picture = combination.combine(
                stack("red", 1, 1, 100, 0),
                stack("green", 1, 1, 100, 4.3),
                stack("blue", 1, 1, 100, 0),
                Optional.empty(),
                List.of());
        List<Star> red = finder.find(picture.red()).stars();
        List<Star> green = finder.find(picture.green()).stars();
        Star bright = red.get(0);
        assertThat(green).anySatisfy(s -> assertThat(Math.hypot(s.x() - bright.x(), s.y() - bright.y()))
                .isLessThan(0.1));
    }

    /** A further filter takes the share of a channel that it is given: half of it in red. */
    @Test
    void aFurtherFilterIsBlendedByItsShare() {
        Combination.Input plain = stack("plain", 1, 1, 100, 0);
        Combination.Input bright = stack("bright", 1, 1, 100, 0);
        float[] glowing = bright.frame().pixels().clone();
        for (int y = 100; y < 140; y++) {
            for (int x = 100; x < 140; x++) {
                glowing[y * SIZE + x] += 60;
            }
        }
        Combination.Input ha = new Combination.Input("ha", new Frame(SIZE, SIZE, glowing, Header.EMPTY));
        ColourPicture picture = combination.combine(
                plain, plain, plain, Optional.empty(), List.of(new Combination.Added(ha, 0.5, 0, 0)));
        assertThat(median(picture.red()) - median(picture.green())).isCloseTo(30, within(2.0));
        assertThat(median(picture.blue()) - median(picture.green())).isCloseTo(0, within(0.01));
    }

    private static double median(Frame plane) {
        float[] values = new float[1600];
        for (int i = 0; i < 1600; i++) {
            values[i] = plane.pixels()[(100 + i / 40) * SIZE + 100 + i % 40];
        }
        return app.ironside.image.Statistics.median(values);
    }

    @Test
    void anotherFieldIsNamed() {
        Combination.Input one = stack("one", 1, 1, 100, 0);
        float[] mirrored = one.frame().pixels().clone();
        for (int i = 0; i < mirrored.length; i++) {
            mirrored[i] = one.frame().pixels()[i / SIZE * SIZE + SIZE - 1 - i % SIZE]
                    + (i % SIZE > 150 ? 400 * (i % 37 == 0 ? 1 : 0) : 0);
        }
        Combination.Input other = new Combination.Input("other", new Frame(SIZE, SIZE, mirrored, Header.EMPTY));
        assertThatThrownBy(() -> combination.combine(one, other, one, Optional.empty(), List.of()))
                .isInstanceOf(BadInputException.class)
                .hasMessageStartingWith("other: shows other stars than one");
    }

    /** The files are what their names say: read again by the library's and Java's own readers. */
    @Test
    void writesCubeAndPictures() throws Exception {
        Combination.Input one = stack("one", 1, 1, 100, 0);
        ColourPicture picture = combination.combine(one, one, one, Optional.of(one), List.of());
        ColourFiles.write(folder.resolve("a.fits"), picture);
        assertThat(FitsFiles.readPlanes(folder.resolve("a.fits"))).hasSize(3);
        for (String name : List.of("a.png", "a.tif")) {
            ColourFiles.write(folder.resolve(name), picture);
            var read = ImageIO.read(folder.resolve(name).toFile());
            assertThat(read.getWidth()).isEqualTo(SIZE);
            assertThat(read.getSampleModel().getNumBands()).isEqualTo(3);
            assertThat(read.getSampleModel().getSampleSize(0)).isEqualTo(16);
        }
    }
}
