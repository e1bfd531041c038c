package app.ironside.wiring;

import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.journal.Journal;
import app.ironside.logbook.NightEntry;
import app.ironside.night.FrameArchive;
import app.ironside.night.NightControl;
import app.ironside.night.NightWork;
import app.ironside.sim.SimulatedObservatory;
import java.util.Optional;

/**
 * A night put together and ready to run.
 *
 * @param control by which it is told what to do while it runs
 * @param observatory the simulated one, if the night is a rehearsal
 */
public record NightRun(
        NightFile file,
        NightEntry entry,
        NightWork engine,
        NightControl control,
        NightClock clock,
        Journal journal,
        FrameArchive archive,
        Optional<SimulatedObservatory> observatory) {}
