package app.ironside.stack;

import app.ironside.Progress;
import app.ironside.Workers;
import app.ironside.image.Mosaic;
import app.ironside.solve.PlaneTransform;
import java.util.List;

/**
 * Lets the pixels of subs fall onto a finer grid, band by band. What the rejection left out at the nearest place of the grid of the
 * interpolated stack does not fall. Of a mosaic each colour gets its own pixels only, so that nothing is filled in.
 */
final class Drizzler {
    /** So many rows of the finer grid are worked on by one core at a time: its sums stay in the cache. */
    private static final int STRIPE = 32;

    private final Workers workers;
    private final Drizzle how;
    private final List<Placed> placed;
    private final int width;
    private final int height;
    private final Object spreadLock = new Object();
    private double weights;
    private double squares;
    private long pixels;

    /**
     * @param width pixels of the interpolated stack
     */
    Drizzler(Workers workers, Drizzle how, List<Placed> placed, int width, int height) {
        this.workers = workers;
        this.how = how;
        this.placed = placed;
        this.width = width;
        this.height = height;
    }

    int width() {
        return how.side(width);
    }

    int height() {
        return how.side(height);
    }

    /** How many rows of the interpolated stack must be there on either side of a band: a drop's reach, and half a pixel. */
    int margin() {
        return 2;
    }

    /** A band of the interpolated stack. */
    record Band(float[][] values, int firstRow, int rows) {
        boolean belongs(int sub, int x, int y, int width) {
            int row = Math.max(0, Math.min(rows - 1, y - firstRow));
            return !Float.isNaN(values[sub][row * width + x]);
        }
    }

    /**
     * Fills the rows of the finer grid that lie over some rows of the interpolated stack.
     *
     * @param band values of every sub; NaN where the sub does not reach, or was left out
     * @param from first row, from 0
     * @param out the finer plane
     */
    void fill(Mosaic.Plane plane, int index, Band band, int from, int count, float[] out, Progress progress) {
        int first = how.side(from);
        int last = from + count == height ? height() : how.side(from + count);
        int stripes = (last - first + STRIPE - 1) / STRIPE;
        workers.forEach(stripes, s -> {
            int row = first + s * STRIPE;
            progress.step("letting drops fall, row " + (row + 1) + " of " + height(), (double) row / height());
            stripe(plane, index, band, row, Math.min(STRIPE, last - row), out);
        });
    }

    private void stripe(Mosaic.Plane plane, int index, Band band, int firstRow, int rows, float[] out) {
        Drops drops = new Drops(width(), firstRow, rows);
        for (int i = 0; i < placed.size(); i++) {
            fall(plane, index, band, i, drops, firstRow, rows);
        }
        drops.means(out);
        tell(drops, firstRow, rows);
    }

    private void fall(Mosaic.Plane plane, int index, Band band, int sub, Drops drops, int firstRow, int rows) {
        Placed one = placed.get(sub);
        PlaneTransform toStack = one.transform().inverse();
        double scale = how.scale();
        double half = how.drop() * scale / 2;
        drops.shape(half * toStack.xx(), half * toStack.yx(), half * toStack.xy(), half * toStack.yy());
        int sourceWidth = one.sub().source().width();
        int sourceHeight = one.sub().source().height();
        double[] lies = one.transform().rows(0.5, width + 0.5, firstRow / scale + 0.5, (firstRow + rows) / scale + 0.5);
        // Drops whose middle is outside by less than their own half diagonal reach in.
        int from = (int) Math.max(0, Math.floor(lies[0] - 1) - 1);
        int to = (int) Math.min(sourceHeight, Math.ceil(lies[1] + 1));
        if (to <= from) {
            return;
        }
        float[] values = one.sub().calibrated(from, to - from);
        Levelling levelling = one.levellings().get(index);
        Mosaic mosaic = one.sub().mosaic().orElse(null);
        double[] place = new double[2];
        for (int row = from; row < to; row++) {
            for (int column = 0; column < sourceWidth; column++) {
                float value = values[(row - from) * sourceWidth + column];
                if (Float.isNaN(value) || mosaic != null && mosaic.at(column, row) != plane) {
                    continue;
                }
                one.transform().back(toStack, column + 1.0, row + 1.0, place);
                double x = place[0];
                double y = place[1];
                int nearX = (int) Math.floor(x - 0.5);
                int nearY = (int) Math.floor(y - 0.5);
                if (nearX >= 0
                        && nearX < width
                        && nearY >= 0
                        && nearY < height
                        && band.belongs(sub, nearX, nearY, width)) {
                    drops.fall(
                            (x - 0.5) * scale + 0.5,
                            (y - 0.5) * scale + 0.5,
                            levelling.level(value, x, y),
                            one.weight());
                }
            }
        }
    }

    /** The spread of weights is told of the middle two thirds, where every sub of a set lies over the reference. */
    private void tell(Drops drops, int firstRow, int rows) {
        double sum = 0;
        double square = 0;
        long n = 0;
        for (int row = firstRow; row < firstRow + rows; row++) {
            if (row < height() / 6 || row >= height() - height() / 6) {
                continue;
            }
            for (int column = width() / 6; column < width() - width() / 6; column++) {
                double w = drops.weight(column, row);
                sum += w;
                square += w * w;
                n++;
            }
        }
        synchronized (spreadLock) {
            weights += sum;
            squares += square;
            pixels += n;
        }
    }

    /** The spread of weights over their mean; where it is small the grid is evenly covered. */
    double spread() {
        synchronized (spreadLock) {
            double mean = weights / Math.max(1, pixels);
            return mean > 0 ? Math.sqrt(Math.max(0, squares / pixels - mean * mean)) / mean : Double.NaN;
        }
    }
}
