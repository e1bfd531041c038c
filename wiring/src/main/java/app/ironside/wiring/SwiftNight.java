package app.ironside.wiring;

import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.journal.Journal;
import app.ironside.journal.NightState;
import app.ironside.night.NightControl;
import app.ironside.night.NightEngine;
import app.ironside.sim.SimulatedObservatory;

/**
 * A rehearsal without pixels, put together and ready to run: seconds for a night.
 *
 * @param control by which it is told what to do while it runs
 */
public record SwiftNight(
        NightFile file,
        NightEngine engine,
        NightControl control,
        NightClock clock,
        Journal journal,
        SimulatedObservatory observatory) {
    /** How the night stands. */
    public NightState state() {
        return NightState.of(journal.events());
    }
}
