package app.ironside.plan;

import app.ironside.Check;

/**
 * Calibration frames at the end of the night.
 *
 * @param flatLevel wanted level of flats as a share of full range (one school: 0.33 to 0.5)
 */
public record Calibrations(int darks, int bias, int flatsPerFilter, double flatLevel) {
    private static final int MOST = 2000;

    /** Frames in a set of a kind. */
    public int of(CalibrationPlan.Kind kind) {
        return switch (kind) {
            case DARK -> darks;
            case BIAS -> bias;
            case FLAT -> flatsPerFilter;
        };
    }

    /** With another number in the sets of a kind. */
    public Calibrations with(CalibrationPlan.Kind kind, int count) {
        return switch (kind) {
            case DARK -> new Calibrations(count, bias, flatsPerFilter, flatLevel);
            case BIAS -> new Calibrations(darks, count, flatsPerFilter, flatLevel);
            case FLAT -> new Calibrations(darks, bias, count, flatLevel);
        };
    }

    public Calibrations {
        Check.inRange("darks", darks, 0, MOST);
        Check.inRange("bias", bias, 0, MOST);
        Check.inRange("flatsPerFilter", flatsPerFilter, 0, MOST);
        Check.inRange("flatLevel", flatLevel, 0.05, 0.9);
    }
}
