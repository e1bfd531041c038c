package app.ironside.journal;

import app.ironside.solve.LightMap;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * What the pixels of a sub tell.
 *
 * @param hfrPx median half-flux radius, if there are stars
 * @param fwhmPx median full width at half maximum, if there are stars
 * @param eccentricity median of the stars, 0 to 1, if there are any
 * @param backgroundAdu level between the stars
 * @param noiseAdu of a background pixel
 * @param skyAdu background above an unexposed pixel, where the journal tells it
 * @param starFluxAdu median of its bright stars, by which thin cloud shows, where the journal tells it
 * @param field how star shapes differ over the frame, for subs read out whole
 * @param slopeAdu by how much its background is brighter on one side than on the other, where the journal tells it
 * @param light how its light lies over the sensor against the target's first sub, where stars tell
 */
public record SubMeasures(
        int widthPx,
        int stars,
        OptionalDouble hfrPx,
        OptionalDouble fwhmPx,
        OptionalDouble eccentricity,
        double backgroundAdu,
        double noiseAdu,
        OptionalDouble skyAdu,
        OptionalDouble starFluxAdu,
        Optional<FieldShape> field,
        Optional<LightMap> light,
        OptionalDouble slopeAdu) {
    /**
     * Star shapes over the frame.
     *
     * @param trailing by which share stars are longer than wide in one common direction
     * @param trailingAngleDeg that direction
     * @param findings sentences
     */
    public record FieldShape(double trailing, double trailingAngleDeg, List<String> findings) {
        public FieldShape {
            findings = List.copyOf(findings);
        }
    }
}
