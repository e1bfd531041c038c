package app.ironside.stack;

import app.ironside.image.Statistics;
import app.ironside.solve.PlaneTransform;
import java.util.ArrayList;
import java.util.List;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.DecompositionSolver;
import org.hipparchus.linear.QRDecomposition;

/**
 * How a sub's values become the reference's: divided by its light, and lifted by what its sky differs, which may lie aslant and curved over
 * the field (Moon, town, twilight): a surface of second order through the differences of both backgrounds. What both show, a nebula, is in
 * neither.
 *
 * @param light of its stars over the reference's
 * @param surface coefficients of 1, u, v, u², uv, v² with u and v from −1 to 1 over the reference
 */
@SuppressWarnings("ArrayRecordComponent") // private to its package and never compared
record Levelling(double light, double[] surface, int width, int height) {
    private static final int TERMS = 6;

    /** With fewer cells in common only the level is told. */
    private static final int ENOUGH_CELLS = 60;

    private static final int ROUNDS = 4;
    private static final double CLIP = 3;

    static Levelling none(int width, int height) {
        return new Levelling(1, new double[TERMS], width, height);
    }

    /**
     * Fits it.
     *
     * @param reference whose sky counts
     * @param toReference from the stack's pixels to the reference's
     * @param toSub from the stack's pixels to the sub's
     * @param light of the sub's stars over the reference's
     * @param width pixels of the stack
     */
    static Levelling of(
            SkyGrid reference,
            PlaneTransform toReference,
            SkyGrid sub,
            PlaneTransform toSub,
            double light,
            int width,
            int height) {
        List<double[]> rows = new ArrayList<>();
        List<Double> values = new ArrayList<>();
        for (int cell = 0; cell < SkyGrid.ACROSS * SkyGrid.UP; cell++) {
            double x = (cell % SkyGrid.ACROSS + 0.5) * width / SkyGrid.ACROSS + 0.5;
            double y = ((double) (cell / SkyGrid.ACROSS) + 0.5) * height / SkyGrid.UP + 0.5;
            double difference = reference.at(toReference.x(x, y), toReference.y(x, y))
                    - sub.at(toSub.x(x, y), toSub.y(x, y)) / light;
            if (Double.isFinite(difference)) {
                rows.add(terms(2 * x / width - 1, 2 * y / height - 1));
                values.add(difference);
            }
        }
        double level = values.isEmpty()
                ? reference.middle() - sub.middle() / light
                : Statistics.median(values.stream().mapToDouble(v -> v).toArray());
        double[] constant = new double[TERMS];
        constant[0] = level;
        if (values.size() < ENOUGH_CELLS) {
            return new Levelling(light, constant, width, height);
        }
        return new Levelling(light, surface(rows, values, constant), width, height);
    }

    /** Least squares without what lies far off: cells that a bright star fills. */
    private static double[] surface(List<double[]> rows, List<Double> values, double[] start) {
        double[] surface = start;
        for (int round = 0; round < ROUNDS; round++) {
            double[] now = surface;
            double[] off = new double[rows.size()];
            for (int i = 0; i < off.length; i++) {
                off[i] = values.get(i) - dot(now, rows.get(i));
            }
            double limit = CLIP * Math.max(1e-9, Statistics.noise(off));
            List<Integer> used = new ArrayList<>();
            for (int i = 0; i < off.length; i++) {
                if (Math.abs(off[i]) <= limit) {
                    used.add(i);
                }
            }
            if (used.size() < ENOUGH_CELLS / 2) {
                return surface;
            }
            DecompositionSolver solver = new QRDecomposition(
                            new Array2DRowRealMatrix(
                                    used.stream().map(rows::get).toArray(double[][]::new), false),
                            1e-9)
                    .getSolver();
            if (!solver.isNonSingular()) {
                return surface;
            }
            surface = solver.solve(new ArrayRealVector(
                            used.stream().mapToDouble(values::get).toArray(), false))
                    .toArray();
        }
        return surface;
    }

    private static double[] terms(double u, double v) {
        return new double[] {1, u, v, u * u, u * v, v * v};
    }

    private static double dot(double[] a, double[] b) {
        double sum = 0;
        for (int i = 0; i < a.length; i++) {
            sum += a[i] * b[i];
        }
        return sum;
    }

    /** Brings a row of resampled values to the reference, in place. */
    void apply(float[] band, int from, int y) {
        double v = 2.0 * y / height - 1;
        double a = surface[0] + v * (surface[2] + v * surface[5]);
        double b = surface[1] + v * surface[4];
        double inverse = 1 / light;
        for (int x = 1; x <= width; x++) {
            double u = 2.0 * x / width - 1;
            band[from + x - 1] = (float) (band[from + x - 1] * inverse + a + u * (b + u * surface[3]));
        }
    }

    /** Brings one value at a place of the stack to the reference. */
    double level(double value, double x, double y) {
        double u = 2 * x / width - 1;
        double v = 2 * y / height - 1;
        return value / light
                + surface[0]
                + u * (surface[1] + u * surface[3] + v * surface[4])
                + v * (surface[2] + v * surface[5]);
    }

    /** The lift in the middle, ADU. */
    double levelAdu() {
        return surface[0];
    }
}
