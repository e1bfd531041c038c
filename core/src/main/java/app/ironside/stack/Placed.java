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
    Footprint footprint() {
        return new Footprint(transform, sub.source().width(), sub.source().height());
    }

    double signalToNoise() {
        return light / Math.max(1e-9, sub.look().blocks().noiseAdu());
    }
}
