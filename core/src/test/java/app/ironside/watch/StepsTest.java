package app.ironside.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.SplittableRandom;
import java.util.stream.IntStream;
import org.hipparchus.stat.regression.OLSMultipleLinearRegression;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Reference: multiple regression of Hipparchus 3, with the step as one of its columns. */
class StepsTest {
    @ParameterizedTest
    @CsvSource({"12, 8, 1", "40, 8, 2", "120, 4.8, 3", "30, 0, 4", "7, 8, 5"})
    void aStepIsWhatAFullRegressionFinds(int n, double worm, long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        double[] minutes = IntStream.range(0, n)
                .mapToDouble(k -> 3.1 * k + random.nextDouble())
                .toArray();
        double[] values = IntStream.range(0, n)
                .mapToDouble(k -> 40 + 11 * Math.sin(minutes[k]) + (k >= n / 2 ? 25 : 0) + 6 * random.nextGaussian())
                .toArray();
        Steps steps = new Steps(minutes, values, worm);

        for (int cut = 3; cut < n - 2; cut++) {
            OLSMultipleLinearRegression full = new OLSMultipleLinearRegression();
            full.newSampleData(values, columns(minutes, worm, cut));
            double height = full.estimateRegressionParameters()[1];
            double error = full.estimateRegressionParametersStandardErrors()[1];

            assertThat(steps.at(cut).height()).isCloseTo(height, within(1e-9 * (1 + Math.abs(height))));
            assertThat(steps.at(cut).errors()).isCloseTo(Math.abs(height) / error, within(1e-6));
        }
    }

    private static double[][] columns(double[] minutes, double worm, int cut) {
        boolean swings = worm > 0 && minutes.length > 8;
        double[][] x = new double[minutes.length][swings ? 3 : 1];
        for (int k = 0; k < x.length; k++) {
            x[k][0] = k >= cut ? 1 : 0;
            if (swings) {
                x[k][1] = Math.sin(2 * Math.PI * minutes[k] / worm);
                x[k][2] = Math.cos(2 * Math.PI * minutes[k] / worm);
            }
        }
        return x;
    }

    @ParameterizedTest
    @CsvSource({"0", "10"})
    void aStepThatIsNoneHasNoHeight(int cut) {
        double[] values = {1, 2, 3, 4, 5, 4, 3, 2, 1, 0};
        double[] minutes = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9};

        assertThat(new Steps(minutes, values, 4).at(cut)).isEqualTo(new Steps.Step(0, 0));
    }
}
