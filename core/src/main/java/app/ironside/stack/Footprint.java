package app.ironside.stack;

import app.ironside.solve.PlaneTransform;

/**
 * Where a sub lies on a stack.
 *
 * @param lies from the stack's pixels to the sub's
 * @param width pixels of the sub
 */
public record Footprint(PlaneTransform lies, int width, int height) {
    /** Whether a place of the stack has a value of the sub, in FITS pixels: resampling needs pixels on all sides. */
    public boolean covers(double x, double y) {
        double sx = lies.x(x, y);
        double sy = lies.y(x, y);
        if (lies.equals(PlaneTransform.IDENTITY)) {
            return sx >= 1 && sx <= width && sy >= 1 && sy <= height;
        }
        return sx >= Lanczos.REACH
                && sx < width - Lanczos.REACH + 1
                && sy >= Lanczos.REACH
                && sy < height - Lanczos.REACH + 1;
    }
}
