package app.ironside.image;

import app.ironside.BadInputException;
import java.nio.file.Path;

/**
 * A small likeness of a frame. Of each patch only a few rows are read, so that a sheet of hundreds of large frames is there at once; a star
 * of a few pixels stays one.
 */
public final class Thumbnail {
    /** Rows of each patch that are read; even, so that both rows of a mosaic count alike. */
    private static final int ROWS = 4;

    /** Between two parts, pixels. */
    private static final int LINE = 2;

    private Thumbnail() {}

    /** The rows of a picture, from the first of the file on. */
    @FunctionalInterface
    private interface Rows {
        float[] of(int first, int count);
    }

    /**
     * Makes one.
     *
     * @param mostPx its width or height at most; a smaller frame is as large as it is
     * @return levels in the frame's units, first row of the file first; NaN where a patch has no value
     * @throws BadInputException naming the file, if it cannot be read
     */
    public static Frame of(Path file, int mostPx) {
        return from(file, (width, height, header, rows) -> made(width, height, header, rows, mostPx));
    }

    /**
     * Middle, edges and corners of a frame at full size, three beside three with a line between them, each where it lies in the frame: so shapes
     * of stars are seen that a likeness of the whole cannot show. The four pixels of a mosaic's cell become one.
     *
     * @param widthPx of all nine together, as {@code heightPx}; a frame that is smaller is as large as it is
     * @return levels in the frame's units, first row of the file first; NaN on the lines
     * @throws BadInputException naming the file, if it cannot be read
     */
    public static Frame corners(Path file, int widthPx, int heightPx) {
        return from(file, (width, height, header, rows) -> corners(width, height, header, rows, widthPx, heightPx));
    }

    /** Makes something of a picture's rows. */
    @FunctionalInterface
    private interface Making {
        Frame of(int width, int height, Header header, Rows rows);
    }

    private static Frame from(Path file, Making making) {
        if (FrameFiles.isFits(file.getFileName().toString())) {
            try (FitsBands bands = FitsBands.open(file)) {
                return making.of(bands.width(), bands.height(), bands.header(), bands::rows);
            }
        }
        Frame whole = FrameFiles.readPicture(file);
        return making.of(
                whole.width(),
                whole.height(),
                whole.header(),
                (first, count) -> java.util.Arrays.copyOfRange(
                        whole.pixels(), first * whole.width(), (first + count) * whole.width()));
    }

    private static Frame corners(int width, int height, Header header, Rows rows, int widthPx, int heightPx) {
        int step = Mosaic.of(header).isPresent() ? 2 : 1;
        int across = Math.min((widthPx - 2 * LINE) / 3, width / step / 3);
        int down = Math.min((heightPx - 2 * LINE) / 3, height / step / 3);
        int columns = 3 * across + 2 * LINE;
        int lines = 3 * down + 2 * LINE;
        float[] out = new float[columns * lines];
        java.util.Arrays.fill(out, Float.NaN);
        for (int j = 0; j < 3; j++) {
            float[] band = rows.of(part(j, height, down * step, step), down * step);
            for (int i = 0; i < 3; i++) {
                int left = part(i, width, across * step, step);
                for (int y = 0; y < down; y++) {
                    for (int x = 0; x < across; x++) {
                        out[(j * (down + LINE) + y) * columns + i * (across + LINE) + x] =
                                mean(band, width, left + x * step, y * step, step);
                    }
                }
            }
        }
        return new Frame(columns, lines, out, header);
    }

    /** Where the first, the middle or the last part of a side begins; on a whole cell of a mosaic. */
    private static int part(int which, int side, int length, int step) {
        return which * (side - length) / 2 / step * step;
    }

    private static float mean(float[] band, int width, int left, int top, int step) {
        double sum = 0;
        for (int y = top; y < top + step; y++) {
            for (int x = left; x < left + step; x++) {
                sum += band[y * width + x];
            }
        }
        return (float) (sum / (step * step));
    }

    private static Frame made(int width, int height, Header header, Rows rows, int mostPx) {
        int cell = Math.max(1, (int) Math.ceil(Math.max(width, height) / (double) mostPx));
        // Whole pairs, as a mosaic has them.
        cell = cell > 1 && cell % 2 == 1 ? cell + 1 : cell;
        int columns = Math.max(1, width / cell);
        int lines = Math.max(1, height / cell);
        float[] out = new float[columns * lines];
        for (int line = 0; line < lines; line++) {
            int count = Math.min(Math.min(ROWS, cell), height - line * cell);
            float[] band = rows.of(line * cell, count);
            for (int column = 0; column < columns; column++) {
                out[line * columns + column] =
                        patch(band, width, column * cell, Math.min(width, (column + 1) * cell), count);
            }
        }
        return new Frame(columns, lines, out, header);
    }

    /** Half mean, half brightest, as {@code PictureLevels} does it. */
    private static float patch(float[] band, int width, int from, int until, int rows) {
        double sum = 0;
        double most = Double.NEGATIVE_INFINITY;
        int n = 0;
        for (int row = 0; row < rows; row++) {
            for (int x = from; x < until; x++) {
                float v = band[row * width + x];
                if (Float.isFinite(v)) {
                    sum += v;
                    most = Math.max(most, v);
                    n++;
                }
            }
        }
        return n == 0 ? Float.NaN : (float) ((2 * sum / n + most) / 3);
    }
}
