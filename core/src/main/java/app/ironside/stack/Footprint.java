package app.ironside.stack;

import app.ironside.solve.PlaneTransform;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

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

    /** How far a corner lies from where shift, turn and scale of the middle put it, pixels; 0 where nothing bends. */
    public double bendPx() {
        return lies.farthestFrom(lies.plane(), width, height);
    }

    /** What of the subs of a stack needed more than shift, turn and scale, in a sentence; empty if none did. */
    public static Optional<String> bends(List<Footprint> all) {
        long bent = all.stream().filter(f -> f.lies().bend().isPresent()).count();
        double most = all.stream().mapToDouble(Footprint::bendPx).max().orElse(0);
        return bent == 0
                ? Optional.empty()
                : Optional.of(String.format(
                        Locale.ROOT,
                        "%d of %d lights were bent to lie on the others: their corners are up to %.1f px from where shift, turn and scale"
                                + " put them.",
                        bent,
                        all.size(),
                        most));
    }
}
