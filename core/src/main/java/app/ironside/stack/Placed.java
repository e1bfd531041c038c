package app.ironside.stack;

import app.ironside.solve.PlaneTransform;
import java.util.List;

/**
 * A sub with where it lies on the reference and what it counts.
 *
 * @param light of its stars over the reference's
 * @param weight light² over noise²: ideal for faint light
 * @param levellings to the reference's sky, one for each plane
 */
record Placed(Sub sub, PlaneTransform transform, double light, double weight, List<Levelling> levellings) {
    /** @param scale pixels of the stack along one of the grid that subs are laid on */
    Footprint footprint(double scale) {
        return new Footprint(
                scale == 1 ? transform : transform.finer(scale),
                sub.source().width(),
                sub.source().height());
    }

    double signalToNoise() {
        return light / Math.max(1e-9, sub.look().blocks().noiseAdu());
    }
}
