package app.ironside.stack;

/**
 * Interpolation with the Lanczos kernel of three lobes, which keeps stars as narrow as they were. Beside a bright star its
 * negative lobes are held within the values around, so that no dark rings arise.
 *
 * @see "Duchon 1979, J. Appl. Meteorology 18, 1016"
 */
final class Lanczos {
    /** Pixels on either side that enter. */
    static final int REACH = 3;

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
        int c0 = (int) Math.floor(column);
        int r0 = (int) Math.floor(row);
        if (c0 < REACH - 1 || r0 < REACH - 1 || c0 + REACH >= width || r0 + REACH >= rows) {
            return Float.NaN;
        }
        float[] across = WEIGHTS[(int) Math.round((column - c0) * STEPS)];
        float[] up = WEIGHTS[(int) Math.round((row - r0) * STEPS)];
        float sum = 0;
        float low = Float.POSITIVE_INFINITY;
        float high = Float.NEGATIVE_INFINITY;
        for (int j = 0; j < 2 * REACH; j++) {
            int from = (r0 - REACH + 1 + j) * width + c0 - REACH + 1;
            float line = 0;
            for (int i = 0; i < 2 * REACH; i++) {
                line += across[i] * band[from + i];
            }
            sum += up[j] * line;
            if (j >= REACH - 2 && j <= REACH + 1) {
                for (int i = REACH - 2; i <= REACH + 1; i++) {
                    low = Math.min(low, band[from + i]);
                    high = Math.max(high, band[from + i]);
                }
            }
        }
        // Between four by four neighbours the value cannot honestly go far beyond them; NaN falls through.
        float margin = 0.1f * (high - low);
        return sum < low - margin ? low - margin : sum > high + margin ? high + margin : sum;
    }
}
