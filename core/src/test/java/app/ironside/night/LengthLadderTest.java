package app.ironside.night;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** By hand: to twice a short length; of a long one no rung is longer, so that all take less than twice its time. */
class LengthLadderTest {
    @ParameterizedTest
    @CsvSource({
        "60, '15.0, 30.0, 60.0, 120.0'",
        "90, '22.5, 45.0, 90.0, 180.0'",
        "300, '37.5, 75.0, 150.0, 300.0'",
        "5, '2.5, 5.0, 10.0'",
        "12, '3.0, 6.0, 12.0, 24.0'"
    })
    void lengthsDoubleFromRungToRung(double planned, String lengths) {
        List<Double> rungs = LengthLadder.lengths(planned);
        assertThat(rungs.toString()).isEqualTo("[" + lengths + "]");
        assertThat(rungs).isSorted();
    }
}
