package app.ironside.calibrate;

import app.ironside.image.Frame;
import app.ironside.image.Statistics;
import java.util.Arrays;
import java.util.Optional;
import java.util.stream.IntStream;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

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
        return surface()
                .map(s -> new Corners(s.p()[3] / s.p()[0], s.errors()[3] / Math.abs(s.p()[0])))
                .orElse(new Corners(Double.NaN, Double.NaN));
    }

    /** From edge to edge along x and along y, as a share of the middle; beside what falls off around it. */
    double[] slope() {
        return surface()
                .map(s -> new double[] {2 * s.p()[1] / s.p()[0], 2 * s.p()[2] / s.p()[0]})
                .orElse(new double[] {0, 0});
    }

    /** How much brighter than the middle half the outermost cells are: left, right, lower, upper. */
    double[] edges() {
        double middle =
                median((c, r) -> c >= columns / 4 && c < columns - columns / 4 && r >= rows / 4 && r < rows - rows / 4);
        return new double[] {
            median((c, r) -> c < outer(columns)) - middle,
            median((c, r) -> c >= columns - outer(columns)) - middle,
            median((c, r) -> r < outer(rows)) - middle,
            median((c, r) -> r >= rows - outer(rows)) - middle
        };
    }

    /** Standard error of one of the edges, by how much cells of the middle differ. */
    double edgeError() {
        double[] inner =
                cells((c, r) -> c >= columns / 4 && c < columns - columns / 4 && r >= rows / 4 && r < rows - rows / 4);
        return inner.length < 2
                ? Double.POSITIVE_INFINITY
                : 1.25 * Statistics.noise(inner) / Math.sqrt(Math.min(columns, rows));
    }

    private static int outer(int cells) {
        return Math.max(1, cells / 25);
    }

    private interface Place {
        boolean holds(int column, int row);
    }

    private double[] cells(Place place) {
        return IntStream.range(0, values.length)
                .filter(i -> place.holds(i % columns, i / columns) && Double.isFinite(values[i]))
                .mapToDouble(i -> values[i])
                .toArray();
    }

    private double median(Place place) {
        double[] found = cells(place);
        return found.length == 0 ? Double.NaN : Statistics.median(found);
    }

    /**
     * A plane and what grows with the square of the distance.
     *
     * @param p at the middle, along x, along y, from middle to corner
     * @param errors of them
     */
    private record Surface(double[] p, double[] errors) {}

    private Optional<Surface> surface() {
        double[] limits = {Double.NEGATIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] left = new double[values.length];
        Optional<Surface> found = Optional.empty();
        for (int round = 0; round < ROUNDS; round++) {
            int[] used = IntStream.range(0, values.length)
                    .filter(i -> Double.isFinite(values[i]) && left[i] >= limits[0] && left[i] <= limits[1])
                    .toArray();
            if (used.length < 20) {
                return found;
            }
            found = fitted(used);
            if (found.isEmpty()) {
                return found;
            }
            double[] p = found.get().p();
            for (int i = 0; i < values.length; i++) {
                left[i] = values[i] - at(p, shape(i));
            }
            double sigma = Statistics.noise(
                    Arrays.stream(used).mapToDouble(i -> left[i]).toArray());
            limits[0] = -CLIP_SIGMAS * sigma;
            limits[1] = CLIP_SIGMAS * sigma;
        }
        return found;
    }

    private static double at(double[] p, double[] shape) {
        return p[0] + p[1] * shape[0] + p[2] * shape[1] + p[3] * shape[2];
    }

    /** Least squares by the normal equations: all terms lie within one, so that nothing is lost by them. */
    private Optional<Surface> fitted(int[] used) {
        double[][] squares = new double[4][4];
        double[] products = new double[4];
        for (int i : used) {
            double[] s = shape(i);
            double[] row = {1, s[0], s[1], s[2]};
            for (int j = 0; j < 4; j++) {
                products[j] += row[j] * values[i];
                for (int k = 0; k < 4; k++) {
                    squares[j][k] += row[j] * row[k];
                }
            }
        }
        DecompositionSolver solver = new QRDecomposition(new Array2DRowRealMatrix(squares, false), 1e-9).getSolver();
        if (!solver.isNonSingular()) {
            return Optional.empty();
        }
        double[] p = solver.solve(new ArrayRealVector(products, false)).toArray();
        double residual = Arrays.stream(used)
                .mapToDouble(i -> Math.pow(values[i] - at(p, shape(i)), 2))
                .sum();
        double variance = residual / (used.length - 4);
        double[] errors = new double[4];
        for (int j = 0; j < 4; j++) {
            errors[j] = Math.sqrt(variance * solver.getInverse().getEntry(j, j));
        }
        return Optional.of(new Surface(p, errors));
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
