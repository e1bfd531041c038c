package app.ironside.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.FitsFiles;
import app.ironside.image.Frame;
import app.ironside.image.Header;
import app.ironside.sky.CatalogueStar;
import app.ironside.sky.Equatorial;
import app.ironside.sky.StarCatalogue;
import app.ironside.solve.Wcs;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Frames that other software wrote: real star positions, and of the header only what every camera writes. */
class SolveVerbTest {
    private static final int WIDTH = 1500;
    private static final int HEIGHT = 1000;
    private static final double SCALE = 18;
    private static final Equatorial CENTRE = new Equatorial(52, 44);

    @TempDir
    Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();
    private Path file;

    @BeforeEach
    void writeTheFrame() {
        Random random = new Random(8);
        float[] pixels = new float[WIDTH * HEIGHT];
        for (int i = 0; i < pixels.length; i++) {
            pixels[i] = (float) (800 + 7 * random.nextGaussian());
        }
        Wcs wcs = wcs();
        for (CatalogueStar star : StarCatalogue.hipparcos().within(CENTRE, 5)) {
            double[] p = wcs.toPixel(star.position()).orElseThrow();
            double flux = 2e7 * Math.pow(10, -0.4 * star.magnitude());
            for (int row = (int) p[1] - 7; row <= p[1] + 6; row++) {
                for (int column = (int) p[0] - 7; column <= p[0] + 6; column++) {
                    if (row >= 0 && column >= 0 && row < HEIGHT && column < WIDTH) {
                        double d = Math.pow(column + 1 - p[0], 2) + Math.pow(row + 1 - p[1], 2);
                        pixels[row * WIDTH + column] += (float) (flux / (2 * Math.PI * 1.7) * Math.exp(-d / 3.4));
                    }
                }
            }
        }
        file = folder.resolve("wide.fits");
        Header header = Header.EMPTY.with("CROTA2", 12.0).with("CDELT1", 1.0);
        FitsFiles.write(file, new Frame(WIDTH, HEIGHT, pixels, header), FitsFiles.Encoding.UNSIGNED_16);
    }

    private static Wcs wcs() {
        double s = SCALE / 3600 * Math.sin(Math.toRadians(33));
        double c = SCALE / 3600 * Math.cos(Math.toRadians(33));
        return new Wcs(CENTRE, (WIDTH + 1) / 2.0, (HEIGHT + 1) / 2.0, -c, s, s, c);
    }

    private JsonNode solve(int exit, String... more) throws Exception {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
        String[] arguments = new String[more.length + 3];
        arguments[0] = "solve";
        arguments[1] = file.toString();
        arguments[2] = "--json";
        System.arraycopy(more, 0, arguments, 3, more.length);
        assertThat(Main.run(arguments, new PrintWriter(out), new PrintWriter(err)))
                .as(err.toString())
                .isEqualTo(exit);
        return exit == 2 ? null : new ObjectMapper().readTree(out.toString());
    }

    @Test
    void withoutAnyHint() throws Exception {
        JsonNode answer = solve(0);
        assertThat(answer.get("solved").asBoolean()).isTrue();
        assertThat(answer.get("raDeg").asDouble()).isCloseTo(52, within(0.002));
        assertThat(answer.get("decDeg").asDouble()).isCloseTo(44, within(0.002));
        assertThat(answer.get("scaleArcsecPerPixel").asDouble()).isCloseTo(SCALE, within(SCALE * 1e-4));
        assertThat(answer.get("rotationDeg").asDouble()).isCloseTo(33, within(0.01));
        assertThat(answer.get("wrongHints")).isEmpty();
    }

    /** The scale is 18″ and not 12″: found all the same, and said. */
    @Test
    void wrongHintsAreNamed() throws Exception {
        JsonNode answer = solve(0, "--ra", "51", "--dec", "43", "--scale", "12");
        assertThat(answer.get("wrongHints").get(0).asText())
                .matches(
                        "The scale is 1[78]\\.\\d+″ a pixel, the hint said 12\\.000: focal length or pixel size is wrong\\.");
    }

    /** Only the new WCS is in the copy; the frame itself stays as it is. */
    @Test
    void theCopyCarriesTheWcs() throws Exception {
        byte[] before = Files.readAllBytes(file);
        JsonNode answer = solve(0, "--write");
        Header header = FitsFiles.read(Path.of(answer.get("written").asText())).header();
        assertThat(header.number("CROTA2")).isEmpty();
        assertThat(header.number("CDELT1")).isEmpty();
        Wcs again = Wcs.from(header).orElseThrow();
        assertThat(again.toSky(1, 1).separationDeg(wcs().toSky(1, 1)) * 3600).isLessThan(SCALE * 0.3);
        assertThat(Files.readAllBytes(file)).isEqualTo(before);
    }

    /** A catalogue of one's own, as CSV with titles of its own. */
    @Test
    void anotherCatalogue() throws Exception {
        StringBuilder csv = new StringBuilder("star,lon,lat,bright\n");
        int n = 0;
        for (CatalogueStar s : StarCatalogue.hipparcos().within(CENTRE, 12)) {
            csv.append(String.format(
                    Locale.ROOT,
                    "%d,%.6f,%.6f,%.2f%n",
                    ++n,
                    s.position().raDeg(),
                    s.position().decDeg(),
                    s.magnitude()));
        }
        Path stars = folder.resolve("own.csv");
        Files.writeString(stars, csv);
        JsonNode answer = solve(
                0,
                "--catalog",
                stars.toString(),
                "--ra-column",
                "lon",
                "--dec-column",
                "lat",
                "--magnitude-column",
                "bright");
        assertThat(answer.get("raDeg").asDouble()).isCloseTo(52, within(0.002));
        solve(2, "--catalog", stars.toString());
        assertThat(err.toString())
                .contains("own.csv")
                .contains("star, lon, lat, bright")
                .hasLineCount(1);
        solve(2, "--catalog", folder.resolve("none.csv").toString());
        assertThat(err.toString()).contains("none.csv: cannot be read").hasLineCount(1);
    }
}
