package app.ironside.wiring;

import app.ironside.Provenance;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.journal.NightEvent;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.star.FrameGauge;
import java.util.List;
import java.util.Optional;

/** Where a night takes place: with which devices and by which clock. A rehearsal and a real night are the two that there are. */
interface Venue {
    /**
     * Puts the devices together for a night that begins, or goes on.
     *
     * @param before what the journal tells already
     * @throws app.ironside.BadInputException saying what is missing
     * @throws app.ironside.device.DeviceException naming a device that does not answer
     */
    Prepared prepare(NightFile file, List<NightEvent> before, NightWatcher watcher);

    /**
     * Devices with the clock that they live by.
     *
     * @param gauge what their frames are measured with
     * @param provenance what is measured with them serves other nights of the same kind only
     * @param observatory the simulated one, in a rehearsal
     */
    record Prepared(
            Devices devices,
            NightClock clock,
            FrameGauge gauge,
            Provenance provenance,
            Optional<SimulatedObservatory> observatory) {}
}
