package app.ironside.wiring;

import app.ironside.device.NightClock;
import app.ironside.logbook.NightEntry;
import app.ironside.night.FrameArchive;
import app.ironside.night.Journal;
import app.ironside.night.NightEngine;
import app.ironside.night.NightFile;
import app.ironside.sim.SimulatedObservatory;
import java.util.Optional;

/**
 * A night put together and ready to run.
 *
 * @param observatory the simulated one, if the night is a rehearsal
 */
public record NightRun(
        NightFile file,
        NightEntry entry,
        NightEngine engine,
        NightClock clock,
        Journal journal,
        FrameArchive archive,
        Optional<SimulatedObservatory> observatory) {}
