package app.ironside.stack;

import app.ironside.calibrate.Calibrator;
import app.ironside.image.FitsBands;
import app.ironside.star.StarField;

/**
 * A sub on its way into the stack: its open file, its calibration, and what was measured in it.
 *
 * @param noise of its background in blocks
 */
record Sub(FitsBands source, Calibrator calibrator, StarField field, BlockNoise.Measured noise) {
    /** Rows of the calibrated sub. */
    float[] rows(int firstRow, int rows) {
        float[] values = source.rows(firstRow, rows);
        calibrator.apply(values, source.width(), firstRow);
        return values;
    }

    /** The better a sub, the lower: soft or noisy subs make poor references. */
    double referenceCost() {
        double hfr = field.medianHalfFluxRadiusPx().orElse(99);
        double eccentricity = field.medianEccentricity().orElse(1);
        return hfr * (1 + eccentricity) / Math.sqrt(Math.max(1, field.stars().size()));
    }
}
