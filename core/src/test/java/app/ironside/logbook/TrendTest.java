package app.ironside.logbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.hipparchus.stat.regression.SimpleRegression;
import org.junit.jupiter.api.Test;

/** The line by simple regression of Hipparchus; its error by nights that are known to differ. */
class TrendTest {
    /** Nights of a few to thirty subs, each off by an amount of its own that is as large as the scatter within. */
    private static List<SubSearch.Point> nights(int nights, double slope, long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        List<SubSearch.Point> points = new ArrayList<>();
        for (int night = 0; night < nights; night++) {
            double off = 3 * random.nextGaussian();
            double around = random.nextDouble(-5, 15);
            for (int sub = 0; sub < random.nextInt(3, 30); sub++) {
                double x = around + random.nextDouble(-2, 2);
                points.add(new SubSearch.Point(night, x, 40 + slope * x + off + 3 * random.nextGaussian()));
            }
        }
        return points;
    }

    @Test
    void theLineIsThatOfLeastSquares() {
        List<SubSearch.Point> points = nights(20, -3, 1);
        SimpleRegression line = new SimpleRegression();
        points.forEach(p -> line.addData(p.x(), p.y()));
        Trend t = Trend.of(points).orElseThrow();
        assertThat(t.slope()).isCloseTo(line.getSlope(), within(1e-9));
        assertThat(t.at(4)).isCloseTo(line.predict(4), within(1e-9));
        assertThat(t.subs()).isEqualTo(points.size());
        assertThat(t.nights()).isEqualTo(20);
        // An error that takes every sub for a witness is far too small here.
        assertThat(t.slopeError()).isGreaterThan(1.5 * line.getSlopeStdErr());
    }

    /** 600 archives of 12 to 40 nights: the true slope lies within in 95 %, to three errors of such a share. */
    @Test
    void theIntervalHoldsTheTruthAsOftenAsItSays() {
        int held = 0;
        for (int i = 0; i < 600; i++) {
            Trend t = Trend.of(nights(12 + i % 29, 0.7, 100 + i)).orElseThrow();
            held += Math.abs(t.slope() - 0.7) < t.slopeWithin() ? 1 : 0;
        }
        assertThat(held / 600.0).isBetween(0.92, 0.98);
    }

    /** Without any slope, one in twenty is claimed at most. */
    @Test
    void whereThereIsNothingHardlyAnythingIsClaimed() {
        int claimed = 0;
        for (int i = 0; i < 600; i++) {
            claimed += Trend.of(nights(25, 0, 9000 + i)).orElseThrow().isSure() ? 1 : 0;
        }
        assertThat(claimed / 600.0).isLessThan(0.08);
    }

    @Test
    void wordsSayHowSureItIs() {
        assertThat(Trend.of(nights(30, -3, 3)).orElseThrow().sentence(SubFact.TEMPERATURE, SubFact.FOCUS))
                .matches("-\\d\\.\\d\\d ± 0\\.\\d+ steps per °C \\(95 %\\), over \\d+ subs of 30 nights\\.");
        assertThat(Trend.of(nights(2, -3, 3)).orElseThrow().sentence(SubFact.TEMPERATURE, SubFact.FOCUS))
                .endsWith("of 2 nights: too few nights to tell how sure that is.");
        assertThat(Trend.of(nights(25, 0, 5)).orElseThrow().sentence(SubFact.ALTITUDE, SubFact.SIZE))
                .contains("leaves it open");
        assertThat(Trend.of(nights(1, 0, 5).subList(0, 3))).isEmpty();
        assertThat(Trend.of(List.of(
                        new SubSearch.Point(1, 2, 3),
                        new SubSearch.Point(1, 2, 4),
                        new SubSearch.Point(2, 2, 5),
                        new SubSearch.Point(2, 2, 6),
                        new SubSearch.Point(3, 2, 7))))
                .isEmpty();
    }
}
