package app.ironside.guide;

import java.util.List;

/**
 * How a calibration went.
 *
 * @param residualPx how far the star was seen from the lines through its way, root mean square of both axes
 * @param slackSeconds of pulses that declination took to turn round; 0 if none showed
 * @param expectedWest arcseconds a second that the kit's guide rate gives at this declination
 * @param expectedNorth the same for declination
 * @param west where the star was seen while it was moved west and back, pixels
 * @param north the same for north and back
 */
public record CalibrationReport(
        GuideCalibration calibration,
        double residualPx,
        double slackSeconds,
        double expectedWest,
        double expectedNorth,
        List<Place> west,
        List<Place> north) {
    /** Where the star was seen, pixels. */
    public record Place(double x, double y) {}

    public CalibrationReport {
        west = List.copyOf(west);
        north = List.copyOf(north);
    }

    /** Arcseconds of slack in declination. */
    public double slackArcsec() {
        return slackSeconds * calibration.northArcsecPerSecond();
    }
}
