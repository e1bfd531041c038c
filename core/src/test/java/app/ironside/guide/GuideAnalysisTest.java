package app.ironside.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import app.ironside.BadInputException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Records of a mount, its gears and the air that numpy drew (tools/guide-logs.py): what was put in is found. */
class GuideAnalysisTest {
    @TempDir
    Path folder;

    private static Path resource(String name) throws Exception {
        return Path.of(GuideAnalysisTest.class.getResource(name).toURI());
    }

    private static GuideAnalysis analysis(String name) throws Exception {
        return GuideAnalysis.of(GuideLog.read(resource(name)));
    }

    @Test
    void anUnguidedMountShowsItsGearsItsAxisAndTheAir() throws Exception {
        GuideAnalysis a = analysis("unguided.csv");
        assertThat(a.seeingArcsec()).isCloseTo(1.0, within(0.06));
        assertThat(a.periods()).hasSize(2);
        assertThat(a.periods().get(0).periodSeconds()).isCloseTo(480, within(3.0));
        assertThat(a.periods().get(0).amplitude()).isCloseTo(12, within(0.2));
        assertThat(a.periods().get(1).periodSeconds()).isCloseTo(160, within(1.0));
        assertThat(a.periods().get(1).amplitude()).isCloseTo(3, within(0.2));
        assertThat(a.decDriftArcsecPerMin()).isCloseTo(2.0, within(0.02));
        assertThat(a.excursions()).isEmpty();
        // By hand: a drift of 60″ has the variance 60² / 12 = 300, the gears 12² / 2 + 3² / 2 = 76.5, the air 1.
        assertThat(a.blame().get(0).cause()).isEqualTo(GuideCause.ALIGNMENT);
        assertThat(a.blame().get(0).share()).isCloseTo(300 / 377.5, within(0.02));
        assertThat(a.blame().get(1).cause()).isEqualTo(GuideCause.GEARS);
        assertThat(a.blame().get(1).share()).isCloseTo(76.5 / 377.5, within(0.02));
    }

    @Test
    void behindALoopTheAirAndTheDriftAreFoundAllTheSame() throws Exception {
        GuideAnalysis a = analysis("guided.csv");
        assertThat(a.seeingArcsec()).isCloseTo(0.8, within(0.08));
        assertThat(a.decDriftArcsecPerMin()).isCloseTo(3.0, within(0.4));
        assertThat(a.periods().get(0).periodSeconds()).isCloseTo(60, within(0.3));
        assertThat(a.blame().get(0).cause()).isEqualTo(GuideCause.GEARS);
        assertThat(a.advice().get(0)).contains("60 s");
    }

    @Test
    void aLoopThatSendsBackTooMuchIsNamed() throws Exception {
        GuideAnalysis a = analysis("hasty.csv");
        assertThat(a.seeingArcsec()).isCloseTo(0.8, within(0.08));
        assertThat(a.blame().get(0).cause()).isEqualTo(GuideCause.CONTROL);
        assertThat(a.advice()).anyMatch(s -> s.contains("send back 50 to 70 %"));
    }

    @Test
    void gustsAreStampedAndDoNotCountAsAir() throws Exception {
        GuideAnalysis a = analysis("gusts.csv");
        assertThat(a.seeingArcsec()).isCloseTo(0.6, within(0.05));
        assertThat(a.excursions()).hasSize(2);
        assertThat(a.excursions().get(0).fromSeconds()).isCloseTo(600, within(2.0));
        assertThat(a.excursions().get(1).fromSeconds()).isCloseTo(1200, within(2.0));
        assertThat(a.excursions()).allMatch(e -> e.cause() == GuideCause.WIND_OR_CABLE && e.peakArcsec() > 6);
    }

    /** Sums of squares by numpy.linalg.lstsq. */
    @Test
    void powerIsThatOfLeastSquares() throws Exception {
        List<String> lines = Files.readAllLines(resource("sums.csv"));
        double[] t = numbers(lines.get(1));
        double[] y = numbers(lines.get(2));
        for (String line : lines.subList(3, lines.size())) {
            double[] periodAndPower = numbers(line);
            assertThat(Periodogram.power(t, y, periodAndPower[0])).as(line).isCloseTo(periodAndPower[1], within(2e-6));
        }
    }

    private static double[] numbers(String line) {
        return Arrays.stream(line.split(",")).mapToDouble(Double::parseDouble).toArray();
    }

    /** Noise has periods by chance only: at one in a thousand, hardly ever in a hundred records. */
    @Test
    void noiseHasNoPeriods() {
        Random random = new Random(6);
        int found = 0;
        for (int k = 0; k < 100; k++) {
            double[] t = new double[150];
            double[] y = new double[150];
            for (int i = 0; i < t.length; i++) {
                t[i] = 2.0 * i;
                y[i] = random.nextGaussian();
            }
            found += Periodogram.of(t, y, 12).isEmpty() ? 0 : 1;
        }
        assertThat(found).isLessThanOrEqualTo(3);
    }

    private static GuideLog correlated(Random random, int n, double sigma, double memory) {
        double[] t = new double[n];
        double[][] axes = new double[2][n];
        for (int i = 0; i < n; i++) {
            t[i] = 2.0 * i;
            for (double[] axis : axes) {
                double fresh = sigma * random.nextGaussian() * Math.sqrt(1 - memory * memory);
                axis[i] = i == 0 ? sigma * random.nextGaussian() : memory * axis[i - 1] + fresh;
            }
        }
        return new GuideLog(
                t,
                axes[0],
                axes[1],
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                OptionalDouble.empty(),
                true);
    }

    /** Two thousand by hand. */
    private static final int PAIRS = Integer.getInteger("guide.pairs", 500);

    /** Runs that do not differ are called different at most as often as the level says, also where each sample remembers the last ones. */
    @Test
    void whereThereIsNoDifferenceNoneIsClaimed() {
        for (double memory : new double[] {0, 0.6, 0.9}) {
            Random random = new Random(9);
            int claimed = 0;
            for (int k = 0; k < PAIRS; k++) {
                GuideComparison c =
                        GuideComparison.of(correlated(random, 240, 0.5, memory), correlated(random, 240, 0.5, memory));
                claimed += c.pValue() < 0.05 ? 1 : 0;
            }
            // Binomial: more than 2.35 deviations above 5 % come about less than once in a hundred times.
            assertThat((double) claimed)
                    .as("memory " + memory)
                    .isLessThanOrEqualTo(0.05 * PAIRS + 2.35 * Math.sqrt(0.05 * 0.95 * PAIRS));
        }
    }

    @Test
    void aLargeDifferenceIsFoundWithItsSize() {
        Random random = new Random(10);
        int found = 0;
        for (int k = 0; k < 50; k++) {
            // The air is the same white noise in both; the second adds a slow unrest.
            GuideLog steady = correlated(random, 600, 0.5, 0);
            GuideLog restless = correlated(random, 600, 0.8, 0.9);
            for (int i = 0; i < restless.size(); i++) {
                restless.ra()[i] += 0.5 * random.nextGaussian();
                restless.dec()[i] += 0.5 * random.nextGaussian();
            }
            GuideComparison c = GuideComparison.of(restless, steady);
            found += c.verdict() == GuideComparison.Verdict.WORSE ? 1 : 0;
            assertThat(c.rmsRatio()).isBetween(c.low95(), c.high95());
        }
        assertThat(found).isGreaterThan(40);
    }

    /** Twice the air under the same mount: steadier is not said of what was only quieter air. */
    @Test
    void theAirIsNotTakenForTheMount() {
        Random random = new Random(12);
        GuideComparison c = GuideComparison.of(correlated(random, 600, 0.5, 0), correlated(random, 600, 1.0, 0));
        assertThat(c.pValue()).isLessThan(0.05);
        assertThat(c.verdict()).isEqualTo(GuideComparison.Verdict.OPEN);
        assertThat(c.sentence()).contains("air");
    }

    @Test
    void badRecordsAreNamedByLine() throws Exception {
        Path file = folder.resolve("log.csv");
        Files.writeString(file, "time_s,ra_arcsec,dec_arcsec\n0,0,0\n2,x,0\n");
        assertThatThrownBy(() -> GuideLog.read(file))
                .isInstanceOf(BadInputException.class)
                .hasMessageContaining("line 3")
                .hasMessageContaining("no number");
        Files.writeString(file, "time,ra,dec\n0,0,0\n");
        assertThatThrownBy(() -> GuideLog.read(file)).hasMessageContaining("titles");
        Files.writeString(file, "time_s,ra_arcsec,dec_arcsec\n2,0,0\n2,0,0\n");
        assertThatThrownBy(() -> GuideLog.read(file)).hasMessageContaining("times that rise");
        Files.writeString(file, "time_s,ra_arcsec,dec_arcsec\n2,0,0\n4,NaN,0\n");
        assertThatThrownBy(() -> GuideLog.read(file)).isInstanceOf(BadInputException.class);
        Files.writeString(file, "time_s,ra_arcsec,dec_arcsec\n2,0,0\n");
        assertThatThrownBy(() -> GuideLog.read(file)).hasMessageContaining("at least 20");
    }
}
