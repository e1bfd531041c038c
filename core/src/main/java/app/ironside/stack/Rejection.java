package app.ironside.stack;

import app.ironside.image.Statistics;

/** Schools of leaving out, at one pixel, the values that do not belong: satellites, aircraft, cosmic rays, hot pixels. */
public enum Rejection {
    /** Plain mean. */
    NONE("none"),
    /** Drops values beyond {@value #KAPPA} sigma of the median, until none goes. */
    SIGMA("sigma"),
    /** As SIGMA, with a sigma from values pulled in to the limits (Huber), which one far outlier cannot inflate. */
    WINSORIZED("winsorized"),
    /** As SIGMA, about a straight line through the values in sorted order: for sets whose background drifts. */
    LINEAR_FIT("linear-fit"),
    /** Drops the lowest and highest tenth, at least one each. */
    PERCENTILE("percentile"),
    /** Drops the one lowest and the one highest. */
    MIN_MAX("min-max");

    private static final double KAPPA = 3.0;
    private static final int ROUNDS = 6;

    /** Of fewer values than this none can be 3 sample deviations from their mean: (n − 1) / √n. */
    private static final int FEW = 12;

    /** A deviation from so few values is itself uncertain; 4.5 of them drop one good value in a hundred sets of eight. */
    private static final double KAPPA_OF_FEW = 4.5;

    /** Distance of a Gaussian's quartiles in standard deviations. */
    private static final double QUARTILES_OF_GAUSSIAN = 1.349;

    /** With fewer values their spread is too uncertain to clip by. */
    private static final int FEWEST = 4;

    private final String word;

    Rejection(String word) {
        this.word = word;
    }

    /** As on the command line. */
    public String word() {
        return word;
    }

    /**
     * The mean of what belongs.
     *
     * @param values reordered; the first {@code n} count, none NaN
     * @param kept receives at [0] how many values entered the mean
     * @return NaN for {@code n} = 0
     */
    float combine(float[] values, int n, int[] kept) {
        if (n == 0) {
            kept[0] = 0;
            return Float.NaN;
        }
        Statistics.sort(values, n);
        long range = belonging(values, n);
        return mean(values, low(range), high(range), kept);
    }

    /**
     * Which values belong.
     *
     * @param sorted ascending; the first {@code n} count
     * @return a range of them, for {@link #low} and {@link #high}
     */
    long belonging(float[] sorted, int n) {
        if (this == NONE || n < FEWEST) {
            return range(0, n);
        }
        return switch (this) {
            case MIN_MAX -> range(1, n - 1);
            case PERCENTILE -> range(tenth(n), n - tenth(n));
            case LINEAR_FIT -> linear(sorted, n);
            default -> clip(sorted, n);
        };
    }

    private static long range(int low, int high) {
        return (long) low << 32 | high;
    }

    /** The first that belongs. */
    static int low(long range) {
        return (int) (range >>> 32);
    }

    /** The first above that does not belong. */
    static int high(long range) {
        return (int) range;
    }

    /** A tenth, at least one. */
    private static int tenth(int n) {
        return Math.max(1, n / 10);
    }

    private static float mean(float[] values, int from, int to, int[] kept) {
        double sum = 0;
        for (int i = from; i < to; i++) {
            sum += values[i];
        }
        kept[0] = to - from;
        return (float) (sum / (to - from));
    }

    private long clip(float[] sorted, int n) {
        if (Statistics.noneStandsOut(sorted, 0, n, KAPPA)) {
            return range(0, n);
        }
        int low = 0;
        int high = n;
        // Among few values one outlier lifts their deviation so much that it cannot stand out: it is held against the
        // others.
        if (n < FEW && sorted[n - 1] - sorted[n - 2] > sorted[1] - sorted[0]) {
            high -= standsOut(sorted[n - 1], sorted, 0, n - 1) ? 1 : 0;
        } else if (n < FEW) {
            low += standsOut(sorted[0], sorted, 1, n) ? 1 : 0;
        }
        for (int round = 0; round < ROUNDS; round++) {
            double centre = (sorted[(low + high - 1) / 2] + sorted[(low + high) / 2]) / 2.0;
            double sigma = this == WINSORIZED
                    ? Statistics.winsorizedSigma(sorted, low, high, centre, 0)
                    : sigma(sorted, low, high);
            double reach = KAPPA * sigma;
            int newLow = low;
            int newHigh = high;
            while (newLow < newHigh - 2 && sorted[newLow] < centre - reach) {
                newLow++;
            }
            while (newHigh > newLow + 2 && sorted[newHigh - 1] > centre + reach) {
                newHigh--;
            }
            if (newLow == low && newHigh == high) {
                break;
            }
            low = newLow;
            high = newHigh;
        }
        return range(low, high);
    }

    private static boolean standsOut(float value, float[] sorted, int from, int to) {
        double mean = 0;
        for (int i = from; i < to; i++) {
            mean += sorted[i] / (to - from);
        }
        return Math.abs(value - mean) > KAPPA_OF_FEW * sigma(sorted, from, to);
    }

    private static double sigma(float[] values, int low, int high) {
        double mean = 0;
        for (int i = low; i < high; i++) {
            mean += values[i];
        }
        mean /= high - low;
        double squares = 0;
        for (int i = low; i < high; i++) {
            squares += (values[i] - mean) * (values[i] - mean);
        }
        return Math.sqrt(squares / Math.max(1, high - low - 1));
    }

    /** The line goes through the median with the slope of the quartiles, which an outlier cannot tilt. */
    private static long linear(float[] sorted, int n) {
        int low = 0;
        int high = n;
        for (int round = 0; round < ROUNDS && high - low > FEWEST; round++) {
            int m = high - low;
            double median = (sorted[low + (m - 1) / 2] + sorted[low + m / 2]) / 2.0;
            double quartiles = sorted[low + 3 * m / 4] - sorted[low + m / 4];
            double half = quartiles * (m - 1.0) / (2.0 * (3 * m / 4 - m / 4));
            double reach = KAPPA * quartiles / QUARTILES_OF_GAUSSIAN;
            boolean dropLow = median - half - sorted[low] > reach;
            boolean dropHigh = sorted[high - 1] - (median + half) > reach;
            low += dropLow ? 1 : 0;
            high -= dropHigh ? 1 : 0;
            if (!dropLow && !dropHigh) {
                break;
            }
        }
        return range(low, high);
    }
}
