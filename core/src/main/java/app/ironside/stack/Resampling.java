package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.solve.PlaneTransform;

/**
 * Lays pictures onto another grid, along the rows and then across them: for shifts, half turns and small turns a quarter of the work that each
 * pixel by itself would be, which is how bent fields are laid.
 *
 * @see "Catmull and Smith 1980, Computer Graphics 14, 279, for the two passes"
 */
public final class Resampling {
    /** The second pass stretches by the inverse; nearer to a quarter turn it would tear. */
    private static final double LEAST_UPRIGHT = 0.7;

    private Resampling() {}

    /**
     * Resamples by Lanczos-3.
     *
     * @param transform from the new grid's FITS pixels to the picture's
     * @return NaN where the picture does not reach
     */
    public static Frame onto(Frame picture, PlaneTransform transform, int width, int height) {
        float[] out = new float[width * height];
        band(picture.pixels(), picture.width(), picture.height(), 0, transform, out, width, 0, height);
        return new Frame(width, height, out, picture.header());
    }

    /**
     * Resamples some rows.
     *
     * @param source rows of the picture from {@code sourceRow} (from 0) on
     * @param out receives {@code rows} rows of the new grid from {@code firstRow} (from 0) on
     */
    static void band(
            float[] source,
            int sourceWidth,
            int sourceRows,
            int sourceRow,
            PlaneTransform t,
            float[] out,
            int width,
            int firstRow,
            int rows) {
        if (t.bend().isPresent() || Math.abs(t.yy()) < LEAST_UPRIGHT) {
            each(source, sourceWidth, sourceRows, sourceRow, t, out, width, firstRow, rows);
            return;
        }
        // x' of the picture for column x of the grid on row y' of the picture.
        double step = t.xx() - t.xy() * t.yx() / t.yy();
        float[] between = new float[width * sourceRows];
        for (int v = 0; v < sourceRows; v++) {
            double y = v + sourceRow + 1;
            double start = step + t.xy() / t.yy() * (y - t.y0()) + t.x0() - 1;
            Lanczos.along(source, v * sourceWidth, sourceWidth, start, step, between, v * width, width);
        }
        for (int row = 0; row < rows; row++) {
            double y = firstRow + row + 1;
            double start = t.y(1, y) - 1 - sourceRow;
            Lanczos.across(between, width, sourceRows, start, t.yx(), out, row * width);
        }
    }

    private static void each(
            float[] source,
            int sourceWidth,
            int sourceRows,
            int sourceRow,
            PlaneTransform t,
            float[] out,
            int width,
            int firstRow,
            int rows) {
        for (int row = 0; row < rows; row++) {
            int y = firstRow + row + 1;
            for (int x = 1; x <= width; x++) {
                out[row * width + x - 1] =
                        Lanczos.at(source, sourceWidth, sourceRows, t.x(x, y) - 1, t.y(x, y) - 1 - sourceRow);
            }
        }
    }
}
