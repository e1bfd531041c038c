package app.ironside.star;

import app.ironside.Workers;
import app.ironside.image.Frame;
import java.util.Arrays;
import org.hipparchus.linear.MatrixUtils;
import org.hipparchus.linear.QRDecomposition;

/**
 * The background of a frame and its noise, as a mesh of clipped medians with straight lines between: it follows gradients and
 * vignetting, not stars.
 *
 * @see "Bertin and Arnouts 1996, A&AS 117, 393, section 7.1 (clipped mesh, mode 2.5 median − 1.5 mean, median filter)"
 */
public final class BackgroundMap {
    private static final int CELL_PX = 64;
    private static final int SAMPLES_A_CELL = 700;
    private static final double CLIP_SIGMAS = 2.8;
    private static final int CLIP_ROUNDS = 5;
    private static final float OUTLIER_SIGMAS = 1.5f;

    private final int columns;
    private final int rows;
    private final float[] level;
    private final float[] sigma;

    private BackgroundMap(int columns, int rows, float[] level, float[] sigma) {
        this.columns = columns;
        this.rows = rows;
        this.level = level;
        this.sigma = sigma;
    }

    /** Measures the background of a frame. Cells without any data take the median of the others. */
    public static BackgroundMap of(Frame frame, Workers workers) {
        return of(frame, CELL_PX, workers);
    }

    /** With cells of about this size. */
    static BackgroundMap of(Frame frame, int cellPx, Workers workers) {
        return of(frame, cellPx, SAMPLES_A_CELL, workers);
    }

    /** With so many pixels looked at in each cell: few are enough to see whether the sky has a structure. */
    static BackgroundMap of(Frame frame, int cellPx, int samples, Workers workers) {
        int columns = Math.max(1, frame.width() / cellPx);
        int rows = Math.max(1, frame.height() / cellPx);
        float[] level = new float[columns * rows];
        float[] sigma = new float[columns * rows];
        workers.forEach(rows, row -> {
            float[] work = new float[samples * 2];
            SampleSort sort = new SampleSort(work.length);
            for (int column = 0; column < columns; column++) {
                measure(frame, column, row, columns, rows, work, sort, level, sigma);
            }
        });
        fillGaps(level);
        fillGaps(sigma);
        float[] smoothSigma = medianFilter(sigma, columns, rows);
        return new BackgroundMap(columns, rows, withoutOutliers(level, smoothSigma, columns, rows), smoothSigma);
    }

    private static void measure(
            Frame frame,
            int column,
            int row,
            int columns,
            int rows,
            float[] work,
            SampleSort sort,
            float[] level,
            float[] sigma) {
        int x0 = column * frame.width() / columns;
        int x1 = (column + 1) * frame.width() / columns;
        int y0 = row * frame.height() / rows;
        int y1 = (row + 1) * frame.height() / rows;
        int step = Math.max(1, (int) Math.sqrt((x1 - x0) * (double) (y1 - y0) * 2 / work.length));
        int n = 0;
        for (int y = y0; y < y1; y += step) {
            for (int x = x0 + y % step; x < x1 && n < work.length; x += step) {
                float value = frame.pixels()[y * frame.width() + x];
                if (!Float.isNaN(value)) {
                    work[n++] = value;
                }
            }
        }
        int cell = row * columns + column;
        if (n < 8) {
            level[cell] = Float.NaN;
            sigma[cell] = Float.NaN;
            return;
        }
        sort.sort(work, n);
        clip(work, n, cell, level, sigma);
    }

    private static void clip(float[] sorted, int n, int cell, float[] level, float[] sigma) {
        int low = 0;
        int high = n;
        double mean = 0;
        double deviation = 0;
        double median = 0;
        int[] before = {-1, -1};
        for (int round = 0; round < CLIP_ROUNDS; round++) {
            median = sorted[(low + high) / 2];
            // The lower half is free of stars: its quartile gives the first sigma.
            deviation = round == 0 ? Math.max(1e-9, (median - sorted[low + (high - low) / 4]) * 1.4826) : deviation;
            while (low < high - 4 && sorted[low] < median - CLIP_SIGMAS * deviation) {
                low++;
            }
            while (high > low + 4 && sorted[high - 1] > median + CLIP_SIGMAS * deviation) {
                high--;
            }
            if (low == before[0] && high == before[1]) {
                break; // the next rounds would leave out nothing either
            }
            before = new int[] {low, high};
            double sum = 0;
            double squares = 0;
            for (int i = low; i < high; i++) {
                // About the median, which is near the mean, one pass is exact enough.
                double d = sorted[i] - median;
                sum += d;
                squares += d * d;
            }
            double off = sum / (high - low);
            mean = median + off;
            deviation = Math.sqrt(Math.max(0, squares - sum * off) / (high - low - 1));
        }
        median = sorted[(low + high) / 2];
        boolean crowded = mean - median > 0.3 * deviation;
        level[cell] = (float) (crowded ? median : 2.5 * median - 1.5 * mean);
        // Cutting a Gaussian at 2.8 sigma leaves 0.980 of its deviation.
        sigma[cell] = (float) (deviation / 0.980);
    }

    private static void fillGaps(float[] values) {
        float[] known = new float[values.length];
        int n = 0;
        for (float v : values) {
            if (!Float.isNaN(v)) {
                known[n++] = v;
            }
        }
        Arrays.sort(known, 0, n);
        float filler = n == 0 ? 0 : known[n / 2];
        for (int i = 0; i < values.length; i++) {
            if (Float.isNaN(values[i])) {
                values[i] = filler;
            }
        }
    }

    /**
     * A cell that a large star or galaxy lifts above its neighbours takes their median; a slope, however steep, is left as it is, and
     * in the corners, which a slope makes the lowest or highest of their neighbours, it is told by carrying it on from within.
     */
    private static float[] withoutOutliers(float[] level, float[] sigma, int columns, int rows) {
        float[] median = medianFilter(level, columns, rows);
        float[] out = level.clone();
        for (int i = 0; i < out.length; i++) {
            double most = OUTLIER_SIGMAS * sigma[i];
            if (Math.abs(level[i] - median[i]) > most
                    && Math.abs(level[i] - alongSlopes(level, i % columns, i / columns, columns, rows)) > most) {
                out[i] = median[i];
            }
        }
        return out;
    }

    /** What the cells around lead to expect of one, if the sky is a slope: between two opposite ones, or on from two within. */
    private static double alongSlopes(float[] level, int column, int row, int columns, int rows) {
        int[][] ways = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
        float[] expected = new float[ways.length];
        int n = 0;
        for (int[] way : ways) {
            float ahead = at(level, column + way[0], row + way[1], columns, rows);
            float behind = at(level, column - way[0], row - way[1], columns, rows);
            float between = (ahead + behind) / 2;
            float fromAhead = 2 * ahead - at(level, column + 2 * way[0], row + 2 * way[1], columns, rows);
            float fromBehind = 2 * behind - at(level, column - 2 * way[0], row - 2 * way[1], columns, rows);
            float best = !Float.isNaN(between) ? between : !Float.isNaN(fromAhead) ? fromAhead : fromBehind;
            if (!Float.isNaN(best)) {
                expected[n++] = best;
            }
        }
        Arrays.sort(expected, 0, n);
        return n == 0 ? Double.NaN : n % 2 == 1 ? expected[n / 2] : (expected[n / 2] + expected[n / 2 - 1]) / 2;
    }

    private static float at(float[] level, int column, int row, int columns, int rows) {
        return column < 0 || row < 0 || column >= columns || row >= rows ? Float.NaN : level[row * columns + column];
    }

    private static float[] medianFilter(float[] in, int columns, int rows) {
        float[] out = new float[in.length];
        float[] nine = new float[9];
        for (int row = 0; row < rows; row++) {
            for (int column = 0; column < columns; column++) {
                int n = 0;
                for (int r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r++) {
                    for (int c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c++) {
                        nine[n++] = in[r * columns + c];
                    }
                }
                Arrays.sort(nine, 0, n);
                out[row * columns + column] = n % 2 == 1 ? nine[n / 2] : (nine[n / 2] + nine[n / 2 - 1]) / 2;
            }
        }
        return out;
    }

    /** Background at every pixel of one row (from 0) of a frame this wide and high, written into {@code into}. */
    void levelOfRow(int row, int width, int height, float[] into) {
        // Beyond the middle of the outermost cells the line goes on: held level there, a slope would leave false stars.
        double v = (row + 0.5) * rows / height - 0.5;
        int r0 = Math.max(0, Math.min(rows - 2, (int) v));
        int r1 = Math.min(rows - 1, r0 + 1);
        float vertical = (float) (v - r0);
        float[] mesh = new float[columns];
        for (int c = 0; c < columns; c++) {
            mesh[c] = level[r0 * columns + c] * (1 - vertical) + level[r1 * columns + c] * vertical;
        }
        if (columns == 1) {
            Arrays.fill(into, 0, width, mesh[0]);
            return;
        }
        double cell = (double) width / columns;
        for (int c = 0; c < columns - 1; c++) {
            // From the middle of cell c to that of the next; the outermost lines go on to the edges.
            int from = c == 0 ? 0 : (int) Math.ceil((c + 0.5) * cell - 0.5);
            int until = c == columns - 2 ? width : (int) Math.ceil((c + 1.5) * cell - 0.5);
            float slope = (float) ((mesh[c + 1] - mesh[c]) / cell);
            float start = (float) (mesh[c] + (0.5 - (c + 0.5) * cell) * slope);
            for (int x = from; x < until; x++) {
                into[x] = start + slope * x;
            }
        }
    }

    /**
     * The background's trend over the frame, without what is smaller than a good part of it: the quadratic surface that fits the mesh
     * best; its mean, where the mesh is too small for one.
     *
     * @return at each pixel, row by row, ADU above {@link #level}
     */
    float[] trend(int width, int height) {
        float[] out = new float[width * height];
        if (columns < 3 || rows < 3) {
            return out;
        }
        double[][] terms = new double[columns * rows][];
        double[] above = new double[terms.length];
        double middle = level();
        for (int i = 0; i < terms.length; i++) {
            terms[i] = quadratic((i % columns + 0.5) / columns - 0.5, (i / columns + 0.5) / rows - 0.5);
            above[i] = level[i] - middle;
        }
        double[] c = new QRDecomposition(MatrixUtils.createRealMatrix(terms))
                .getSolver()
                .solve(MatrixUtils.createRealVector(above))
                .toArray();
        for (int row = 0; row < height; row++) {
            double v = (row + 0.5) / height - 0.5;
            for (int column = 0; column < width; column++) {
                double u = (column + 0.5) / width - 0.5;
                out[row * width + column] = (float) (c[0] + u * (c[1] + c[3] * u + c[4] * v) + v * (c[2] + c[5] * v));
            }
        }
        return out;
    }

    private static double[] quadratic(double u, double v) {
        return new double[] {1, u, v, u * u, u * v, v * v};
    }

    /** As {@link #sigmaAt} for all pixels of a row. */
    void sigmaOfRow(int row, int width, int height, float[] into) {
        int first = Math.min(rows - 1, row * rows / height) * columns;
        for (int c = 0; c < columns; c++) {
            // The first pixel of cell c is the least x with x · columns / width = c.
            int from = (c * width + columns - 1) / columns;
            int until = c == columns - 1 ? width : ((c + 1) * width + columns - 1) / columns;
            Arrays.fill(into, from, until, sigma[first + c]);
        }
    }

    /** Standard deviation of the background in the cell of a pixel (column and row from 0). */
    double sigmaAt(int column, int row, int width, int height) {
        return sigma[
                Math.min(rows - 1, row * rows / height) * columns + Math.min(columns - 1, column * columns / width)];
    }

    /** How much the mesh's cells differ, as a robust standard deviation over the noise of a pixel. */
    double structure() {
        float middle = (float) level();
        float[] off = new float[level.length];
        for (int i = 0; i < off.length; i++) {
            off[i] = Math.abs(level[i] - middle);
        }
        return 1.4826 * middle(off) / Math.max(1e-9, noise());
    }

    /** This background's level with the noise of a finer mesh laid over it. */
    BackgroundMap over(BackgroundMap finer) {
        return new BackgroundMap(finer.columns, finer.rows, sampled(finer.columns, finer.rows), finer.sigma);
    }

    private float[] sampled(int wide, int high) {
        float[] out = new float[wide * high];
        float[] row = new float[wide];
        for (int r = 0; r < high; r++) {
            levelOfRow(r, wide, high, row);
            System.arraycopy(row, 0, out, r * wide, wide);
        }
        return out;
    }

    /** Median of the mesh, ADU. */
    public double level() {
        return middle(level);
    }

    /** Median noise of the mesh, ADU. */
    public double noise() {
        return middle(sigma);
    }

    private static double middle(float[] values) {
        float[] sorted = values.clone();
        Arrays.sort(sorted);
        int half = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[half] : (sorted[half - 1] + (double) sorted[half]) / 2;
    }
}
