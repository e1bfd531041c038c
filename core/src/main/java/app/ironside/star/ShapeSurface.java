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
        Sorted sizes = new Sorted(stars, Star::halfFluxRadiusPx);
        Sorted alongs = new Sorted(stars, s -> FieldMap.vector(s)[0]);
        Sorted acrosses = new Sorted(stars, s -> FieldMap.vector(s)[1]);
        for (int at = 0; at < surface.size.length; at++) {
            double x = 1 + at % columns * surface.stepX;
            double y = 1 + at / columns * surface.stepY;
            surface.size[at] = sizes.median(x, y, bell);
            surface.along[at] = alongs.median(x, y, bell);
            surface.across[at] = acrosses.median(x, y, bell);
        }
        return surface;
    }

    /** Stars in the rising order of one of their measures, so that a median is found by going along. */
    private static final class Sorted {
        private final double[] x;
        private final double[] y;
        private final double[] value;

        Sorted(List<Star> stars, ToDoubleFunction<Star> of) {
            List<Star> rising =
                    stars.stream().sorted(Comparator.comparingDouble(of)).toList();
            this.x = rising.stream().mapToDouble(Star::x).toArray();
            this.y = rising.stream().mapToDouble(Star::y).toArray();
            this.value = rising.stream().mapToDouble(of).toArray();
        }

        /** Half of the weight about a place lies below it; NaN where there is too little. Knots of a galaxy and blends do not move it. */
        double median(double atX, double atY, double bell) {
            double[] upTo = new double[value.length];
            double sum = 0;
            for (int i = 0; i < value.length; i++) {
                double dx = (x[i] - atX) / bell;
                double dy = (y[i] - atY) / bell;
                sum += Math.exp(-(dx * dx + dy * dy) / 2);
                upTo[i] = sum;
            }
            if (sum < LEAST_WEIGHT) {
                return Double.NaN;
            }
            int at = Arrays.binarySearch(upTo, sum / 2);
            return value[at < 0 ? -at - 1 : at];
        }
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
