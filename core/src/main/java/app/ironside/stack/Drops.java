package app.ironside.stack;

/**
 * Some rows of a grid onto which drops fall. A drop is a parallelogram; each pixel takes the part of it that lies in the pixel, exactly.
 */
final class Drops {
    /** A drop whose corners lie nearer to those of an upright rectangle is taken for one; in pixels of the grid. */
    private static final double UPRIGHT = 0.01;

    private final int width;
    private final int firstRow;
    private final int rows;
    private final double[] sums;
    private final double[] weights;

    /** Half of the drop's sides as vectors of the grid: along the sub's columns and along its rows. */
    private double ax;

    private double ay;
    private double bx;
    private double by;
    private double reachX;
    private double reachY;
    private boolean upright;
    private double area;

    /**
     * @param firstRow of the grid, from 0
     */
    Drops(int width, int firstRow, int rows) {
        this.width = width;
        this.firstRow = firstRow;
        this.rows = rows;
        this.sums = new double[width * rows];
        this.weights = new double[width * rows];
    }

    /** The shape of the next drops: vectors from the middle to the middles of two sides, in pixels of the grid. */
    void shape(double ax, double ay, double bx, double by) {
        this.ax = ax;
        this.ay = ay;
        this.bx = bx;
        this.by = by;
        boolean quarterTurned = Math.abs(ax) + Math.abs(by) < UPRIGHT;
        this.upright = quarterTurned || Math.abs(ay) + Math.abs(bx) < UPRIGHT;
        this.reachX = !upright ? Math.abs(ax) + Math.abs(bx) : Math.abs(quarterTurned ? bx : ax);
        this.reachY = !upright ? Math.abs(ay) + Math.abs(by) : Math.abs(quarterTurned ? ay : by);
        this.area = upright ? 4 * reachX * reachY : 4 * Math.abs(ax * by - ay * bx);
    }

    /**
     * One drop.
     *
     * @param x middle in FITS pixels of the grid
     * @param weight of all of it; a pixel gets its share by area
     */
    void fall(double x, double y, double value, double weight) {
        // Pixel k of the rows covers k to k + 1.
        double cx = x - 0.5;
        double cy = y - 0.5 - firstRow;
        int left = (int) Math.max(0, Math.floor(cx - reachX));
        int right = (int) Math.min(width - 1, Math.floor(cx + reachX));
        int low = (int) Math.max(0, Math.floor(cy - reachY));
        int high = (int) Math.min(rows - 1, Math.floor(cy + reachY));
        for (int row = low; row <= high; row++) {
            for (int column = left; column <= right; column++) {
                double part =
                        upright ? shared(cx, reachX, column) * shared(cy, reachY, row) : overlap(cx - column, cy - row);
                double w = weight * part / area;
                sums[row * width + column] += w * value;
                weights[row * width + column] += w;
            }
        }
    }

    /** How much of a span about a middle lies between a number and the next. */
    private static double shared(double middle, double reach, int from) {
        return Math.max(0, Math.min(middle + reach, from + 1.0) - Math.max(middle - reach, from));
    }

    /** The area of the drop within the square from 0 to 1: what lies under its sides, one after the other. */
    private double overlap(double cx, double cy) {
        double sum = under(cx - ax - bx, cy - ay - by, cx + ax - bx, cy + ay - by)
                + under(cx + ax - bx, cy + ay - by, cx + ax + bx, cy + ay + by)
                + under(cx + ax + bx, cy + ay + by, cx - ax + bx, cy - ay + by)
                + under(cx - ax + bx, cy - ay + by, cx - ax - bx, cy - ay - by);
        return Math.abs(sum);
    }

    /** The area within the square from 0 to 1 below a line, negative if it runs to the left. */
    static double under(double x1, double y1, double x2, double y2) {
        if (x1 > x2) {
            return -under(x2, y2, x1, y1);
        }
        double from = Math.max(0, x1);
        double to = Math.min(1, x2);
        if (from >= to) {
            return 0;
        }
        double slope = (y2 - y1) / (x2 - x1);
        double low = y1 + slope * (from - x1);
        double high = y1 + slope * (to - x1);
        return (to - from) * meanWithin(low, high);
    }

    /** The mean of what rises evenly from one number to another, cut off at 0 and 1. */
    private static double meanWithin(double from, double to) {
        if (Math.abs(to - from) < 1e-9) {
            return Math.max(0, Math.min(1, from));
        }
        return (primitive(to) - primitive(from)) / (to - from);
    }

    private static double primitive(double y) {
        return y <= 0 ? 0 : y < 1 ? y * y / 2 : y - 0.5;
    }

    /** Writes the weighted means; NaN where nothing fell. */
    void means(float[] out) {
        for (int i = 0; i < sums.length; i++) {
            out[firstRow * width + i] = weights[i] > 0 ? (float) (sums[i] / weights[i]) : Float.NaN;
        }
    }

    /** What fell on a pixel in all. */
    double weight(int column, int row) {
        return weights[(row - firstRow) * width + column];
    }
}
