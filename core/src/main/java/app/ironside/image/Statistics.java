package app.ironside.image;

import app.ironside.Check;
import java.util.Arrays;
import org.hipparchus.util.KthSelector;

/** Robust statistics of samples. */
public final class Statistics {
    /** 1 / Φ⁻¹(3/4): turns the median absolute deviation of a Gaussian into its standard deviation. */
    private static final double MAD_TO_SIGMA = 1.4826;

    private static final int CLIP_ROUNDS = 8;

    private static final double HUBER = 1.5;

    /** Standard deviation of Gaussian values pulled in at 1.5 sigma, over their own (Huber 1981, Robust Statistics). */
    private static final double WINSOR_LOSS = 1.134;

    private static final int WINSOR_ROUNDS = 10;
    private static final double SETTLED = 0.003;

    /**
     * A deviation of fewer quanta is that of the rounding: with this floor one good value in 2,400 and fewer is lost of noise of 0.6 quanta
     * (simulated, sets of 5 to 50, for any place between two whole numbers).
     */
    private static final double LEAST_QUANTA = 0.65;

    private static final int FEWEST_FOR_QUARTILES = 8;

    /** Distance of a Gaussian's quartiles in standard deviations. */
    private static final double QUARTILES_OF_GAUSSIAN = 1.349;

    /** By quartiles a deviation is known to a quarter or worse: well within the limit is within it. */
    private static final double SURELY_WITHIN = 0.7;

    /** However far a fifth of some values lie off, they are two of their common deviations off: √((1 − f) / f). Fewer stand out more. */
    private static final double NO_FIFTH = 1.9;

    private static final int MOST_TO_INSERT = 40;

    /** Centre and spread of a sample. */
    public record Spread(double centre, double sigma, int count) {}

    private static final KthSelector SELECTOR = new KthSelector();

    private Statistics() {}

    /**
     * The median; of an even number of samples the mean of the middle two. NaN is left out.
     *
     * @param samples at least one that is not NaN; not modified
     */
    public static double median(float[] samples) {
        float[] sorted = finite(samples);
        Check.atLeast("samples.length", sorted.length, 1);
        return middle(sorted);
    }

    /** As above for doubles. */
    public static double median(double[] samples) {
        double[] work = new double[samples.length];
        int n = 0;
        for (double sample : samples) {
            if (!Double.isNaN(sample)) {
                work[n++] = sample;
            }
        }
        Check.atLeast("samples.length", n, 1);
        work = n == work.length ? work : Arrays.copyOf(work, n);
        int half = n / 2;
        double upper = SELECTOR.select(work, null, half);
        if (n % 2 == 1) {
            return upper;
        }
        // The selector leaves what is smaller before it.
        double lower = work[0];
        for (int i = 1; i < half; i++) {
            lower = Math.max(lower, work[i]);
        }
        return (lower + upper) / 2;
    }

    private static double middle(float[] sorted) {
        int half = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[half] : ((double) sorted[half - 1] + sorted[half]) / 2;
    }

    /**
     * Scatter that outliers hardly move: the scaled median absolute deviation.
     *
     * @param samples at least 1, not modified
     * @return 0 if more than half are equal
     */
    public static double noise(double[] samples) {
        double middle = median(samples);
        double[] off = new double[samples.length];
        for (int i = 0; i < off.length; i++) {
            off[i] = Math.abs(samples[i] - middle);
        }
        return MAD_TO_SIGMA * median(off);
    }

    /**
     * Median and the scaled median absolute deviation: a centre and noise that stars and hot pixels hardly move.
     *
     * @see "Rousseeuw and Croux 1993, J. Am. Stat. Assoc. 88, 1273"
     */
    public static Spread robust(float[] samples) {
        float[] work = finite(samples);
        Check.atLeast("samples.length", work.length, 1);
        double centre = middle(work);
        for (int i = 0; i < work.length; i++) {
            work[i] = (float) Math.abs(work[i] - centre);
        }
        Arrays.sort(work);
        return new Spread(centre, MAD_TO_SIGMA * middle(work), work.length);
    }

    /**
     * Mean and standard deviation of what is left after samples further than {@code kappa} sigma from the median have been
     * dropped, again and again until none goes.
     *
     * @param kappa at least 1
     * @param quantum to whole multiples of which the samples were rounded, 0 if they were not: a spread below it says nothing
     */
    public static Spread clipped(float[] samples, double kappa, double quantum) {
        float[] sorted = finite(samples);
        Check.atLeast("samples.length", sorted.length, 1);
        return clippedSorted(sorted, sorted.length, kappa, quantum);
    }

    /**
     * As {@link #clipped}, for whoever asks millions of times.
     *
     * @param sorted ascending and finite; the first {@code n} count; not modified
     */
    public static Spread clippedSorted(float[] sorted, int n, double kappa, double quantum) {
        if (noneStandsOut(sorted, 0, n, kappa)) {
            return meanAndDeviation(sorted, 0, n);
        }
        int low = 0;
        int high = n;
        double least = LEAST_QUANTA * quantum;
        // Not the median absolute deviation: of whole numbers with little noise it is 0, and every other number would
        // be an outlier.
        Spread spread = new Spread(middle(sorted, 0, n), winsorizedSigma(sorted, 0, n, middle(sorted, 0, n), least), n);
        for (int round = 0; round < CLIP_ROUNDS; round++) {
            double reach = kappa * Math.max(least, spread.sigma());
            double centre = middle(sorted, low, high);
            int newLow = low;
            int newHigh = high;
            while (newLow < newHigh && sorted[newLow] < centre - reach) {
                newLow++;
            }
            while (newHigh > newLow && sorted[newHigh - 1] > centre + reach) {
                newHigh--;
            }
            boolean settled = newLow == low && newHigh == high && round > 0;
            if (newHigh == newLow) {
                break;
            }
            low = newLow;
            high = newHigh;
            spread = meanAndDeviation(sorted, low, high);
            if (settled) {
                break;
            }
        }
        return spread;
    }

    /**
     * Whether the farthest of some values lie so near, by the distance of their quartiles or by their common deviation, that no clipping at {@code kappa} sigma would take
     * one: true of most pixels of most sets, and quickly told.
     *
     * @param sorted ascending; those from {@code low} up to {@code high} count
     */
    public static boolean noneStandsOut(float[] sorted, int low, int high, double kappa) {
        int n = high - low;
        if (n < FEWEST_FOR_QUARTILES) {
            return false;
        }
        double centre = middle(sorted, low, high);
        double farthest = Math.max(sorted[high - 1] - centre, centre - sorted[low]);
        double quartiles = (sorted[low + 3 * n / 4] - sorted[low + n / 4]) / QUARTILES_OF_GAUSSIAN;
        if (farthest <= SURELY_WITHIN * kappa * quartiles) {
            return true;
        }
        double squares = 0;
        for (int i = low; i < high; i++) {
            squares += (sorted[i] - centre) * (sorted[i] - centre);
        }
        return farthest * farthest * (n - 1) <= NO_FIFTH * NO_FIFTH * squares;
    }

    /**
     * The centre that {@link #clippedSorted} gives.
     */
    public static double clippedMean(float[] sorted, int n, double kappa, double quantum) {
        boolean within =
                noneStandsOut(sorted, 0, n, kappa) || sorted[n - 1] - sorted[0] <= kappa * LEAST_QUANTA * quantum;
        if (!within) {
            return clippedSorted(sorted, n, kappa, quantum).centre();
        }
        double sum = 0;
        for (int i = 0; i < n; i++) {
            sum += sorted[i];
        }
        return sum / n;
    }

    /** Sorts the first few of an array: for few values this is faster than the library's sorting, which is made for many. */
    public static void sort(float[] values, int n) {
        if (n > MOST_TO_INSERT) {
            Arrays.sort(values, 0, n);
            return;
        }
        for (int i = 1; i < n; i++) {
            float v = values[i];
            int k = i - 1;
            while (k >= 0 && values[k] > v) {
                values[k + 1] = values[k];
                k--;
            }
            values[k + 1] = v;
        }
    }

    private static double middle(float[] sorted, int low, int high) {
        return ((double) sorted[(low + high - 1) / 2] + sorted[(low + high) / 2]) / 2;
    }

    /**
     * Standard deviation with values beyond 1.5 of it pulled in, again and again: far outliers cannot inflate it, and rounding to whole
     * numbers does not bring it to 0.
     *
     * @param sorted ascending; those from {@code low} up to {@code high} count; not modified
     * @param least what it cannot fall below
     */
    public static double winsorizedSigma(float[] sorted, int low, int high, double centre, double least) {
        double sigma = Math.max(least, meanAndDeviation(sorted, low, high).sigma());
        for (int round = 0; round < WINSOR_ROUNDS; round++) {
            double bottom = centre - HUBER * sigma;
            double top = centre + HUBER * sigma;
            double mean = 0;
            for (int i = low; i < high; i++) {
                mean += Math.min(top, Math.max(bottom, sorted[i])) / (high - low);
            }
            double squares = 0;
            for (int i = low; i < high; i++) {
                double d = Math.min(top, Math.max(bottom, sorted[i])) - mean;
                squares += d * d;
            }
            double next = Math.max(least, WINSOR_LOSS * Math.sqrt(squares / Math.max(1, high - low - 1)));
            if (Math.abs(next - sigma) <= SETTLED * sigma) {
                return next;
            }
            sigma = next;
        }
        return sigma;
    }

    private static Spread meanAndDeviation(float[] values, int from, int to) {
        double sum = 0;
        for (int i = from; i < to; i++) {
            sum += values[i];
        }
        double mean = sum / (to - from);
        double squares = 0;
        for (int i = from; i < to; i++) {
            squares += (values[i] - mean) * (values[i] - mean);
        }
        return new Spread(mean, Math.sqrt(squares / Math.max(1, to - from - 1)), to - from);
    }

    /**
     * Evenly spread samples of a frame, only finite ones, for statistics of large frames in bounded time.
     *
     * @param most the largest number of samples
     */
    public static float[] sample(Frame frame, int most) {
        float[] pixels = frame.pixels();
        // A stride prime to the row length, so that the samples do not fall on the same columns.
        int stride = Math.max(1, pixels.length / most);
        while (stride > 1 && gcd(stride, frame.width()) != 1) {
            stride++;
        }
        float[] taken = new float[(pixels.length + stride - 1) / stride];
        int n = 0;
        for (int i = 0; i < pixels.length; i += stride) {
            if (Float.isFinite(pixels[i])) {
                taken[n++] = pixels[i];
            }
        }
        return Arrays.copyOf(taken, n);
    }

    private static int gcd(int a, int b) {
        return b == 0 ? a : gcd(b, a % b);
    }

    /** A sorted copy of what is finite. */
    private static float[] finite(float[] samples) {
        float[] copy = new float[samples.length];
        int n = 0;
        for (float sample : samples) {
            if (Float.isFinite(sample)) {
                copy[n++] = sample;
            }
        }
        float[] sorted = Arrays.copyOf(copy, n);
        Arrays.sort(sorted);
        return sorted;
    }
}
