package app.ironside.night;

import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Device;
import app.ironside.device.DeviceException;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.document.ReadyList;
import app.ironside.journal.Stage;
import app.ironside.journal.SubTaken;
import app.ironside.kit.Kit;
import app.ironside.plan.Program;
import app.ironside.sky.Observer;
import app.ironside.sky.Site;
import app.ironside.solve.PlateSolver;
import app.ironside.solve.Wcs;
import app.ironside.star.DetectSettings;
import app.ironside.star.FrameGauge;
import app.ironside.star.StarSearch;
import java.util.Optional;

/**
 * Everything that the stages of one night share.
 *
 * @param gauge what frames are measured with
 * @param readyList the steps by which the kit is brought up
 * @param earlier what the kit's other nights have taught
 * @param provenance whether devices and sky are real
 * @param control by which the night is told what to do
 * @param silent whether what is wrong is left for the person to find: an exercise
 */
public record NightContext(
        Site site,
        Kit kit,
        ProgramInForce inForce,
        Devices devices,
        NightClock clock,
        FrameArchive archive,
        NightRecord record,
        FrameGauge gauge,
        PlateSolver solver,
        Workers workers,
        ReadyList readyList,
        Earlier earlier,
        Provenance provenance,
        NightControl control,
        boolean silent) {
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
                record.fault(stage, e);
            }
        }
    }

    /** Of whole frames: as the last recognised sub showed it, else as the kit says. */
    double scaleArcsecPerPixel() {
        return record.state()
                .last(SubTaken.class)
                .flatMap(SubTaken::wcs)
                .map(Wcs::scaleArcsecPerPixel)
                .orElseGet(kit()::arcsecPerPixel);
    }

    /** After how many whole frames of a leg a rehearsal reads out the sensor's middle only; a real night keeps all its light. */
    Optional<Integer> wholeFramesPerLeg() {
        return provenance.isReal() ? Optional.empty() : program().fullFramesPerLeg();
    }

    StarSearch finder() {
        return gauge.search(DetectSettings.DEFAULT);
    }

    /** Measures all stars, without their profiles. */
    StarSearch shapeFinder() {
        return gauge.search(DetectSettings.DEFAULT.withoutProfiles());
    }

    /** Measures the brightest stars only, for what has to be quick. */
    StarSearch quickFinder() {
        return gauge.search(DetectSettings.BRIGHTEST);
    }

    Observer observer() {
        return Observer.at(site);
    }
}
