package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.solve.PlaneTransform;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.awt.geom.Area;
import java.awt.geom.Path2D;
import java.awt.geom.PathIterator;
import java.awt.geom.Rectangle2D;
import java.io.InputStream;
import java.util.Random;
import org.hipparchus.stat.descriptive.StreamingStatistics;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Drops onto a grid: their parts against a general-purpose geometry library, their means against the method's reference code, their noise against the paper that drizzle comes from. */
class DropsTest {
    /** What java.awt.geom cuts out, by the shoelace formula. */
    private static double cut(double x, double y, double ax, double ay, double bx, double by, int column, int row) {
        Path2D drop = new Path2D.Double();
        drop.moveTo(x - ax - bx, y - ay - by);
        drop.lineTo(x + ax - bx, y + ay - by);
        drop.lineTo(x + ax + bx, y + ay + by);
        drop.lineTo(x - ax + bx, y - ay + by);
        drop.closePath();
        Area area = new Area(drop);
        area.intersect(new Area(new Rectangle2D.Double(column, row, 1, 1)));
        double sum = 0;
        double[] at = new double[6];
        double lastX = 0;
        double lastY = 0;
        double startX = 0;
        double startY = 0;
        for (PathIterator i = area.getPathIterator(null); !i.isDone(); i.next()) {
            int kind = i.currentSegment(at);
            if (kind == PathIterator.SEG_MOVETO) {
                startX = at[0];
                startY = at[1];
            } else {
                double toX = kind == PathIterator.SEG_CLOSE ? startX : at[0];
                double toY = kind == PathIterator.SEG_CLOSE ? startY : at[1];
                sum += lastX * toY - toX * lastY;
                at[0] = toX;
                at[1] = toY;
            }
            lastX = at[0];
            lastY = at[1];
        }
        return Math.abs(sum) / 2;
    }

    @Test
    void partsAreWhatAGeometryLibraryCutsOut() {
        Random random = new Random(7);
        for (int n = 0; n < 200; n++) {
            double turn = Math.toRadians(360 * random.nextDouble());
            double half = 0.2 + random.nextDouble();
            double ax = half * Math.cos(turn);
            double ay = half * Math.sin(turn);
            // A little askew, as an affine map may have it; and mirrored every other time.
            double side = n % 2 == 0 ? 1 : -1;
            double bx = side * (-1.05 * half * Math.sin(turn) + 0.02);
            double by = side * 1.05 * half * Math.cos(turn);
            double x = 3 + 2 * random.nextDouble();
            double y = 3 + 2 * random.nextDouble();
            Drops drops = new Drops(8, 0, 8);
            drops.shape(ax, ay, bx, by);
            drops.fall(x + 0.5, y + 0.5, 1, 1);
            double area = 4 * Math.abs(ax * by - ay * bx);
            // One that is nearly upright is taken for upright.
            boolean upright = Math.min(Math.abs(ay) + Math.abs(bx), Math.abs(ax) + Math.abs(by)) < 0.01;
            double all = 0;
            for (int row = 0; row < 8; row++) {
                for (int column = 0; column < 8; column++) {
                    assertThat(drops.weight(column, row))
                            .isCloseTo(cut(x, y, ax, ay, bx, by, column, row) / area, within(upright ? 0.01 : 2e-9));
                    all += drops.weight(column, row);
                }
            }
            assertThat(all).isCloseTo(1, within(1e-9));
        }
    }

    /**
     * The reference code of the method, on frames that are shifted, of several scales and mirrored (tools/reference-drizzle.py): the same
     * means and the same weights, to the single precision that it works with.
     */
    @Test
    void meansAndWeightsAreThoseOfTheReferenceLibrary() throws Exception {
        JsonNode told;
        try (InputStream in = DropsTest.class.getResourceAsStream("drizzle.json")) {
            told = new ObjectMapper().readTree(in);
        }
        int width = told.get("widthPx").asInt();
        int outWidth = told.get("outWidthPx").asInt();
        int outHeight = told.get("outHeightPx").asInt();
        double half = told.get("drop").asDouble() / 2;
        Drops drops = new Drops(outWidth, 0, outHeight);
        for (int n = 0; n < told.get("maps").size(); n++) {
            double[] m = numbers(told.get("maps").get(n));
            drops.shape(half * m[0], half * m[3], half * m[1], half * m[4]);
            double[] frame = numbers(told.get("frames").get(n));
            for (int i = 0; i < frame.length; i++) {
                double x = i % width + 1;
                double y = (double) (i / width) + 1;
                drops.fall(
                        m[0] * x + m[1] * y + m[2],
                        m[3] * x + m[4] * y + m[5],
                        frame[i],
                        told.get("weights").get(n).asDouble());
            }
        }
        float[] means = new float[outWidth * outHeight];
        drops.means(means);
        double[] fell = numbers(told.get("fell"));
        double[] reference = numbers(told.get("means"));
        for (int i = 0; i < means.length; i++) {
            assertThat(drops.weight(i % outWidth, i / outWidth)).isCloseTo(fell[i], within(2e-5));
            if (fell[i] > 1e-3) {
                assertThat((double) means[i]).isCloseTo(reference[i], within(2e-4 * Math.abs(reference[i])));
            }
        }
    }

    private static double[] numbers(JsonNode array) {
        double[] values = new double[array.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = array.get(i).asDouble();
        }
        return values;
    }

    /** By hand: a square of 1.5 about the middle of a pixel gives it 1 / 2.25, its neighbours 0.25 / 2.25, the corners 0.0625 / 2.25. */
    @Test
    void anUprightDropIsSharedByItsSides() {
        Drops drops = new Drops(5, 10, 5);
        drops.shape(0.75, 0, 0, 0.75);
        drops.fall(3, 13, 4, 1);
        assertThat(drops.weight(2, 12)).isCloseTo(1 / 2.25, within(1e-12));
        assertThat(drops.weight(1, 12)).isCloseTo(0.25 / 2.25, within(1e-12));
        assertThat(drops.weight(3, 13)).isCloseTo(0.0625 / 2.25, within(1e-12));
        float[] out = new float[15 * 5];
        drops.means(out);
        assertThat(out[12 * 5 + 2]).isEqualTo(4);
        assertThat(out[10 * 5]).isNaN();
    }

    /**
     * Fruchter and Hook 2002, section 7: how far the noise from pixel to pixel lies below that of large areas. White noise falls in
     * randomly shifted frames, as many as make the grid even.
     */
    @ParameterizedTest
    @CsvSource({"2, 0.7, 0", "2, 0.5, 0", "1, 0.8, 0", "2, 1, 0", "1, 1, 0", "2, 0.7, 31"})
    void noiseOfNeighboursIsAlikeAsThePaperSays(double scale, double drop, double turnDeg) {
        Drizzle how = new Drizzle(scale, drop);
        int side = how.side(48);
        Drops drops = new Drops(side, 0, side);
        Random random = new Random(3);
        double c = Math.cos(Math.toRadians(turnDeg)) * scale;
        double s = Math.sin(Math.toRadians(turnDeg)) * scale;
        drops.shape(drop / 2 * c, drop / 2 * s, -drop / 2 * s, drop / 2 * c);
        for (int frame = 0; frame < 60; frame++) {
            double dx = random.nextDouble();
            double dy = random.nextDouble();
            for (int y = -40; y < 88; y++) {
                for (int x = -40; x < 88; x++) {
                    double u = x + dx - 24;
                    double v = y + dy - 24;
                    drops.fall(side / 2.0 + c * u - s * v, side / 2.0 + s * u + c * v, random.nextGaussian(), 1);
                }
            }
        }
        float[] out = new float[side * side];
        drops.means(out);
        int block = (int) (8 * scale);
        StreamingStatistics pixels = new StreamingStatistics();
        StreamingStatistics blocks = new StreamingStatistics();
        for (int y = 0; y + block <= side; y += block) {
            for (int x = 0; x + block <= side; x += block) {
                double sum = 0;
                for (int i = 0; i < block * block; i++) {
                    float v = out[(y + i / block) * side + x + i % block];
                    pixels.addValue(v);
                    sum += v;
                }
                blocks.addValue(sum / block);
            }
        }
        // 36 blocks tell their deviation to 12 %; the pixels' own is known to 1 %.
        assertThat(blocks.getStandardDeviation() / pixels.getStandardDeviation())
                .isCloseTo(how.noiseRatio(), within(0.3 * how.noiseRatio()));
    }

    /** From the paper's example, drops of 0.6 on pixels of half the size: 1.2 / (1 − 1/3.6) = 1.662. */
    @Test
    void theRatioIsTheFormulas() {
        assertThat(new Drizzle(2, 0.6).noiseRatio()).isCloseTo(1.6615, within(1e-3));
        assertThat(new Drizzle(1, 0.6).noiseRatio()).isCloseTo(1.25, within(1e-9));
        assertThat(new Drizzle(1, 1).noiseRatio()).isCloseTo(1.5, within(1e-9));
    }

    @Test
    void theWayBackAndFinerPixelsAgreeWithTheMap() {
        PlaneTransform t = new PlaneTransform(0.98, 0.17, 5.5, -0.16, 1.01, -3.2);
        double x = 31.7;
        double y = 12.2;
        assertThat(t.inverse().x(t.x(x, y), t.y(x, y))).isCloseTo(x, within(1e-9));
        assertThat(t.inverse().y(t.x(x, y), t.y(x, y))).isCloseTo(y, within(1e-9));
        // The finer grid covers the same field: its first pixel's left edge lies at 0.5.
        PlaneTransform fine = t.finer(2);
        assertThat(fine.x(0.5, 0.5)).isCloseTo(t.x(0.5, 0.5), within(1e-9));
        assertThat(fine.y(2 * (x - 0.5) + 0.5, 2 * (y - 0.5) + 0.5)).isCloseTo(t.y(x, y), within(1e-9));
    }
}
