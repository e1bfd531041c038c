package app.ironside.plan;

import app.ironside.Check;

/**
 * Calibration frames at the end of the night.
 *
 * @param flatLevel wanted level of flats as a share of full range (one school: 0.33 to 0.5)
 */
public record Calibrations(int darks, int bias, int flatsPerFilter, double flatLevel) {
    public Calibrations {
        Check.atLeast("darks", darks, 0);
        Check.atLeast("bias", bias, 0);
        Check.atLeast("flatsPerFilter", flatsPerFilter, 0);
        Check.inRange("flatLevel", flatLevel, 0.05, 0.9);
    }
}
