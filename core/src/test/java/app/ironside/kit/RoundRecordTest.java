package app.ironside.kit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import org.junit.jupiter.api.Test;

class RoundRecordTest {
    private static final RoundRecord RECORD =
            new RoundRecord(List.of(new RoundRecord.Length(60, 70, 49), new RoundRecord.Length(180, 20, 2)));

    /** By hand: 40 % reckoned counts as four of ten; 49 of 70 seen make 53 of 80. */
    @Test
    void whatWasSeenOutweighsWhatWasReckoned() {
        assertThat(RECORD.corrected(60, 0.4)).isCloseTo(53.0 / 80, within(1e-12));
        assertThat(RECORD.corrected(70, 0.4)).isCloseTo(53.0 / 80, within(1e-12));
    }

    @Test
    void anotherLengthTellsNothing() {
        assertThat(RECORD.about(100).taken()).isZero();
        assertThat(RECORD.corrected(100, 0.4)).isCloseTo(0.4, within(1e-12));
        assertThat(RoundRecord.NONE.corrected(60, 0.9)).isCloseTo(0.9, within(1e-12));
    }
}
