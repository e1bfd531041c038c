package app.ironside.star;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

/** Another implementation: the sort of the Java library. */
class SampleSortTest {
    private static void agrees(float[] values) {
        float[] expected = values.clone();
        Arrays.sort(expected);
        float[] sorted = values.clone();
        new SampleSort(values.length).sort(sorted, sorted.length);
        assertThat(sorted).containsExactly(expected);
    }

    @Property(tries = 500)
    void anyNumbers(@ForAll @Size(max = 60) float[] values) {
        for (int i = 0; i < values.length; i++) {
            values[i] = Float.isNaN(values[i]) ? i : values[i];
        }
        agrees(values);
    }

    @Test
    void specialNumbers() {
        agrees(new float[] {
            0,
            -0.0f,
            1,
            -1,
            Float.MAX_VALUE,
            -Float.MAX_VALUE,
            Float.MIN_VALUE,
            Float.POSITIVE_INFINITY,
            Float.NEGATIVE_INFINITY
        });
        agrees(new float[0]);
        agrees(new float[] {5});
        agrees(new float[] {7, 7, 7, 7});
    }

    /** One after another with the same room, of different lengths: nothing of the one before is left. */
    @Test
    void theRoomIsUsedAgain() {
        Random random = new Random(2);
        SampleSort sort = new SampleSort(1400);
        for (int n : new int[] {1024, 9, 1400, 0, 700}) {
            float[] values = new float[1400];
            for (int i = 0; i < values.length; i++) {
                values[i] = (float) (1000 + 12 * random.nextGaussian());
            }
            float[] expected = values.clone();
            Arrays.sort(expected, 0, n);
            sort.sort(values, n);
            assertThat(values).as("what lies behind stays as it is").containsExactly(expected);
        }
    }
}
