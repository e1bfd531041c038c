package app.ironside.star;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;

/**
 * Size and shape of stars at every place of a frame: medians over the stars around it, weighted by a bell curve. On a grid, from which a
 * drawing goes on by lines between the points.
 */
public final class ShapeSurface {
    /** Points along the longer side. */
    private static final int ALONG = 25;

    /** Width of the bell, of the diagonal: a ninth of the frame, as a zone would be, without its edges. */
    private static final double WIDTH_OF_DIAGONAL = 0.11;

    /** Of so few stars' weight nothing is said. */
    private static final double LEAST_WEIGHT = 1.5;

    private static final int MOST_STARS = 1500;

    private final int columns;
    private final int rows;
    private final double stepX;
    private final double stepY;
    private final double[] size;
    private final double[] along;
    private final double[] across;

    /**
     * What stars are like at a place.
     *
     * @param halfFluxRadiusPx median
     * @param elongation 1 − b/a of the median shape
     * @param angleDeg its direction, from +x toward +y, −90 to 90
     */
    public record Shape(double halfFluxRadiusPx, double elongation, double angleDeg) {}

    private ShapeSurface(int columns, int rows, double stepX, double stepY) {
        this.columns = columns;
        this.rows = rows;
        this.stepX = stepX;
        this.stepY = stepY;
        this.size = new double[columns * rows];
        this.along = new double[columns * rows];
        this.across = new double[columns * rows];
        Arrays.fill(size, Double.NaN);
    }

    /** Works it out of a frame's good stars. */
    public static ShapeSurface of(StarField field) {
        List<Star> good = field.good();
        List<Star> brightest = good.subList(0, Math.min(MOST_STARS, good.size()));
        List<Star> stars = brightest.isEmpty() ? brightest : FieldMap.withoutOutliers(brightest);
        boolean wide = field.width() >= field.height();
        int columns = wide ? ALONG : Math.max(5, ALONG * field.width() / field.height());
        int rows = wide ? Math.max(5, ALONG * field.height() / field.width()) : ALONG;
        ShapeSurface surface = new ShapeSurface(
                columns, rows, (field.width() - 1.0) / (columns - 1), (field.height() - 1.0) / (rows - 1));
        double bell = WIDTH_OF_DIAGONAL * Math.hypot(field.width(), field.height());
        for (int row = 0; row < rows; row++) {
            for (int column = 0; column < columns; column++) {
                surface.fill(column, row, stars, bell);
            }
        }
        return surface;
    }

    private void fill(int column, int row, List<Star> stars, double bell) {
        double x = 1 + column * stepX;
        double y = 1 + row * stepY;
        double[] weights = new double[stars.size()];
        for (int i = 0; i < weights.length; i++) {
            double dx = (stars.get(i).x() - x) / bell;
            double dy = (stars.get(i).y() - y) / bell;
            weights[i] = Math.exp(-(dx * dx + dy * dy) / 2);
        }
        double sum = Arrays.stream(weights).sum();
        if (sum < LEAST_WEIGHT) {
            return;
        }
        int at = row * columns + column;
        size[at] = median(stars, weights, sum, Star::halfFluxRadiusPx);
        along[at] = median(stars, weights, sum, s -> FieldMap.vector(s)[0]);
        across[at] = median(stars, weights, sum, s -> FieldMap.vector(s)[1]);
    }

    /** Half of the weight lies below it. Knots of a galaxy and blends, which are few against the stars, do not move it. */
    private static double median(List<Star> stars, double[] weights, double sum, ToDoubleFunction<Star> of) {
        double[][] sorted = new double[weights.length][];
        for (int i = 0; i < weights.length; i++) {
            sorted[i] = new double[] {of.applyAsDouble(stars.get(i)), weights[i]};
        }
        Arrays.sort(sorted, Comparator.comparingDouble(pair -> pair[0]));
        double below = 0;
        for (int i = 0; i < sorted.length; i++) {
            below += sorted[i][1];
            if (below >= sum / 2) {
                return sorted[i][0];
            }
        }
        return Double.NaN;
    }

    public int columns() {
        return columns;
    }

    public int rows() {
        return rows;
    }

    /** At a point of the grid, rows from the lowest; empty where there are too few stars. */
    public Optional<Shape> at(int column, int row) {
        int at = row * columns + column;
        return Double.isNaN(size[at])
                ? Optional.empty()
                : Optional.of(new Shape(
                        size[at],
                        Math.hypot(along[at], across[at]),
                        Math.toDegrees(Math.atan2(across[at], along[at]) / 2)));
    }

    /** The smallest size on the grid; empty without stars. */
    public Optional<Double> leastPx() {
        return Arrays.stream(size).filter(s -> !Double.isNaN(s)).boxed().min(Double::compare);
    }
}
