package app.ironside.wiring;

import app.ironside.Workers;
import app.ironside.device.DeviceDriver;
import app.ironside.device.Devices;
import app.ironside.device.NightClock;
import app.ironside.logbook.Logbook;
import app.ironside.logbook.NightEntry;
import app.ironside.night.EventKind;
import app.ironside.night.FrameArchive;
import app.ironside.night.Journal;
import app.ironside.night.NightContext;
import app.ironside.night.NightEngine;
import app.ironside.night.NightEvent;
import app.ironside.night.NightFile;
import app.ironside.night.NightRecord;
import app.ironside.night.NightWatcher;
import app.ironside.night.ReadyList;
import app.ironside.plan.WeatherForecast;
import app.ironside.sim.SimSettings;
import app.ironside.sim.SimWeather;
import app.ironside.sim.SimulatedObservatory;
import app.ironside.sim.SkySource;
import app.ironside.sky.DeepSkyCatalogue;
import app.ironside.sky.NightTimes;
import app.ironside.sky.StarCatalogue;
import app.ironside.sky.StarSource;
import app.ironside.solve.PlateSolver;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.function.Function;

/** The one place that decides what a night is made of. */
public final class Wiring {
    /** After a stop, a rehearsal goes on this much later: what a person needs to start again. */
    private static final Duration RESTART = Duration.ofMinutes(4);

    private final StarCatalogue stars;
    private final DeepSkyCatalogue objects;
    private final Workers workers;

    public Wiring(Workers workers) {
        this.stars = StarCatalogue.hipparcos();
        this.objects = DeepSkyCatalogue.load();
        this.workers = workers;
    }

    public DeepSkyCatalogue objects() {
        return objects;
    }

    public StarCatalogue stars() {
        return stars;
    }

    /** The catalogue's stars, with invented ones below its reach. */
    public StarSource starSource() {
        return new SkySource(stars, objects);
    }

    /** The weather service of a night: the simulated one. */
    public WeatherForecast weather(NightFile file) {
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        return new SimWeather(
                file.site(),
                file.observatoryOver(SimSettings.DEFAULT, SimSettings.class),
                times.sunset().orElse(times.night().from()));
    }

    /** Drivers of real devices found beside the application. */
    public List<DeviceDriver> drivers() {
        return ServiceLoader.load(DeviceDriver.class).stream()
                .map(ServiceLoader.Provider::get)
                .toList();
    }

    /**
     * A rehearsal: the engine against a simulated observatory.
     *
     * @param seed replaces the file's
     * @param clock made for the instant at which the night begins or goes on
     */
    public NightRun rehearsal(
            NightFile file,
            Logbook logbook,
            NightEntry entry,
            Optional<Long> seed,
            Function<Instant, ? extends NightClock> clock,
            NightWatcher watcher) {
        Journal journal = logbook.journal(entry);
        List<NightEvent> before = journal.events();
        NightTimes times = NightTimes.of(file.site(), file.program().date());
        Instant sunset = times.sunset().orElse(times.night().from());
        Instant start =
                before.isEmpty() ? sunset : before.get(before.size() - 1).time().plus(RESTART);
        NightClock running = clock.apply(start);
        SimSettings settings = file.observatoryOver(SimSettings.DEFAULT, SimSettings.class);
        SimulatedObservatory observatory = new SimulatedObservatory(
                file.site(),
                file.kit(),
                seed.map(settings::withSeed).orElse(settings),
                new SkySource(stars, objects),
                running,
                sunset,
                workers);
        leaveBaseAsItWas(observatory, settings, before);
        return assemble(
                file,
                entry,
                journal,
                running,
                observatory.devices(),
                watcher,
                logbook.focusPositions(file.kit().name(), entry),
                Optional.of(observatory));
    }

    /** The polar axis of a rehearsal that goes on: where it was measured last, with the knobs turned since. */
    private static void leaveBaseAsItWas(
            SimulatedObservatory observatory, SimSettings settings, List<NightEvent> before) {
        for (NightEvent event : before) {
            if (event.kind() == EventKind.POLAR) {
                double[] now = observatory.polarErrorArcmin();
                observatory.moveAxis(
                        event.number("altitudeErrorArcmin").orElse(now[0]) - now[0],
                        event.number("azimuthErrorArcmin").orElse(now[1]) - now[1]);
            } else if (event.kind() == EventKind.KNOBS) {
                observatory.moveAxis(
                        event.number("altitudeTurns").orElse(0) * settings.altitudeKnobArcmin(),
                        event.number("azimuthTurns").orElse(0) * settings.azimuthKnobArcmin());
            }
        }
    }

    private NightRun assemble(
            NightFile file,
            NightEntry entry,
            Journal journal,
            NightClock clock,
            Devices devices,
            NightWatcher watcher,
            List<Double> earlierFocus,
            Optional<SimulatedObservatory> observatory) {
        FrameArchive archive = new FrameArchive(entry.folder());
        NightContext context = new NightContext(
                file.site(),
                file.kit(),
                file.program(),
                devices,
                clock,
                archive,
                new NightRecord(journal, clock, watcher),
                new PlateSolver(stars),
                workers,
                ReadyList.of(file.site(), file.kit(), file.program(), file.lessons()),
                earlierFocus);
        return new NightRun(file, entry, new NightEngine(context), clock, journal, archive, observatory);
    }
}
