package app.ironside.watch;

import app.ironside.judge.Grade;
import java.time.Instant;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * A sub as it is watched.
 *
 * @param trailing by which share its stars are longer than wide in one common direction
 * @param trailAngleDeg that direction, from +x toward +y
 * @param xArcmin where the field's middle lies from the first sub's, along +x, if that is known; of a night that dithers, without the dither
 * @param yArcmin as x
 * @param hourAngleDeg of the target; negative before the meridian
 * @param signs what is known besides its stars, of a night that Ironside runs
 */
public record Watched(
        Grade grade,
        double trailing,
        double trailAngleDeg,
        OptionalDouble xArcmin,
        OptionalDouble yArcmin,
        OptionalDouble hourAngleDeg,
        Optional<Signs> signs) {
    Instant time() {
        return grade.sub().time().orElse(Instant.EPOCH);
    }
}
