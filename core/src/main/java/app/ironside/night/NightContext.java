package app.ironside.night;

import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.document.ReadyList;
import app.ironside.journal.Stage;
import app.ironside.kit.Kit;
import app.ironside.plan.Program;
import app.ironside.point.PointingModel;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.PlateSolver;
import app.ironside.star.DetectSettings;
import app.ironside.star.StarFinder;
import java.util.List;
import java.util.Optional;

/**
 * Everything that the stages of one night share.
 *
 * @param readyList the steps by which the kit is brought up
 * @param earlierFocusSteps where the kit focused on other nights
 * @param pointingModel of the kit's mount, if one is kept
 * @param provenance whether devices and sky are real
 * @param control by which the night is told what to do
 */
public record NightContext(
        Site site,
        Kit kit,
        ProgramInForce inForce,
        Devices devices,
        NightClock clock,
        FrameArchive archive,
        NightRecord record,
        PlateSolver solver,
        Workers workers,
        ReadyList readyList,
        List<Double> earlierFocusSteps,
        Optional<PointingModel> pointingModel,
        Provenance provenance,
        NightControl control) {
    /** What the night is to do, as it stands now. */
    Program program() {
        return inForce.program();
    }

    /** Devices that were lost and answer again are connected anew, and it is told; for the others the night goes on waiting. */
    void takeBackLost(Stage stage) {
        for (Device device : devices.lost()) {
            try {
                device.connect();
                record.fault(stage, "The " + device.name() + " answers again.");
            } catch (DeviceException e) {
                record.fault(stage, e.getMessage());
            }
        }
    }

    StarFinder finder() {
        return new StarFinder(DetectSettings.DEFAULT, workers);
    }

    /** Measures all stars, without their profiles. */
    StarFinder shapeFinder() {
        return new StarFinder(DetectSettings.DEFAULT.withoutProfiles(), workers);
    }

    /** Measures the brightest stars only, for what has to be quick. */
    StarFinder quickFinder() {
        return new StarFinder(DetectSettings.BRIGHTEST, workers);
    }

    Observer observer() {
        return Observer.at(site);
    }
}
