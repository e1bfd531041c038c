package app.ironside.stack;

/**
 * Interpolation with the Lanczos kernel of three lobes, which keeps stars as narrow and as bright as they were. Beside a bright star
 * its negative lobes are held near the values around, so that no dark rings arise.
 *
 * @see "Duchon 1979, J. Appl. Meteorology 18, 1016"
 */
final class Lanczos {
    /** Pixels on either side that enter. */
    static final int REACH = 3;

    /** How far below its darkest neighbour a value may go, as a share of their range. */
    private static final float DARK_MARGIN = 0.1f;

    private static final int STEPS = 1024;
    private static final float[][] WEIGHTS = weights();

    private Lanczos() {}

    private static float[][] weights() {
        float[][] table = new float[STEPS + 1][2 * REACH];
        for (int step = 0; step <= STEPS; step++) {
            double sum = 0;
            double[] row = new double[2 * REACH];
            for (int k = 0; k < row.length; k++) {
                row[k] = kernel(k - REACH + 1 - (double) step / STEPS);
                sum += row[k];
            }
            for (int k = 0; k < row.length; k++) {
                table[step][k] = (float) (row[k] / sum);
            }
        }
        return table;
    }

    private static double kernel(double t) {
        if (Math.abs(t) < 1e-9) {
            return 1;
        }
        double u = Math.PI * t;
        return Math.abs(t) >= REACH ? 0 : REACH * Math.sin(u) * Math.sin(u / REACH) / (u * u);
    }

    /**
     * The value between pixels.
     *
     * @param band rows of the picture
     * @param rows in the band
     * @param column from 0, may be fractional
     * @param row from 0 within the band
     * @return NaN if any pixel it needs is missing or outside
     */
    static float at(float[] band, int width, int rows, double column, double row) {
        // Towards zero is down, since what is below zero is refused; rounding by hand is several times as fast as
        // Math's.
        int c0 = (int) column;
        int r0 = (int) row;
        if (c0 < REACH - 1 || r0 < REACH - 1 || c0 + REACH >= width || r0 + REACH >= rows) {
            return Float.NaN;
        }
        float[] across = WEIGHTS[(int) ((column - c0) * STEPS + 0.5)];
        float[] up = WEIGHTS[(int) ((row - r0) * STEPS + 0.5)];
        float sum = 0;
        float low = Float.POSITIVE_INFINITY;
        float high = Float.NEGATIVE_INFINITY;
        for (int j = 0; j < 2 * REACH; j++) {
            int from = (r0 - REACH + 1 + j) * width + c0 - REACH + 1;
            float b = band[from + 1];
            float c = band[from + 2];
            float d = band[from + 3];
            float e = band[from + 4];
            // Written out: most of a stack's time is spent here.
            sum += up[j]
                    * (across[0] * band[from]
                            + across[1] * b
                            + across[2] * c
                            + across[3] * d
                            + across[4] * e
                            + across[5] * band[from + 5]);
            if (j >= REACH - 2 && j <= REACH + 1) {
                float lower = lesser(lesser(b, c), lesser(d, e));
                float higher = greater(greater(b, c), greater(d, e));
                low = lesser(low, lower);
                high = greater(high, higher);
            }
        }
        // A pixel that is missing makes the sum NaN, which falls through the comparisons.
        // Below the darkest of four by four neighbours there is no honest value; above the brightest there is the
        // middle
        // of a star between pixels.
        float lowest = low - DARK_MARGIN * (high - low);
        return sum < lowest ? lowest : sum;
    }

    /**
     * A row at places that lie evenly along it: the first of two passes.
     *
     * @param from where the row begins in {@code rows}
     * @param start column of the first place, from 0
     * @param step between places
     * @param out receives {@code count} values from {@code outFrom} on; NaN where the row does not reach
     */
    static void along(
            float[] rows, int from, int width, double start, double step, float[] out, int outFrom, int count) {
        for (int i = 0; i < count; i++) {
            double column = start + i * step;
            int c = (int) column;
            if (column < REACH - 1 || c + REACH >= width) {
                out[outFrom + i] = Float.NaN;
                continue;
            }
            float[] w = WEIGHTS[(int) ((column - c) * STEPS + 0.5)];
            int at = from + c - REACH + 1;
            out[outFrom + i] = held(w, rows[at], rows[at + 1], rows[at + 2], rows[at + 3], rows[at + 4], rows[at + 5]);
        }
    }

    /**
     * A row between rows, the second pass: column i of the result lies at row {@code start + i * step}.
     *
     * @param rows in the band
     */
    static void across(float[] band, int width, int rows, double start, double step, float[] out, int outFrom) {
        for (int i = 0; i < width; i++) {
            double row = start + i * step;
            int r = (int) row;
            if (row < REACH - 1 || r + REACH >= rows) {
                out[outFrom + i] = Float.NaN;
                continue;
            }
            float[] w = WEIGHTS[(int) ((row - r) * STEPS + 0.5)];
            int at = (r - REACH + 1) * width + i;
            out[outFrom + i] = held(
                    w,
                    band[at],
                    band[at + width],
                    band[at + 2 * width],
                    band[at + 3 * width],
                    band[at + 4 * width],
                    band[at + 5 * width]);
        }
    }

    /** Six values weighed, not far below the darkest of the inner four; NaN if one is missing. */
    private static float held(float[] w, float a, float b, float c, float d, float e, float f) {
        float sum = w[0] * a + w[1] * b + w[2] * c + w[3] * d + w[4] * e + w[5] * f;
        float low = lesser(lesser(b, c), lesser(d, e));
        float high = greater(greater(b, c), greater(d, e));
        float lowest = low - DARK_MARGIN * (high - low);
        return sum < lowest ? lowest : sum;
    }

    private static float lesser(float a, float b) {
        return a < b ? a : b;
    }

    private static float greater(float a, float b) {
        return a > b ? a : b;
    }
}
