package app.ironside.stack;

import app.ironside.solve.PlaneTransform;

/**
 * Where a sub lies on a stack.
 *
 * @param lies from the stack's pixels to the sub's
 * @param width pixels of the sub
 */
public record Footprint(PlaneTransform lies, int width, int height) {
    /** Whether a place of the stack is on the sub, in FITS pixels. */
    public boolean covers(double x, double y) {
        double sx = lies.x(x, y);
        double sy = lies.y(x, y);
        return sx >= 1 && sx <= width && sy >= 1 && sy <= height;
    }
}
