package app.ironside.wiring;

import app.ironside.Provenance;
import app.ironside.Workers;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.document.NightFile;
import app.ironside.journal.AxisMeasured;
import app.ironside.journal.KnobsTurned;
import app.ironside.journal.NightEvent;
import app.ironside.night.NightWatcher;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sky.NightTimes;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** The simulated observatory, on a virtual clock that begins at sunset. */
final class RehearsalVenue implements Venue {
    /** After a stop, a rehearsal goes on this much later: what a person needs to start again. */
    private static final Duration RESTART = Duration.ofMinutes(4);

    private final SkySource sky;
    private final SimulatedObservatory.Frames frames;
    private final Workers workers;
    private final Function<Instant, ? extends NightClock> clock;

    /**
     * @param frames whether they have pixels
     * @param clock made for the instant at which the night begins or goes on
     */
    RehearsalVenue(
            SkySource sky,
            SimulatedObservatory.Frames frames,
            Workers workers,
            Function<Instant, ? extends NightClock> clock) {
        this.sky = sky;
        this.frames = frames;
        this.workers = workers;
        this.clock = clock;
    }

    @Override
    public Prepared prepare(NightFile file, List<NightEvent> before, NightWatcher watcher) {
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        Instant sunset = times.sunset().orElse(times.night().from());
        Instant start =
                before.isEmpty() ? sunset : before.get(before.size() - 1).time().plus(RESTART);
        NightClock running = clock.apply(start);
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        SimulatedObservatory observatory =
                new SimulatedObservatory(file.site(), file.kit(), settings, sky, running, sunset, frames, workers);
        leaveBaseAsItWas(observatory, settings, before);
        Devices simulated = observatory.devices();
        return new Prepared(
                simulated.withHands(new WatchedHands(watcher, simulated.hands())),
                running,
                observatory.gauge(),
                Provenance.REHEARSED,
                Optional.of(observatory));
    }

    /** The polar axis of a rehearsal that goes on: where it was measured last, with the knobs turned since. */
    private static void leaveBaseAsItWas(
            SimulatedObservatory observatory, SimSettings settings, List<NightEvent> before) {
        for (NightEvent event : before) {
            if (event instanceof AxisMeasured axis) {
                double[] now = observatory.polarErrorArcmin();
                observatory.moveAxis(axis.altitudeErrorArcmin() - now[0], axis.azimuthErrorArcmin() - now[1]);
            } else if (event instanceof KnobsTurned knobs) {
                observatory.moveAxis(
                        knobs.altitudeTurns() * settings.altitudeKnobArcmin(),
                        knobs.azimuthTurns() * settings.azimuthKnobArcmin());
            }
        }
    }
}
