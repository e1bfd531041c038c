package app.ironside.calibrate;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import java.util.Arrays;
import org.hipparchus.exception.MathRuntimeException;
import org.hipparchus.stat.regression.OLSMultipleLinearRegression;

/**
 * The background of a frame in square cells: means without what stands out, which a speck that covers half of one dims by half; of a mosaic
 * the mean of its four places.
 */
final class CellMap {
    private static final int LEAST_CELL_PX = 8;
    private static final int MOST_CELL_PX = 32;
    private static final int CELLS_ACROSS = 100;

    /** Cells about one that it is held against: dust is smaller, what optics do is larger. */
    private static final int ABOUT = 4;

    private static final double CLIP_SIGMAS = 3;
    private static final int ROUNDS = 3;

    private final int columns;
    private final int rows;
    private final double[] values;

    private CellMap(int columns, int rows, double[] values) {
        this.columns = columns;
        this.rows = rows;
        this.values = values;
    }

    /**
     * Of a frame.
     *
     * @param mosaic whether neighbouring pixels see other colours
     */
    static CellMap of(Frame frame, boolean mosaic) {
        int shorter = Math.min(frame.width(), frame.height());
        int cell = Math.max(LEAST_CELL_PX, Math.min(MOST_CELL_PX, shorter / CELLS_ACROSS)) / 2 * 2;
        int columns = Math.max(1, frame.width() / cell);
        int rows = Math.max(1, frame.height() / cell);
        double[] values = new double[columns * rows];
        for (int i = 0; i < values.length; i++) {
            int left = i % columns * cell;
            int bottom = i / columns * cell;
            double sum = 0;
            for (int phase = 0; phase < (mosaic ? 4 : 1); phase++) {
                sum += level(frame, left + phase % 2, bottom + phase / 2, cell, mosaic ? 2 : 1);
            }
            values[i] = sum / (mosaic ? 4 : 1);
        }
        return new CellMap(columns, rows, values);
    }

    private static double level(Frame frame, int left, int bottom, int cell, int step) {
        float[] found = new float[cell * cell];
        int n = 0;
        for (int y = bottom; y < Math.min(frame.height(), bottom + cell); y += step) {
            for (int x = left; x < Math.min(frame.width(), left + cell); x += step) {
                float v = frame.pixels()[y * frame.width() + x];
                if (Float.isFinite(v)) {
                    found[n++] = v;
                }
            }
        }
        return n == 0
                ? Double.NaN
                : Statistics.clipped(Arrays.copyOf(found, n), CLIP_SIGMAS, 0).centre();
    }

    /** The same, less something. */
    CellMap minus(CellMap other) {
        double[] less = values.clone();
        for (int i = 0; i < less.length; i++) {
            less[i] -= other.values[i];
        }
        return new CellMap(columns, rows, less);
    }

    /** The same, less a level. */
    CellMap minus(double level) {
        return new CellMap(
                columns, rows, Arrays.stream(values).map(v -> v - level).toArray());
    }

    /**
     * How much brighter the corners are than the middle.
     *
     * @param share of the middle's light; negative where they are darker
     * @param error its standard error
     */
    record Corners(double share, double error) {}

    /** What grows with the square of the distance from the middle, beside a plane, which is the sky's; what stands out is left out. */
    Corners corners() {
        double[] limits = {Double.NEGATIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] left = new double[values.length];
        Corners found = new Corners(Double.NaN, Double.NaN);
        for (int round = 0; round < ROUNDS; round++) {
            int[] used = java.util.stream.IntStream.range(0, values.length)
                    .filter(i -> Double.isFinite(values[i]) && left[i] >= limits[0] && left[i] <= limits[1])
                    .toArray();
            if (used.length < 20) {
                return found;
            }
            double[][] x = new double[used.length][];
            double[] y = new double[used.length];
            for (int k = 0; k < used.length; k++) {
                x[k] = shape(used[k]);
                y[k] = values[used[k]];
            }
            OLSMultipleLinearRegression fit = new OLSMultipleLinearRegression();
            try {
                fit.newSampleData(y, x);
                double[] p = fit.estimateRegressionParameters();
                found = new Corners(p[3] / p[0], fit.estimateRegressionParametersStandardErrors()[3] / Math.abs(p[0]));
                for (int i = 0; i < values.length; i++) {
                    double[] s = shape(i);
                    left[i] = values[i] - p[0] - p[1] * s[0] - p[2] * s[1] - p[3] * s[2];
                }
                double sigma = Statistics.noise(
                        Arrays.stream(used).mapToDouble(i -> left[i]).toArray());
                limits[0] = -CLIP_SIGMAS * sigma;
                limits[1] = CLIP_SIGMAS * sigma;
            } catch (MathRuntimeException singular) {
                return found;
            }
        }
        return found;
    }

    /** Place of a cell: x and y, and the square of its distance from the middle, 1 at the corners. */
    private double[] shape(int i) {
        double x = (i % columns + 0.5) / columns * 2 - 1;
        double y = (i / columns + 0.5) / rows * 2 - 1;
        double wide = (double) columns / rows;
        return new double[] {x, y, (x * x * wide * wide + y * y) / (wide * wide + 1)};
    }

    /** What each cell is more than those about it, as a share of them: dust, and what a flat makes of it. */
    double[] smallStructure() {
        double[] small = new double[values.length];
        double[] about = new double[(2 * ABOUT + 1) * (2 * ABOUT + 1)];
        for (int i = 0; i < values.length; i++) {
            int n = 0;
            // As far to one side as to the other: a slope is no structure.
            int up = Math.min(ABOUT, Math.min(i / columns, rows - 1 - i / columns));
            int aside = Math.min(ABOUT, Math.min(i % columns, columns - 1 - i % columns));
            for (int row = i / columns - up; row <= i / columns + up; row++) {
                for (int c = i % columns - aside; c <= i % columns + aside; c++) {
                    double v = values[row * columns + c];
                    if (Double.isFinite(v)) {
                        about[n++] = v;
                    }
                }
            }
            double usual = n == 0 ? Double.NaN : Statistics.median(Arrays.copyOf(about, n));
            small[i] = usual > 0 ? values[i] / usual - 1 : Double.NaN;
        }
        return small;
    }
}
