package app.ironside.image;

import app.ironside.Check;

/**
 * A picture: one value a pixel, row by row, and its header.
 *
 * <p>{@code pixels[row * width + column]} with row and column from 0; the FITS pixel (x, y) is column x − 1 of row y − 1. The
 * first row is the bottom one when shown. NaN means "no data".
 *
 * @param pixels owned by the frame from here on; whoever reads them through {@link #pixels} must not write
 */
@SuppressWarnings("ArrayRecordComponent") // identity is what is wanted: frames are large and are never compared
public record Frame(int width, int height, float[] pixels, Header header) {
    public Frame {
        Check.atLeast("width", width, 1);
        Check.atLeast("height", height, 1);
        if (pixels.length != width * height) {
            throw new IllegalArgumentException(
                    "pixels has " + pixels.length + " values; expected " + width + " x " + height);
        }
    }

    /** The value at FITS pixel (x, y), both from 1. */
    public float at(int x, int y) {
        return pixels[(y - 1) * width + x - 1];
    }

    /** The same pixels under another header. */
    public Frame withHeader(Header other) {
        return new Frame(width, height, pixels, other);
    }
}
