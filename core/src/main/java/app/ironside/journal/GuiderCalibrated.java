package app.ironside.journal;

import app.ironside.device.Mount;
import app.ironside.guide.CalibrationReport;
import app.ironside.guide.GuideCalibration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * How the guide star moves for pulses, pixels a second along x and y, was measured.
 *
 * @param details how that went, where the journal tells it
 */
public record GuiderCalibrated(
        Instant time,
        String text,
        double westX,
        double westY,
        double northX,
        double northY,
        double axesAngleDeg,
        Optional<Details> details)
        implements NightEvent {
    /**
     * How a calibration went.
     *
     * @param arcsecPerPixel of the guide camera
     * @param declinationDeg where it was measured
     * @param residualPx how far the star was seen from the lines through its way
     * @param slackSeconds of pulses that declination took to turn round
     * @param expectedWest arcseconds a second that the kit's guide rate gives there
     * @param expectedNorth the same for declination
     * @param west where the star was seen while it was moved west and back, pixels
     * @param north the same for north
     * @param kept whether an earlier night's was found true and taken
     */
    public record Details(
            double arcsecPerPixel,
            double declinationDeg,
            Mount.PierSide side,
            double residualPx,
            double slackSeconds,
            double expectedWest,
            double expectedNorth,
            List<CalibrationReport.Place> west,
            List<CalibrationReport.Place> north,
            boolean kept) {
        public Details {
            west = List.copyOf(west);
            north = List.copyOf(north);
        }
    }

    /** As it can be taken on another night; empty where the journal does not tell enough. */
    public Optional<GuideCalibration> calibration() {
        return details.map(
                d -> new GuideCalibration(westX, westY, northX, northY, d.arcsecPerPixel(), d.declinationDeg()));
    }

    @Override
    public Stage station() {
        return Stage.GUIDE;
    }
}
