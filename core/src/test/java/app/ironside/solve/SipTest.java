package app.ironside.solve;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.image.Header;
import app.ironside.sky.Equatorial;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;

/** Distortion polynomials against another library: astropy 5.2.1, values made by tools/reference-sky.py. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SipTest {
    private Header header = Header.EMPTY;
    private final List<double[]> pixels = new ArrayList<>();

    @BeforeAll
    void read() throws IOException {
        try (BufferedReader in = new BufferedReader(
                new InputStreamReader(SipTest.class.getResourceAsStream("sip.csv"), StandardCharsets.US_ASCII))) {
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String[] v = line.split(",");
                if (v[0].equals("header")) {
                    header = header.with(v[1], v[1].startsWith("CTYPE") ? v[2] : (Object) Double.parseDouble(v[2]));
                } else {
                    pixels.add(new double[] {
                        Double.parseDouble(v[1]),
                        Double.parseDouble(v[2]),
                        Double.parseDouble(v[3]),
                        Double.parseDouble(v[4])
                    });
                }
            }
        }
    }

    @Test
    void pixelsComeToTheSameSky() {
        Wcs wcs = Wcs.from(header).orElseThrow();
        for (double[] p : pixels) {
            Equatorial sky = wcs.toSky(p[0], p[1]);
            assertThat(sky.separationDeg(new Equatorial(p[2], p[3]))).isLessThan(1e-9);
        }
    }

    /** Law: there and back. */
    @Test
    void theSkyComesBackToThePixel() {
        Wcs wcs = Wcs.from(header).orElseThrow();
        for (double[] p : pixels) {
            double[] back = wcs.toPixel(wcs.toSky(p[0], p[1])).orElseThrow();
            assertThat(back[0]).isCloseTo(p[0], within(1e-6));
            assertThat(back[1]).isCloseTo(p[1], within(1e-6));
        }
    }

    /** The keywords written are those read, and the inverse polynomials lead back to a tenth of a pixel at the corners. */
    @Test
    void keywordsSurviveTheHeader() {
        Wcs wcs = Wcs.from(header).orElseThrow();
        Map<String, Object> cards = wcs.toHeader().values();
        assertThat(cards)
                .containsEntry("CTYPE1", "RA---TAN-SIP")
                .containsEntry("A_ORDER", 3L)
                .containsEntry("A_2_0", 1.3e-6);
        Wcs again = Wcs.from(Header.EMPTY.withAll(cards)).orElseThrow();
        for (double[] p : pixels) {
            assertThat(again.toSky(p[0], p[1]).separationDeg(wcs.toSky(p[0], p[1])))
                    .isLessThan(1e-12);
        }
        double u = 1300;
        double v = -900;
        double[] s = wcs.distortion().orElseThrow().shift(u, v);
        assertThat(u + s[0] + inverse(cards, "AP", u + s[0], v + s[1])).isCloseTo(u, within(0.1));
        assertThat(v + s[1] + inverse(cards, "BP", u + s[0], v + s[1])).isCloseTo(v, within(0.1));
    }

    private static double inverse(Map<String, Object> cards, String name, double u, double v) {
        double sum = 0;
        for (int p = 0; p <= 3; p++) {
            for (int q = 0; p + q <= 3; q++) {
                sum += (double) cards.get(name + "_" + p + "_" + q) * Math.pow(u, p) * Math.pow(v, q);
            }
        }
        return sum;
    }

    @Test
    void noPartOfAnOldWcsIsLeft() {
        for (String own : header.values().keySet()) {
            assertThat(Wcs.isWcsKeyword(own)).as(own).isTrue();
        }
        assertThat(Wcs.isWcsKeyword("DATE-OBS")).isFalse();
        assertThat(Wcs.isWcsKeyword("EXPTIME")).isFalse();
        assertThat(Wcs.isWcsKeyword("AIRMASS")).isFalse();
    }
}
