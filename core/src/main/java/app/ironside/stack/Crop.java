package app.ironside.stack;

import app.ironside.image.Frame;
import app.ironside.image.Header;
import java.util.List;
import java.util.Optional;

/**
 * A rectangle of a stack in which nearly all its subs lie: the edges that registration leaves are outside. One for all filters of a target.
 *
 * @param left first column that is kept, from 0
 * @param bottom first row that is kept, from 0
 */
public record Crop(int left, int bottom, int width, int height) {
    /** A place of the stack has most of its depth where so many of its subs lie. */
    public static final double COVERED_SHARE = 0.9;

    /** Places across the longer side that are asked about; the rectangle is rounded inward to them. */
    private static final int PLACES = 400;

    /**
     * The largest rectangle.
     *
     * @param stacks where the subs of each filter lie on the common grid
     * @return empty if there is no such place
     */
    public static Optional<Crop> of(List<List<Footprint>> stacks, int width, int height) {
        double step = Math.max(1, Math.max(width, height) / (double) PLACES);
        int columns = (int) Math.ceil(width / step);
        int rows = (int) Math.ceil(height / step);
        int[] best = {0, 0, 0, 0};
        int[] tall = new int[columns];
        for (int r = 0; r < rows; r++) {
            for (int c = 0; c < columns; c++) {
                boolean reached = reached(stacks, pixels(c, step, width), pixels(r, step, height));
                tall[c] = reached ? tall[c] + 1 : 0;
            }
            widest(tall, r, best);
        }
        if (best[2] == 0) {
            return Optional.empty();
        }
        int left = (int) Math.ceil(best[0] * step);
        int bottom = (int) Math.ceil(best[1] * step);
        int right = (int) Math.min(width, Math.floor((best[0] + best[2]) * step));
        int top = (int) Math.min(height, Math.floor((best[1] + best[3]) * step));
        return right <= left || top <= bottom
                ? Optional.empty()
                : Optional.of(new Crop(left, bottom, right - left, top - bottom));
    }

    /** The first and the last pixel of a place, FITS. */
    private static double[] pixels(int place, double step, int most) {
        return new double[] {Math.floor(place * step) + 1, Math.min(most, Math.ceil((place + 1) * step))};
    }

    private static boolean reached(List<List<Footprint>> stacks, double[] x, double[] y) {
        return covered(stacks, x[0], y[0])
                && (x[1] == x[0] && y[1] == y[0]
                        || covered(stacks, x[1], y[0]) && covered(stacks, x[0], y[1]) && covered(stacks, x[1], y[1]));
    }

    private static boolean covered(List<List<Footprint>> stacks, double x, double y) {
        return stacks.stream()
                .allMatch(subs -> subs.stream().filter(s -> s.covers(x, y)).count() >= COVERED_SHARE * subs.size());
    }

    /** The largest rectangle that stands on a row, by columns of which each is so many cells tall; replaces a smaller one. */
    private static void widest(int[] tall, int row, int[] best) {
        int[] stack = new int[tall.length + 1];
        int depth = 0;
        for (int c = 0; c <= tall.length; c++) {
            int here = c == tall.length ? 0 : tall[c];
            while (depth > 0 && tall[stack[depth - 1]] >= here) {
                int high = tall[stack[--depth]];
                int from = depth == 0 ? 0 : stack[depth - 1] + 1;
                if ((long) high * (c - from) > (long) best[2] * best[3]) {
                    best[0] = from;
                    best[1] = row - high + 1;
                    best[2] = c - from;
                    best[3] = high;
                }
            }
            stack[depth++] = c;
        }
    }

    /** What of a picture lies within; its coordinates go with it (FITS WCS paper I: CRPIX moves with the first pixel). */
    public Frame of(Frame picture) {
        float[] pixels = new float[width * height];
        for (int row = 0; row < height; row++) {
            int from = (bottom + row) * picture.width() + left;
            System.arraycopy(picture.pixels(), from, pixels, row * width, width);
        }
        Header header = picture.header();
        header = moved(moved(header, "CRPIX1", left), "CRPIX2", bottom);
        return new Frame(
                width,
                height,
                pixels,
                header.withHistory("cropped to columns " + (left + 1) + " to " + (left + width) + ", rows "
                        + (bottom + 1) + " to " + (bottom + height)));
    }

    private static Header moved(Header header, String keyword, int by) {
        return header.number(keyword).isPresent()
                ? header.with(keyword, header.number(keyword).getAsDouble() - by)
                : header;
    }
}
