package app.ironside.focus;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import app.ironside.focus.FocusModel.Run;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.hipparchus.stat.regression.OLSMultipleLinearRegression;
import org.junit.jupiter.api.Test;

class FocusModelTest {
    private static final Instant START = Instant.parse("2026-09-01T20:00:00Z");

    /** Nights of five runs in two filters, a slope of −4 steps a degree, and what was unscrewed between nights. */
    private static List<Run> nights(int count, double betweenNights, long seed) {
        Random random = new Random(seed);
        List<Run> runs = new ArrayList<>();
        for (int night = 0; night < count; night++) {
            double warm = 14 - 1.2 * night + random.nextGaussian();
            double moved = betweenNights * random.nextGaussian();
            for (int k = 0; k < 5; k++) {
                double temperature = warm - k;
                String filter = k % 2 == 0 ? "L" : "B";
                runs.add(new Run(
                        night,
                        START.plus(Duration.ofDays(night)).plus(Duration.ofHours(k)),
                        filter,
                        temperature,
                        2500 - 4 * temperature + (filter.equals("B") ? 7 : 0) + moved + 0.8 * random.nextGaussian()));
            }
        }
        return runs;
    }

    /** Against a general-purpose regression of the same unknowns (Hipparchus, ordinary least squares). */
    @Test
    void agreesWithOrdinaryLeastSquares() {
        List<Run> runs = nights(6, 1.5, 3);
        OLSMultipleLinearRegression ols = new OLSMultipleLinearRegression();
        ols.newSampleData(
                runs.stream().mapToDouble(Run::position).toArray(),
                runs.stream()
                        .map(r -> new double[] {r.temperatureC(), r.filter().equals("B") ? 1 : 0})
                        .toArray(double[][]::new));
        FocusModel model = FocusModel.of(runs, 6).orElseThrow();
        double[] beta = ols.estimateRegressionParameters();
        assertThat(model.stepsPerDegree()).isCloseTo(beta[1], within(1e-6));
        assertThat(model.expected("L", 5)).isCloseTo(beta[0] + 5 * beta[1], within(1e-6));
        assertThat(model.expected("B", 5)).isCloseTo(beta[0] + 5 * beta[1] + beta[2], within(1e-6));
    }

    /** Truth: −4 steps a degree lies within twice the error it claims in at least nineteen of twenty records, nights moved or not. */
    @Test
    void theErrorOfTheSlopeIsHonest() {
        for (double moved : new double[] {0, 4}) {
            int inside = 0;
            for (int seed = 0; seed < 100; seed++) {
                FocusModel m = FocusModel.of(nights(8, moved, seed), 6).orElseThrow();
                inside += Math.abs(m.stepsPerDegree() + 4) <= 2 * m.slopeSigma() ? 1 : 0;
            }
            assertThat(inside).isGreaterThanOrEqualTo(91);
        }
    }

    @Test
    void aCompensationIsCarriedOnlyOnceTheRecordIsLongEnough() {
        List<Run> runs = nights(6, 0.5, 5);
        FocusModel few = FocusModel.of(runs.subList(0, 8), 6).orElseThrow();
        assertThat(few.supportedSince()).isEmpty();
        assertThat(few.lacks(6)).isEqualTo("8 runs on 2 nights; 10 on 3 are wanted");
        FocusModel all = FocusModel.of(runs, 6).orElseThrow();
        assertThat(all.supportedSince()).isPresent();
        assertThat(all.supportedSince().orElseThrow())
                .isAfterOrEqualTo(runs.get(9).time());
        assertThat(FocusModel.of(runs, 0.2).orElseThrow().lacks(0.2)).contains("leads out of the critical zone");
    }

    /** A run that found another minimum pulls nothing. */
    @Test
    void aRunFarOffIsLeftOut() {
        List<Run> runs = new ArrayList<>(nights(6, 0, 7));
        double slope = FocusModel.of(runs, 6).orElseThrow().stepsPerDegree();
        runs.add(new Run(6, START.plus(Duration.ofDays(9)), "L", 2, 3100));
        assertThat(FocusModel.of(runs, 6).orElseThrow().stepsPerDegree()).isCloseTo(slope, within(1e-9));
    }

    @Test
    void fewRunsAtOneTemperatureAreNoModel() {
        assertThat(FocusModel.of(nights(1, 0, 1).subList(0, 3), 6)).isEmpty();
        List<Run> same = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            same.add(new Run(i, START.plus(Duration.ofDays(i)), "L", 5, 2480 + i % 2));
        }
        assertThat(FocusModel.of(same, 6)).isEmpty();
    }
}
