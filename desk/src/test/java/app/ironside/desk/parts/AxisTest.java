package app.ironside.desk.parts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is written beside an axis; by hand, and by laws. */
class AxisTest {
    @Test
    void theRangeHasRoomOnEitherSide() {
        assertThat(Axis.around(10, 20, 0.1)).isEqualTo(new Axis(9, 21));
        assertThat(Axis.around(-5, 5, 0)).isEqualTo(new Axis(-5, 5));
    }

    /** One value, or many that are alike, must not make an axis of a billionth with labels of ten decimals. */
    @ParameterizedTest
    @CsvSource({"2.7, 2.7", "0, 0", "-1500, -1500", "2.7, 2.7000000001"})
    void aSingleValueHasASensibleAxis(double low, double high) {
        Axis axis = Axis.around(low, high, 0.1);
        assertThat(axis.low()).isLessThan(low);
        assertThat(axis.high()).isGreaterThan(high);
        double step = axis.step(5);
        assertThat(axis.ticks(step)).hasSizeBetween(2, 6);
        assertThat(axis.ticks(step))
                .allSatisfy(t -> assertThat(Axis.label(t, step)).hasSizeLessThan(7));
    }

    @ParameterizedTest
    @CsvSource({"0, 10, 5, 2", "0, 1, 4, 0.5", "0, 100, 10, 10", "3, 3.5, 4, 0.2", "0, 24, 8, 5", "0, 0.0009, 3, 0.0005"
    })
    void stepsAreOneTwoOrFive(double low, double high, double most, double step) {
        assertThat(new Axis(low, high).step(most)).isCloseTo(step, within(step * 1e-9));
    }

    @Test
    void ticksAreTheMultiplesInside() {
        assertThat(new Axis(-3, 7).ticks(2)).containsExactly(-2.0, 0.0, 2.0, 4.0, 6.0);
        assertThat(new Axis(0.05, 0.35).ticks(0.1)).hasSize(3);
        assertThat(new Axis(4, 8).ticks(2)).containsExactly(4.0, 6.0, 8.0);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"1500|500|1,500", "-2.5|0.5|−2.5", "0.30000000000000004|0.1|0.3", "-0.00000000001|0.1|0.0", "7|2|7"
            })
    void labelsHaveTheDecimalsOfTheirStep(double value, double step, String label) {
        assertThat(Axis.label(value, step)).isEqualTo(label);
    }

    @Test
    void placesLieInProportion() {
        Axis axis = new Axis(10, 20);
        assertThat(axis.at(10, 60, 160)).isEqualTo(60);
        assertThat(axis.at(12.5, 60, 160)).isEqualTo(85);
        assertThat(axis.at(20, 200, 40)).as("upward on a drawing").isEqualTo(40);
    }

    /** Laws: never more labels than there is room for, never fewer than two in a room for four, all inside and evenly spaced. */
    @Property(tries = 200)
    void labelsFit(
            @ForAll @DoubleRange(min = -1e6, max = 1e6) double low,
            @ForAll @DoubleRange(min = 1e-4, max = 1e6) @Scale(4) double spread,
            @ForAll @DoubleRange(min = 4, max = 30) double most) {
        Axis axis = new Axis(low, low + spread);
        double step = axis.step(most);
        var ticks = axis.ticks(step);
        // Beside a large number the last digits of a double are all that a tiny spread has.
        double slack = 1e-8 * step + 1e-12 * Math.abs(low);
        assertThat(ticks.size()).isBetween(1, (int) most + 1);
        assertThat(ticks).allSatisfy(t -> assertThat(t).isBetween(low - slack, low + spread));
        for (int i = 1; i < ticks.size(); i++) {
            assertThat(ticks.get(i) - ticks.get(i - 1)).isCloseTo(step, within(step * 1e-5 + 1e-9));
        }
    }
}
