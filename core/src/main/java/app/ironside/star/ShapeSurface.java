package app.ironside.star;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * Size and shape of stars at every place of a frame: means over the stars around it, weighted by a bell curve, those left out that differ
 * from their neighbours by far. On a grid, from which a drawing goes on by lines between the points.
 *
 * @see "Nadaraya 1964, Theory of Probability and its Applications 9, 141, for the weighted mean as an estimate of a curve"
 */
public final class ShapeSurface {
    /** Points along the longer side. */
    private static final int ALONG = 25;

    /** Width of the bell, of the diagonal: a ninth of the frame, as a zone would be, without its edges. */
    private static final double WIDTH_OF_DIAGONAL = 0.11;

    /** Of so few stars' weight nothing is said. */
    private static final double LEAST_WEIGHT = 1.5;

    private static final double OUTLIER_SIGMAS = 3;
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
     * @param halfFluxRadiusPx mean
     * @param elongation 1 − b/a of the mean shape
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
        List<Star> stars = good.subList(0, Math.min(MOST_STARS, good.size()));
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
        double mean = mean(stars, weights);
        double spread = Math.sqrt(variance(stars, weights, mean));
        for (int i = 0; i < weights.length; i++) {
            if (Math.abs(stars.get(i).halfFluxRadiusPx() - mean) > OUTLIER_SIGMAS * spread) {
                weights[i] = 0;
            }
        }
        double sum = Arrays.stream(weights).sum();
        if (sum < LEAST_WEIGHT) {
            return;
        }
        int at = row * columns + column;
        size[at] = mean(stars, weights);
        for (int i = 0; i < weights.length; i++) {
            double[] shape = FieldMap.vector(stars.get(i));
            along[at] += weights[i] * shape[0] / sum;
            across[at] += weights[i] * shape[1] / sum;
        }
    }

    private static double mean(List<Star> stars, double[] weights) {
        double sum = 0;
        double all = 0;
        for (int i = 0; i < weights.length; i++) {
            sum += weights[i] * stars.get(i).halfFluxRadiusPx();
            all += weights[i];
        }
        return sum / all;
    }

    private static double variance(List<Star> stars, double[] weights, double mean) {
        double sum = 0;
        double all = 0;
        for (int i = 0; i < weights.length; i++) {
            double off = stars.get(i).halfFluxRadiusPx() - mean;
            sum += weights[i] * off * off;
            all += weights[i];
        }
        return sum / all;
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
