package app.ironside.stack;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The schools of rejection at one pixel, by hand and by laws. */
class RejectionTest {
    private static final float[] STEADY = {99, 99, 100, 100, 100, 100, 100, 101, 101, 101};

    private record Combined(float mean, int kept) {}

    private static Combined combine(Rejection school, float... values) {
        int[] kept = new int[1];
        float mean = school.combine(values.clone(), values.length, kept);
        return new Combined(mean, kept[0]);
    }

    private static float[] with(float[] values, float... more) {
        float[] all = Arrays.copyOf(values, values.length + more.length);
        System.arraycopy(more, 0, all, values.length, more.length);
        return all;
    }

    @ParameterizedTest
    @EnumSource(Rejection.class)
    void ofThreeValuesNoneIsLeftOut(Rejection school) {
        assertThat(combine(school, 1, 2, 300)).isEqualTo(new Combined(101, 3));
        assertThat(combine(school, 7)).isEqualTo(new Combined(7, 1));
        int[] kept = {5};
        assertThat(school.combine(new float[4], 0, kept)).isNaN();
        assertThat(kept[0]).isZero();
    }

    @Test
    void minMaxByHand() {
        assertThat(combine(Rejection.MIN_MAX, 4, 100, 1, 3, 2)).isEqualTo(new Combined(3, 3));
    }

    /** By hand: of 0 to 19 the tenths are 0, 1 and 18, 19. */
    @Test
    void percentileByHand() {
        float[] values = new float[20];
        for (int i = 0; i < 20; i++) {
            values[i] = (7 * i) % 20;
        }
        assertThat(combine(Rejection.PERCENTILE, values)).isEqualTo(new Combined(9.5f, 16));
    }

    /** One satellite in twenty frames goes, whatever the school, and nothing else does (percentile and min-max take their share). */
    @Test
    void aSatelliteIsLeftOut() {
        float[] twenty = with(STEADY, STEADY);
        float mean = combine(Rejection.NONE, twenty).mean;
        for (Rejection school : new Rejection[] {Rejection.SIGMA, Rejection.WINSORIZED, Rejection.LINEAR_FIT}) {
            Combined done = combine(school, with(twenty, 4000));
            assertThat(done.kept).as(school.word()).isEqualTo(20);
            assertThat(done.mean).isCloseTo(mean, within(1e-4f));
        }
        assertThat(combine(Rejection.PERCENTILE, with(twenty, 4000)).mean).isCloseTo(100, within(0.3f));
        assertThat(combine(Rejection.MIN_MAX, with(twenty, 4000)).mean).isCloseTo(mean, within(0.1f));
        assertThat(combine(Rejection.NONE, with(twenty, 4000)).mean).isGreaterThan(280);
    }

    /**
     * By hand: two of twelve at 200 lift the deviation to 38.9, so that three of it reach past them and plain clipping keeps both; pulled
     * in, they do not lift it (masking; Barnett and Lewis 1994, Outliers in Statistical Data, 4.4).
     */
    @Test
    void twoOutliersHideEachOtherFromPlainSigma() {
        float[] twelve = with(STEADY, 200, 200);
        assertThat(combine(Rejection.SIGMA, twelve).kept).isEqualTo(12);
        Combined pulled = combine(Rejection.WINSORIZED, twelve);
        assertThat(pulled.kept).isEqualTo(10);
        assertThat(pulled.mean).isCloseTo(100.1f, within(1e-4f));
    }

    /** Of few values an outlier lifts the deviation so much that three of it always reach it: (n − 1) / √n is 2.47 for eight. */
    @Test
    void ofEightTheOneThatIsFarOutGoes() {
        float[] seven = {100, 101, 99, 100, 102, 98, 100};
        assertThat(combine(Rejection.SIGMA, with(seven, 160)).kept).isEqualTo(7);
        assertThat(combine(Rejection.SIGMA, with(seven, 40)).kept).isEqualTo(7);
        assertThat(combine(Rejection.SIGMA, with(seven, 103)).kept).isEqualTo(8);
    }

    /** A sky that brightens from sub to sub: the line follows it, and what stands off the line goes. By hand: mean of 100 to 200. */
    @Test
    void theLineFollowsADrift() {
        float[] drift = new float[21];
        for (int i = 0; i < 21; i++) {
            drift[i] = 100 + 5 * i;
        }
        assertThat(combine(Rejection.LINEAR_FIT, drift)).isEqualTo(new Combined(150, 21));
        assertThat(combine(Rejection.LINEAR_FIT, with(drift, 500, 520))).isEqualTo(new Combined(150, 21));
    }

    /**
     * Of 25 Gaussian values, three sigma drop 0.27 % each and the mean is that of nearly all; the min-max mean of 25 has an efficiency of
     * some 0.98 (order statistics; from memory). Held to what 4,000 sets can tell.
     */
    @ParameterizedTest
    @EnumSource(Rejection.class)
    void littleIsLostWhereNothingIsWrong(Rejection school) {
        Random random = new Random(5);
        int sets = 4000;
        int n = 25;
        double squares = 0;
        long kept = 0;
        for (int set = 0; set < sets; set++) {
            float[] values = new float[n];
            for (int i = 0; i < n; i++) {
                values[i] = (float) random.nextGaussian();
            }
            Combined done = combine(school, values);
            squares += (double) done.mean * done.mean;
            kept += done.kept;
        }
        double share = kept / (double) (sets * n);
        double lost =
                switch (school) {
                    case NONE -> 0;
                    case MIN_MAX -> 2.0 / 25;
                    case PERCENTILE -> 4.0 / 25;
                    default -> 0.01;
                };
        assertThat(1 - share).isBetween(lost - 0.011, lost + 0.011);
        double sigma = Math.sqrt(squares / sets);
        assertThat(sigma * Math.sqrt(n)).isBetween(0.96, 1.07);
    }

    /** Laws: the result lies among the values, and their order does not matter. */
    @Property(tries = 300)
    void betweenTheValuesInAnyOrder(@ForAll @Size(min = 1, max = 40) float[] values, @ForAll Rejection school) {
        for (int i = 0; i < values.length; i++) {
            values[i] = Float.isFinite(values[i]) ? Math.max(-1e6f, Math.min(1e6f, values[i])) : i;
        }
        Combined done = combine(school, values);
        float[] sorted = values.clone();
        Arrays.sort(sorted);
        float slack = 1e-6f * Math.max(Math.abs(sorted[0]), Math.abs(sorted[sorted.length - 1])) + 1e-30f;
        assertThat(done.mean).isBetween(sorted[0] - slack, sorted[sorted.length - 1] + slack);
        assertThat(done.kept).isBetween(1, values.length);
        float[] turned = values.clone();
        for (int i = 0; i < turned.length; i++) {
            turned[i] = values[values.length - 1 - i];
        }
        Combined other = combine(school, turned);
        assertThat(other.kept).isEqualTo(done.kept);
        // Sums of large numbers that cancel depend on their order in the last digits.
        assertThat(other.mean).isCloseTo(done.mean, within(slack));
    }
}
