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
        if (FrameFiles.isFits(file.getFileName().toString())) {
            try (FitsBands bands = FitsBands.open(file)) {
                return made(bands.width(), bands.height(), bands.header(), bands::rows, mostPx);
            }
        }
        Frame whole = FrameFiles.readPicture(file);
        return made(
                whole.width(),
                whole.height(),
                whole.header(),
                (first, count) -> java.util.Arrays.copyOfRange(
                        whole.pixels(), first * whole.width(), (first + count) * whole.width()),
                mostPx);
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
