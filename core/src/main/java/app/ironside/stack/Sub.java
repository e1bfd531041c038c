package app.ironside.stack;

import app.ironside.calibrate.Calibrator;
import app.ironside.image.FitsBands;
import app.ironside.image.Mosaic;
import app.ironside.judge.Looks;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * A sub on its way into the stack: its open file, its calibration, and what was measured in it.
 *
 * @param skies its background, one for each plane of the stack
 */
record Sub(FitsBands source, Calibrator calibrator, Optional<Mosaic> mosaic, Looks.Measured look, List<SkyGrid> skies) {
    /** Rows of the calibrated sub, of one colour. */
    float[] rows(int firstRow, int rows, Mosaic.Plane plane) {
        if (mosaic.isEmpty()) {
            return calibrated(firstRow, rows);
        }
        // The colour of a row's pixels may stand in the rows beside it.
        int below = Math.min(1, firstRow);
        int above = Math.min(1, source.height() - firstRow - rows);
        float[] raw = calibrated(firstRow - below, rows + below + above);
        float[] colour = mosaic.get().plane(raw, source.width(), firstRow - below, plane);
        return Arrays.copyOfRange(colour, below * source.width(), (below + rows) * source.width());
    }

    /** Rows of the calibrated sub as the sensor saw them, colours side by side. */
    float[] calibrated(int firstRow, int rows) {
        float[] values = source.rows(firstRow, rows);
        calibrator.apply(values, source.width(), firstRow);
        return values;
    }

    /** The better a sub, the lower: soft or noisy subs make poor references. */
    double referenceCost() {
        double hfr = look.field().medianHalfFluxRadiusPx().orElse(99);
        double eccentricity = look.field().medianEccentricity().orElse(1);
        return hfr
                * (1 + eccentricity)
                / Math.sqrt(Math.max(1, look.field().stars().size()));
    }
}
